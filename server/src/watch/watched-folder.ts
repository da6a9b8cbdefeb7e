import { constants } from 'node:fs';
import { open, readdir, realpath, stat } from 'node:fs/promises';
import path from 'node:path';
import { tooLargeToWatch, WatchFault, type Found, type Known } from './watched-place.js';

/** Files that are named to choose from, and folders that are looked into for them. */
const TOLD = 200;
const FOLDERS = 50;
const SHEETS = /\.(?:csv|tsv|txt|xlsx|xlsm|xls|ods|zip)$/i;
/** What programs put beside a file while it is open, or being written. */
const BESIDE = /^(?:~\$|\.)|\.(?:part|tmp|crdownload|filepart)$/i;

/** A file in a folder of this machine. Nothing is read outside of that folder, also where something in it is a link to elsewhere. */
export class WatchedFolder {
  /** @param root the school's own folder. */
  constructor(
    private readonly root: string,
    private readonly most: number,
  ) {}

  /**
   * The file at a path, once it has stayed as it is from one look to the next.
   *
   * @param file with a `/` between folders; where a `*` stands in its name the newest of these files.
   * @throws WatchFault
   */
  async find(file: string, known: Known): Promise<Found> {
    const at = await this.newest(file);
    // Whoever made a pipe of it does not hold us up.
    const handle = await doing(() => open(at, constants.O_RDONLY | constants.O_NONBLOCK));
    try {
      const there = await doing(() => handle.stat());
      const { size, mtimeMs } = there;
      if (!there.isFile()) throw new WatchFault('What lies there is not a file.');
      if (size > this.most) throw tooLargeToWatch(this.most);
      const name = path.basename(at);
      const stamp = `${name} ${size} ${mtimeMs}`;
      if (stamp === known.stamp && known.isRead) return { kind: 'same' };
      if (stamp !== known.stamp) return { kind: 'settling', stamp };
      const bytes = await readAll(handle, size);
      const after = await doing(() => handle.stat());
      // Somebody writes at this very moment.
      if (bytes.length !== size || after.size !== size || after.mtimeMs !== mtimeMs)
        return { kind: 'settling', stamp: `${name} ${after.size} ${after.mtimeMs}` };
      return { kind: 'file', name, bytes, stamp };
    } finally {
      await handle.close();
    }
  }

  /** Names of sheets that lie there, those in folders with these before them. */
  async list(): Promise<string[]> {
    const found: string[] = [];
    const folders = [''];
    for (let n = 0; n < Math.min(folders.length, FOLDERS) && found.length < TOLD; n++) {
      const folder = folders[n]!;
      const inside = await readdir(path.join(this.root, folder), { withFileTypes: true }).catch(() => []);
      for (const one of inside.sort((a, b) => a.name.localeCompare(b.name))) {
        const name = folder === '' ? one.name : `${folder}/${one.name}`;
        if (one.isDirectory() && !one.name.startsWith('.')) folders.push(name);
        else if (one.isFile() && SHEETS.test(one.name) && !BESIDE.test(one.name)) found.push(name);
      }
    }
    return found.slice(0, TOLD);
  }

  private async newest(file: string): Promise<string> {
    const parts = file.split(/[/\\]/);
    const name = parts.pop()!;
    const folder = path.resolve(this.root, ...parts);
    if (!name.includes('*'))
      return this.within(path.join(folder, name), `There is no file “${file}” in the folder.`);
    const inside = await doing(
      async () => readdir(await this.within(folder, `There is no folder “${parts.join('/')}”.`)),
      `There is no folder “${parts.join('/')}”.`,
    );
    const like = new RegExp(`^${name.split('*').map(literal).join('.*')}$`, 'isu');
    let newest: { at: string; time: number } | null = null;
    for (const one of inside.filter((each) => like.test(each) && !BESIDE.test(each)).sort()) {
      const at = await this.within(path.join(folder, one), '').catch(() => null);
      const there = at === null ? null : await stat(at).catch(() => null);
      if (at !== null && there?.isFile() && there.mtimeMs >= (newest?.time ?? -Infinity))
        newest = { at, time: there.mtimeMs };
    }
    if (!newest) throw new WatchFault(`There is no file like “${file}” in the folder.`);
    return newest.at;
  }

  /** Where a path really leads. */
  private async within(at: string, absent: string): Promise<string> {
    const [root, real] = await doing(async () => Promise.all([realpath(this.root), realpath(at)]), absent);
    if (real !== root && !real.startsWith(root.endsWith(path.sep) ? root : root + path.sep))
      throw new WatchFault('What lies there is a link to elsewhere, and is not read.');
    return real;
  }
}

/** As many bytes as the file had, and one more where there is one. */
async function readAll(
  handle: { read(into: Buffer, offset: number, length: number, at: number): Promise<{ bytesRead: number }> },
  size: number,
): Promise<Buffer> {
  const bytes = Buffer.alloc(size + 1);
  let at = 0;
  for (;;) {
    const { bytesRead } = await doing(() => handle.read(bytes, at, bytes.length - at, at));
    at += bytesRead;
    if (bytesRead === 0 || at === bytes.length) return bytes.subarray(0, at);
  }
}

const literal = (text: string): string => text.replace(/[.+?^${}()|[\]\\]/g, '\\$&');

const WHY: Readonly<Record<string, string>> = {
  EACCES: 'Scriptum may not read it. Whoever looks after the folder has to allow it.',
  EPERM: 'Scriptum may not read it. Whoever looks after the folder has to allow it.',
  EISDIR: 'What lies there is a folder. Write the name of the file behind it.',
  ENAMETOOLONG: 'The name is too long for the disk.',
  ELOOP: 'What lies there is a link that leads to itself.',
};

async function doing<T>(work: () => Promise<T>, absent = 'The file is not there any more.'): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof WatchFault) throw error;
    const code = (error as NodeJS.ErrnoException).code ?? '';
    if (code === 'ENOENT' || code === 'ENOTDIR') throw new WatchFault(absent);
    throw new WatchFault(WHY[code] ?? 'The folder cannot be read. Ask whoever looks after Scriptum.');
  }
}
