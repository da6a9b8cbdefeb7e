import type { DataSource } from 'typeorm';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { Refusal } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { nextRevision, setComparedWith } from '../store/register-state.js';
import { comparedWithNow, isComparingDue } from './compare-papers.js';

/** How often papers are compared anew where something changes meanwhile; then the next who asks has it done. */
const ROUNDS_MOST = 4;

/** Sees to it that it is known which papers are out of date: looked at anew after each change, by any server. */
export class Registers implements SliceHandler {
  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    /** Compares the papers of a folio; false where that is to be done once more. */
    private readonly compare: (place: { schoolId: string; folioId: string }) => Promise<boolean>,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly wake: () => void,
    /** Told whenever something that papers are made from has changed. */
    private readonly hears: (place: { schoolId: string; folioId: string }) => void,
  ) {}

  /** Something that papers are made from has changed. Does not wait until it is looked at; never rejects. */
  changed(schoolId: string, folioId: string): void {
    this.hears({ schoolId, folioId });
    this.compareWhereDue(schoolId, folioId).catch((error: unknown) => {
      if (!isDatabaseAway(error)) this.log.error({ err: error }, 'papers could not be compared');
    });
  }

  /** Has the papers compared where that is due. @returns true where it is. */
  async compareWhereDue(schoolId: string, folioId: string): Promise<boolean> {
    const { manager } = this.database;
    const folio = await findFolio(manager, schoolId, folioId);
    if (!(await isComparingDue(manager, folio))) return false;
    const slice = { id: folioId, kind: 'compare', jobId: folioId, lane: 'upkeep', size: 1 } as const;
    await inTransaction(this.database, (inside) =>
      this.queue.offer(inside, [{ ...slice, schoolId, folioId }]),
    );
    this.wake();
    return true;
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const { schoolId, folioId } = slice;
    try {
      for (let round = 0; round < ROUNDS_MOST; round++) {
        if (!goesOn()) return;
        if (await this.compare({ schoolId, folioId })) break;
      }
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // Such as a roll that is too much to work out: it would be too much the next time as well.
      await this.giveUp(slice);
      return;
    }
    await this.end(slice, 'done');
  }

  /** Leaves the papers as they are marked, and does not ask again until something else changes. */
  async giveUp(slice: ClaimedSlice): Promise<void> {
    await this.end(slice, 'failed');
  }

  private async end(slice: ClaimedSlice, as: 'done' | 'failed'): Promise<void> {
    const { schoolId, folioId } = slice;
    await inTransaction(this.database, async (manager) => {
      if (as === 'failed') {
        await nextRevision(manager, { schoolId, folioId });
        const folio = await findFolio(manager, schoolId, folioId);
        await setComparedWith(manager, folioId, await comparedWithNow(manager, folio));
      }
      await this.queue.end(manager, slice, as);
    });
    this.events.tell(folioId, { kind: 'run' });
  }
}
