import { LRUCache } from 'lru-cache';
import type { EntityManager } from 'typeorm';
import type { Part } from '../process/messages.js';
import { ProcessPool } from '../process/process-pool.js';
import { readBlob } from '../store/blobs.js';
import type { LaidOn } from '../store/laid-on.js';
import type { Joined } from './join-files.js';
import type { LeavingTask } from './leaving-child.js';

/** Bytes of PDFs that are kept at hand. */
const KEPT = 60 * 1024 * 1024;
/** Milliseconds that one file may take. */
const TIME_LIMIT = 30_000;
/** Milliseconds that joining many may take. */
const JOIN_LIMIT = 240_000;
const MEMORY_LIMIT = 1024 * 1024 * 1024;
const RETIRE_AT = 400 * 1024 * 1024;

/** A file as it is kept, and what it lies on. */
export interface KeptFile {
  readonly bytes: Buffer;
  readonly laidOn: LaidOn | null;
}

/**
 * Makes kept files whole when they leave: a paper over a PDF is kept without it, since five hundred of them would keep it five
 * hundred times. This is done in processes of their own.
 */
export class Leaving {
  private readonly pool = new ProcessPool<LeavingTask, Uint8Array | Joined>({
    file: new URL('./leaving-child.js', import.meta.url),
    children: 2,
    timeLimit: TIME_LIMIT,
    memoryLimit: MEMORY_LIMIT,
    retireAt: RETIRE_AT,
    ahead: 1,
  });
  private readonly grounds = new LRUCache<string, Buffer>({
    maxSize: KEPT,
    sizeCalculation: ({ length }) => Math.max(1, length),
  });

  /** @param password that opens it, where it is locked. @throws where what it lies on is not there, or it could not be put there; see `WorkEnded`. */
  async whole(
    manager: EntityManager,
    schoolId: string,
    { bytes, laidOn }: KeptFile,
    password?: string,
  ): Promise<Buffer> {
    if (!laidOn && password === undefined) return bytes;
    const parts = laidOn ? await this.parts(manager, schoolId, laidOn.grounds) : [];
    const whole = await this.pool.run({ file: bytes, laidOn, password }, { tenant: schoolId, parts });
    return asBuffer(whole as Uint8Array);
  }

  /** A file that a password opens; see `lockFile`. */
  async locked(bytes: Buffer, password: string, schoolId: string): Promise<Buffer> {
    const locked = await this.pool.run(
      { file: bytes, laidOn: null, password },
      { tenant: schoolId, parts: [] },
    );
    return asBuffer(locked as Uint8Array);
  }

  /**
   * Joins files to one for the printer, in their order; see `joinFiles`.
   *
   * @param told hears how many of them are joined.
   * @throws as `whole` does.
   */
  async joined(
    manager: EntityManager,
    schoolId: string,
    files: readonly KeptFile[],
    fronts: boolean,
    told?: (done: number) => void,
  ): Promise<Joined> {
    const grounds = [...new Set(files.flatMap(({ laidOn }) => laidOn?.grounds ?? []))];
    const parts = await this.parts(manager, schoolId, grounds);
    const options = { tenant: schoolId, parts, timeLimit: JOIN_LIMIT, told };
    return (await this.pool.run({ files, grounds, fronts }, options)) as Joined;
  }

  private parts(manager: EntityManager, schoolId: string, hashes: readonly string[]): Promise<Part[]> {
    return Promise.all(
      hashes.map(async (hash) => {
        const value = await this.ground(manager, schoolId, hash);
        return { key: `${schoolId} ${hash}`, size: value.length, value };
      }),
    );
  }

  /** Identities of the processes that there are now. */
  get processes(): number[] {
    return this.pool.processes;
  }

  close(): Promise<void> {
    return this.pool.close();
  }

  private async ground(manager: EntityManager, schoolId: string, hash: string): Promise<Buffer> {
    const key = `${schoolId} ${hash}`;
    const kept = this.grounds.get(key) ?? (await readBlob(manager, schoolId, hash));
    if (!kept) throw new Error(`The PDF ${hash} under a paper is not there.`);
    this.grounds.set(key, kept);
    return kept;
  }
}

const asBuffer = ({ buffer, byteOffset, length }: Uint8Array): Buffer =>
  Buffer.from(buffer, byteOffset, length);
