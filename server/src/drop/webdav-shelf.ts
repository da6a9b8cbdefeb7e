import { createClient, type WebDAVClient } from 'webdav';
import { sha256 } from '../store/blobs.js';
import { ShelfFault, type Shelf } from './shelf.js';

/** Milliseconds that one answer may take. */
const TIME_LIMIT = 30_000;

/** A WebDAV address (RFC 4918). */
export class WebDavShelf implements Shelf {
  private readonly client: WebDAVClient;
  private readonly made = new Set<string>();

  constructor(url: string, user: string, password: string) {
    this.client = createClient(url, { username: user, password });
  }

  async hashAt(file: string): Promise<string | null> {
    return doing(async (signal) => {
      try {
        return sha256(
          Buffer.from((await this.client.getFileContents(`/${file}`, { signal })) as ArrayBuffer),
        );
      } catch (error) {
        // 409 is said where a folder above is not there.
        if (statusOf(error) === 404 || statusOf(error) === 409) return null;
        throw error;
      }
    });
  }

  async put(file: string, bytes: Buffer): Promise<void> {
    await doing(async (signal) => {
      const folder = file.split('/').slice(0, -1).join('/');
      await this.makeFolder(folder, signal);
      await this.client.putFileContents(`/${file}`, bytes, {
        overwrite: true,
        signal,
        headers: { 'content-type': 'application/pdf' },
      });
    });
  }

  /** The address itself may name a folder that is not there yet. */
  private async makeFolder(folder: string, signal: AbortSignal): Promise<void> {
    if (this.made.has(folder)) return;
    if (!this.made.has('')) {
      if (!(await this.client.exists('/', { signal }))) await this.client.createDirectory('/', { signal });
      this.made.add('');
    }
    if (folder !== '' && !(await this.client.exists(`/${folder}`, { signal })))
      await this.client.createDirectory(`/${folder}`, { recursive: true, signal });
    this.made.add(folder);
  }

  async remove(file: string): Promise<void> {
    await doing(async (signal) => {
      try {
        await this.client.deleteFile(`/${file}`, { signal });
      } catch (error) {
        if (statusOf(error) !== 404) throw error;
      }
    });
  }
}

const statusOf = (error: unknown): number | undefined => (error as { status?: number }).status;

const WHY: Readonly<Record<number, string>> = {
  401: 'Name or password are not right.',
  403: 'This account may not write there.',
  404: 'There is no such folder.',
  405: 'It does not take files; is it a WebDAV address?',
  409: 'A folder above is not there.',
  413: 'A paper is too large for it.',
  423: 'A file there is locked by somebody.',
  507: 'Its disk is full.',
};

async function doing<T>(work: (signal: AbortSignal) => Promise<T>): Promise<T> {
  try {
    return await work(AbortSignal.timeout(TIME_LIMIT));
  } catch (error) {
    const status = statusOf(error);
    if (status === undefined)
      throw new ShelfFault(
        'The WebDAV address cannot be reached. Look whether it is right, and whether its server runs.',
      );
    throw new ShelfFault(
      `The WebDAV address does not take papers: it answered ${status}. ${WHY[status] ?? 'Ask whoever looks after it.'}`,
    );
  }
}
