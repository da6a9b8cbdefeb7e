import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { DueLoop } from '../jobs/due-loop.js';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { Refusal } from '../refusal.js';
import { keepBlob } from '../store/blobs.js';
import { isDatabaseAway } from '../store/database-away.js';
import { FolioRow } from '../store/entities/folio.js';
import { WatchedRow } from '../store/entities/watched.js';
import { inTransaction } from '../store/in-transaction.js';
import type { NewerVersion, Taken } from './take-newer.js';
import { unsettled, type WatchedFiles } from './watched-files.js';
import { WatchFault, type Found } from './watched-place.js';

/** Milliseconds for which a file has to stay as it is before it is read. */
const SETTLES = 2_000;
/** Milliseconds before it is tried again where papers are being pressed, or Scriptum is busy. */
const SOON = 15_000;
/** Milliseconds after which what cannot be reached is tried again at the earliest, so that it keeps others waiting seldom. */
const REST = 5 * 60_000;
/** Refusals that go by themselves. */
const PASSING: ReadonlySet<string> = new Set(['run-going', 'busy']);

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

export interface WatchingOptions {
  /** Milliseconds between two looks for what is due. */
  readonly poll: number;
  readonly files: WatchedFiles;
  /** Takes a version over, beside the server. */
  readonly take: (asked: Place & { watchedId: string; version: NewerVersion }) => Promise<Taken>;
  /** The roll is another one now. */
  readonly took: (place: Place, owed: boolean) => void;
  readonly wake: () => void;
}

/**
 * Looks at watched files at their intervals, and has newer versions taken over. When each is looked at next stands in the database, so any
 * server does it, and what it comes to is written down with the roll.
 */
export class Watching implements SliceHandler {
  private readonly loop: DueLoop;

  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly options: WatchingOptions,
  ) {
    this.loop = new DueLoop(
      options.poll,
      () => this.offerDue(),
      (error) => {
        if (!isDatabaseAway(error)) log.error({ err: error }, 'watched files could not be looked after');
      },
    );
  }

  open(): Promise<void> {
    return this.loop.open();
  }

  close(): Promise<void> {
    return this.loop.close();
  }

  /** Something may be due now. Never rejects. */
  look(): Promise<void> {
    return this.loop.look();
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const row = await this.database.manager.findOneBy(WatchedRow, {
      id: idOf(slice),
      schoolId: slice.schoolId,
      folioId: slice.folioId,
    });
    const now = new Date();
    if (!row?.isOn || row.nextAt === null || row.nextAt > now) {
      await inTransaction(this.database, (manager) => this.queue.end(manager, slice, 'done'));
      return;
    }
    const came = await this.bring(row, now);
    if (!goesOn()) return;
    await inTransaction(this.database, async (manager) => {
      // Where somebody asked for a look meanwhile there is another one.
      const { nextAt } = (await manager.findOneBy(WatchedRow, { id: row.id })) ?? { nextAt: null };
      const isAsked = nextAt === null || nextAt.getTime() !== row.nextAt!.getTime();
      const { nextAt: then, ...seen } = came;
      await manager.update(
        WatchedRow,
        { id: row.id },
        { ...(isAsked ? {} : { ...seen, nextAt: then }), lookedAt: now },
      );
      await this.queue.end(manager, slice, 'done');
    });
    this.events.tell(row.folioId, { kind: 'watched' });
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    await inTransaction(this.database, async (manager) => {
      const row = await manager.findOneBy(WatchedRow, { id: idOf(slice) });
      if (row)
        await manager.update(
          WatchedRow,
          { id: row.id },
          {
            fault: 'Reading it broke off several times. It is tried again by itself.',
            nextAt: after(new Date(), row.everyMinutes * 60_000),
          },
        );
      await this.queue.end(manager, slice, 'failed');
    });
  }

  /** Looks at a file and has a newer version taken. @returns what is noted then, and when it is looked at next. */
  private async bring(row: WatchedRow, now: Date): Promise<Partial<WatchedRow> & { nextAt: Date }> {
    const next = after(now, row.everyMinutes * 60_000);
    let found: Found;
    try {
      if (!(await this.options.files.hasSource(this.database.manager, row)))
        throw new WatchFault(
          'Its source is not on the roll any more. Choose what it is a newer version of, or delete it.',
        );
      found = await this.options.files.look(row);
    } catch (error) {
      if (!(error instanceof WatchFault)) throw error;
      const rests = after(now, Math.max(REST, row.everyMinutes * 60_000));
      return { fault: error.message.slice(0, 1000), nextAt: rests };
    }
    if (found.kind === 'same') return { fault: null, nextAt: next };
    if (found.kind === 'settling')
      return { fault: null, stamp: unsettled(found.stamp), nextAt: after(now, SETTLES) };
    const { name, bytes, stamp } = found;
    const place = { schoolId: row.schoolId, folioId: row.folioId };
    const blobHash = await keepBlob(this.database.manager, row.schoolId, bytes);
    try {
      const { changed, owed } = await this.options.take({
        ...place,
        watchedId: row.id,
        version: { name, blobHash, stamp },
      });
      if (changed) this.options.took(place, owed);
      return { fault: null, stamp, nextAt: next };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (PASSING.has(error.code)) return { nextAt: after(now, SOON) };
      this.log.warn({ folioId: row.folioId, code: error.code }, 'a newer version could not be taken over');
      // It is the same one until it changes, or somebody asks for it.
      const waits = error.message.slice(0, 1000);
      return { fault: null, waits, stamp, seenHash: blobHash, seenName: name, nextAt: next };
    }
  }

  private async offerDue(): Promise<void> {
    const due = await this.database.manager
      .createQueryBuilder(WatchedRow, 'w')
      .innerJoin(FolioRow, 'f', 'f.id = w.folioId')
      .where('w.isOn AND w.nextAt <= :now AND f.archivedAt IS NULL', { now: new Date() })
      .getMany();
    if (due.length === 0) return;
    const slices = due.map(({ id, schoolId, folioId }) => ({
      id: `watch${id}`,
      kind: 'watch' as const,
      schoolId,
      folioId,
      jobId: `watch${id}`,
      lane: 'upkeep' as const,
      size: 1,
    }));
    await inTransaction(this.database, (manager) => this.queue.offer(manager, slices));
    this.options.wake();
  }
}

const idOf = ({ id }: ClaimedSlice): string => id.slice('watch'.length);
const after = (time: Date, milliseconds: number): Date => new Date(time.getTime() + milliseconds);
