import pLimit from 'p-limit';
import type { Logger } from 'pino';
import { Heartbeat } from '../store/claims.js';
import { isDatabaseAway, isDiskFull } from '../store/database-away.js';
import { SliceLost, type ClaimedSlice, type Lane, type SliceKind, type SliceQueue } from './slice-queue.js';

/** A slice that breaks off as often as this, for another reason than the database, has failed. */
const TRIES_MOST = 5;
/** Milliseconds. */
const pause = (time: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, time));
/** Slices at hand at a time, of several schools; some of each lane. */
const LONG: readonly Lane[] = ['quick', 'bulk'];
const QUICK: readonly Lane[] = ['quick'];
const UPKEEP: readonly Lane[] = ['upkeep'];
const CHECKS: readonly Lane[] = ['check'];
const SLOTS = [LONG, LONG, LONG, LONG, LONG, LONG, QUICK, QUICK, UPKEEP, UPKEEP, CHECKS, CHECKS];
/** Long slices of one school at hand: one that is being done, while the one before it is written down. */
const PER_SCHOOL = 2;

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
  private readonly atHand = new Set<ClaimedSlice>();
  /** So that each claim knows what the one before it took. */
  private readonly oneByOne = pLimit(1);
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
    for (const lanes of new Set(SLOTS)) this.fill(lanes);
  }

  /** Sets the next free slot of these lanes to work; it does the same once it has got something. */
  private fill(lanes: readonly Lane[]): void {
    const free = this.slots.findIndex((slot, n) => slot === null && SLOTS[n] === lanes);
    if (free < 0 || this.closed) return;
    this.slots[free] = this.slot(lanes).finally(() => (this.slots[free] = null));
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

  private async take(lanes: readonly Lane[]): Promise<ClaimedSlice | null> {
    const except = lanes.includes('bulk') ? this.busySchools() : [];
    const slice = await this.options.queue.claim(lanes, except);
    if (slice) this.atHand.add(slice);
    return slice;
  }

  /** Schools of which enough long slices are at hand. */
  private busySchools(): string[] {
    const counts = new Map<string, number>();
    for (const { schoolId, lane } of this.atHand)
      if (lane === 'bulk') counts.set(schoolId, (counts.get(schoolId) ?? 0) + 1);
    return [...counts].filter(([, count]) => count >= PER_SCHOOL).map(([schoolId]) => schoolId);
  }

  private async slot(lanes: readonly Lane[]): Promise<void> {
    while (!this.closed) {
      const taken = performance.now();
      let slice: ClaimedSlice | null;
      try {
        slice = await this.oneByOne(() => this.take(lanes));
      } catch (error) {
        this.report(error, 'no slice could be taken');
        return;
      }
      if (!slice) return;
      this.fill(lanes);
      const work = this.doSlice(slice, taken);
      await work;
      this.atHand.delete(slice);
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
      if (isDatabaseAway(error)) await this.putOff(slice);
    } finally {
      heartbeat.stop();
    }
  }

  /** Where the database is away, or full, that is no try of the slice: it is put back once that goes through. */
  private async putOff(slice: ClaimedSlice): Promise<void> {
    for (let back = false; !back && !this.closed;) {
      const until = performance.now() + this.options.term / 4;
      while (!this.closed && performance.now() < until) await pause(50);
      back = await this.options.queue.giveBack(slice).then(
        () => true,
        () => false,
      );
    }
  }

  private report(error: unknown, what: string): void {
    if (isDiskFull(error)) this.options.log.error('the disk of the database is full; work waits for room');
    else if (!isDatabaseAway(error) && !this.closed) this.options.log.error({ err: error }, what);
  }
}
