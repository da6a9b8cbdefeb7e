import type { EntityManager } from 'typeorm';
import { PackPartRow } from '../store/entities/packs.js';

/** Bytes of one part. */
const PART = 4 * 1024 * 1024;

/** Writes a file in parts of its own, so that the one before it stays until this one is whole. */
export class PartWriter {
  private waiting: Buffer[] = [];
  private length = 0;
  private n = 0;
  /** Bytes that were written. */
  total = 0;

  constructor(
    private readonly manager: EntityManager,
    private readonly packId: string,
    readonly fileId: string,
  ) {}

  async write(bytes: Uint8Array): Promise<void> {
    for (let at = 0; at < bytes.length; at += PART) {
      const some = Buffer.from(bytes.buffer, bytes.byteOffset + at, Math.min(PART, bytes.length - at));
      this.waiting.push(some);
      this.length += some.length;
      if (this.length >= PART) await this.flush();
    }
  }

  async end(): Promise<void> {
    if (this.length > 0) await this.flush();
  }

  private async flush(): Promise<void> {
    const bytes = Buffer.concat(this.waiting);
    this.waiting = [];
    this.length = 0;
    this.total += bytes.length;
    await this.manager.insert(PackPartRow, { fileId: this.fileId, n: this.n++, packId: this.packId, bytes });
  }
}

/** The parts of a file, one after the other. */
export async function* partsOf(manager: EntityManager, fileId: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const part = await manager.findOneBy(PackPartRow, { fileId, n });
    if (!part) return;
    yield part.bytes;
  }
}
