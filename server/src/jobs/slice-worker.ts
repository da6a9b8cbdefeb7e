import type { Logger } from 'pino';
import { Heartbeat } from '../store/claims.js';
import { isDatabaseAway } from '../store/database-away.js';
import { SliceLost, type ClaimedSlice, type Lane, type SliceKind, type SliceQueue } from './slice-queue.js';

/** A slice that breaks off as often as this, for another reason than the database, has failed. */
const TRIES_MOST = 5;
/** Slices at hand at a time: some long ones, so that one is being done while another is written down, and one of each other lane. */
const SLOTS: readonly (readonly Lane[])[] = [
  ['quick', 'bulk'],
  ['quick', 'bulk'],
  ['quick', 'bulk'],
  ['quick'],
  ['upkeep'],
];

/** How slices of one kind are done. */
export interface SliceHandler {
  /**
   * Does a slice and ends it in the transaction that writes the last of it.
   *
   * @param goesOn false once it shall be left: the server closes, or the slice may be another's by now.
   */
  work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void>;
  /** Ends a slice that broke off time and again. */
  giveUp(slice: ClaimedSlice): Promise<void>;
}

export interface SliceWorkerOptions {
  readonly queue: SliceQueue;
  readonly handlers: Readonly<Record<SliceKind, SliceHandler>>;
  /** Milliseconds for which a slice is taken. */
  readonly term: number;
  /** Milliseconds between two looks for slices while there is nothing to do. */
  readonly poll: number;
  readonly log: Logger;
}

/** Does slices of long work, as one of any number of servers that do. */
export class SliceWorker {
  private readonly atHand = new Map<string, Set<Promise<void>>>();
  private readonly slots: (Promise<void> | null)[] = SLOTS.map(() => null);
  private timer: NodeJS.Timeout | null = null;
  private looking: Promise<void> | null = null;
  private closed = false;

  constructor(private readonly options: SliceWorkerOptions) {}

  /** Begins to work: takes up what waits, now and from time to time. */
  async open(): Promise<void> {
    this.timer = setInterval(() => void this.look(), this.options.poll).unref();
    await this.look();
  }

  /** There is something to do. */
  wake(): void {
    if (this.closed) return;
    for (const [n, lanes] of SLOTS.entries())
      this.slots[n] ??= this.slot(lanes).finally(() => (this.slots[n] = null));
  }

  /** Resolves when this server does nothing of the job any more. */
  async left(jobId: string): Promise<void> {
    for (;;) {
      const works = this.atHand.get(jobId);
      if (!works?.size) return;
      await Promise.allSettled(works);
    }
  }

  /** Stops after what is at hand; another server, or the next start, goes on. */
  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearInterval(this.timer);
    await this.looking;
    await Promise.allSettled(this.slots);
  }

  private look(): Promise<void> {
    this.looking ??= this.options.queue
      .reclaim()
      .then((count) => {
        if (count > 0) this.options.log.warn({ count }, 'slices of a server that is gone are done by others');
        this.wake();
      })
      .catch((error: unknown) => this.report(error, 'slices could not be looked for'))
      .finally(() => (this.looking = null));
    return this.looking;
  }

  private async slot(lanes: readonly Lane[]): Promise<void> {
    const { queue } = this.options;
    while (!this.closed) {
      const taken = performance.now();
      let slice: ClaimedSlice | null;
      try {
        slice = await queue.claim(lanes);
      } catch (error) {
        this.report(error, 'no slice could be taken');
        return;
      }
      if (!slice) return;
      const work = this.doSlice(slice, taken);
      const works = this.atHand.get(slice.jobId) ?? new Set();
      this.atHand.set(slice.jobId, works.add(work));
      await work;
      works.delete(work);
      if (works.size === 0) this.atHand.delete(slice.jobId);
    }
  }

  /** Never rejects. */
  private async doSlice(slice: ClaimedSlice, taken: number): Promise<void> {
    const { queue, handlers, term } = this.options;
    const heartbeat = new Heartbeat(taken, term, () => queue.beat(slice));
    const handler = handlers[slice.kind];
    try {
      if (slice.tries >= TRIES_MOST) await handler.giveUp(slice);
      else {
        const goesOn = (): boolean => !this.closed && heartbeat.held;
        await handler.work(slice, goesOn);
        if (!goesOn()) await queue.giveBack(slice);
      }
    } catch (error) {
      // It is put back when its term has ended, so that what breaks at once is not tried in a rush.
      if (!(error instanceof SliceLost)) this.report(error, 'a slice broke off; it is done again');
    } finally {
      heartbeat.stop();
    }
  }

  private report(error: unknown, what: string): void {
    if (!isDatabaseAway(error) && !this.closed) this.options.log.error({ err: error }, what);
  }
}
