import { LRUCache } from 'lru-cache';
import type { EntityManager } from 'typeorm';
import { ProcessPool } from '../process/process-pool.js';
import { readBlob } from '../store/blobs.js';
import type { LaidOn } from '../store/laid-on.js';
import type { LeavingTask } from './leaving-child.js';

/** Bytes of PDFs that are kept at hand. */
const KEPT = 60 * 1024 * 1024;
/** Milliseconds that one file may take. */
const TIME_LIMIT = 30_000;
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
  private readonly pool = new ProcessPool<LeavingTask, Uint8Array>({
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

  /** @throws where what it lies on is not there, or it could not be put there; see `WorkEnded`. */
  async whole(manager: EntityManager, schoolId: string, { bytes, laidOn }: KeptFile): Promise<Buffer> {
    if (!laidOn) return bytes;
    const parts = [];
    for (const hash of laidOn.grounds) {
      const ground = await this.ground(manager, schoolId, hash);
      parts.push({ key: `${schoolId} ${hash}`, size: ground.length, value: ground });
    }
    const whole = await this.pool.run({ file: bytes, laidOn }, { tenant: schoolId, parts });
    return Buffer.from(whole.buffer, whole.byteOffset, whole.length);
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
