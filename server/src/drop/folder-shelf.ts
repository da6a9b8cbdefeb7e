import { mkdir, readFile, realpath, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { sha256 } from '../store/blobs.js';
import { newId } from '../store/id.js';
import { ShelfFault, type Shelf } from './shelf.js';

/** A folder on this machine. Nothing is written outside of it, also where a folder in it is a link to elsewhere. */
export class FolderShelf implements Shelf {
  constructor(private readonly root: string) {}

  async hashAt(file: string): Promise<string | null> {
    const at = await this.place(file);
    return doing('read', async () => {
      try {
        return sha256(await readFile(at));
      } catch (error) {
        if (codeOf(error) === 'ENOENT') return null;
        throw error;
      }
    });
  }

  async put(file: string, bytes: Buffer): Promise<void> {
    const at = await this.place(file);
    // Beside it first, so that nobody ever finds half a paper.
    const beside = `${at}.${newId()}.part`;
    await doing('written', async () => {
      try {
        await writeFile(beside, bytes, { flag: 'wx' });
        await rename(beside, at);
      } finally {
        await rm(beside, { force: true });
      }
    });
  }

  async remove(file: string): Promise<void> {
    const at = await this.place(file);
    await doing('taken away', () => rm(at, { force: true }));
  }

  private async place(file: string): Promise<string> {
    return doing('reached', async () => {
      const at = path.resolve(this.root, ...file.split('/'));
      if (!within(path.resolve(this.root), at)) throw new Error('outside');
      await mkdir(path.dirname(at), { recursive: true });
      const [root, folder] = await Promise.all([realpath(this.root), realpath(path.dirname(at))]);
      if (root !== folder && !within(root, folder)) throw new Error('outside');
      return path.join(folder, path.basename(at));
    });
  }
}

const within = (root: string, file: string): boolean =>
  file.startsWith(root.endsWith(path.sep) ? root : root + path.sep);
const codeOf = (error: unknown): string => (error as NodeJS.ErrnoException).code ?? '';

const WHY: Readonly<Record<string, string>> = {
  ENOSPC: 'The disk is full.',
  EDQUOT: 'The disk is full.',
  EACCES: 'Scriptum may not write there.',
  EPERM: 'Scriptum may not write there.',
  EROFS: 'Nothing can be written there.',
  ENOTDIR: 'A file stands in the place of a folder.',
  EISDIR: 'A folder stands in the place of the file.',
  ENAMETOOLONG: 'A name is too long for the disk.',
};

async function doing<T>(what: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const why = WHY[codeOf(error)] ?? 'Ask whoever looks after Scriptum.';
    throw new ShelfFault(`The folder cannot be ${what}. ${why}`);
  }
}
