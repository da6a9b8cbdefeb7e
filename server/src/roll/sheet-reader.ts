import { SHEET_LIMITS, tooLarge, type LaidOut, type Reading, type Result } from '@scriptum/core/table';
import { Piscina } from 'piscina';
import { fromProblem, Refusal } from '../refusal.js';
import type { ReadTask } from './sheet-reader-worker.js';

/** Reads sheets in a thread beside the server, so that a large one holds nobody up. */
export class SheetReader {
  private readonly pool = new Piscina<ReadTask, Result<LaidOut>>({
    filename: new URL('./sheet-reader-worker.js', import.meta.url).href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: 3000 },
  });

  /** @param timeLimit milliseconds that one file may take. */
  constructor(private readonly timeLimit = 120_000) {}

  /** @throws Refusal where the file cannot be read. */
  async read(bytes: Uint8Array, reading: Reading): Promise<LaidOut> {
    if (bytes.length > SHEET_LIMITS.bytes) {
      const refused = tooLarge(bytes.length);
      if (!refused.ok) throw fromProblem(refused.problem, 413);
    }
    const stop = new AbortController();
    const timer = setTimeout(() => stop.abort(), this.timeLimit);
    try {
      const read = await this.pool.run({ bytes, reading }, { signal: stop.signal });
      if (!read.ok) throw fromProblem(read.problem);
      return read.value;
    } catch (error) {
      if (error instanceof Refusal) throw error;
      if (stop.signal.aborted || (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') {
        throw new Refusal(
          422,
          'reading-too-much',
          'The file takes too long or too much memory to read. Save the sheet alone, without empty rows and formats, and bring that in.',
        );
      }
      throw error;
    } finally {
      clearTimeout(timer);
    }
  }

  async close(): Promise<void> {
    await this.pool.close({ force: true });
  }
}
