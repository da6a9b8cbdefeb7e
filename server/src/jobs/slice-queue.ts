import type { EntityManager } from 'typeorm';

/**
 * What there is to do in slices. `press`: papers of a run; `compare`: which papers of a folio are out of date; `check`: what
 * papers would come to; `pack`: many papers in one file; `drop`: papers as files elsewhere; `order`: standing orders of
 * a folio; `watch`: a newer version of a watched file; `copy`: the copy of an answer.
 */
export type SliceKind = 'press' | 'compare' | 'check' | 'pack' | 'drop' | 'order' | 'watch' | 'copy';

/** Slices that take a moment have a lane of their own, so that they never wait behind long work, and so has what nobody waits for. */
export type Lane = 'quick' | 'bulk' | 'upkeep' | 'check';

/** A slice of a job that is to be done. */
export interface OfferedSlice {
  readonly id: string;
  readonly kind: SliceKind;
  readonly schoolId: string;
  readonly folioId: string;
  /** What it is a part of, such as a run. */
  readonly jobId: string;
  readonly lane: Lane;
  /** Papers, or what takes about as long. */
  readonly size: number;
}

/** A slice that was taken to be done. */
export interface ClaimedSlice extends Omit<OfferedSlice, 'size'> {
  /** Names this very taking; what it does is written down only while it holds. */
  readonly claim: string;
  /** How often it was taken before, and its term ran out. */
  readonly tries: number;
}

/** How a slice ends. */
export type SliceEnd = 'done' | 'failed' | 'stopped';

/** The slice is another's by now, or its job was stopped: nothing of it may be written any more. */
export class SliceLost extends Error {
  override name = 'SliceLost';
  constructor() {
    super('The slice is not this server’s any more.');
  }
}

/**
 * Who does which slice of long work. What is true stands in the tables that the work is about; a queue holds identities
 * and hands each slice to one server at a time. What is given a manager takes part in that transaction.
 */
export interface SliceQueue {
  /** Adds slices. One that waits already, by its identity, is not added twice. */
  offer(manager: EntityManager, slices: readonly OfferedSlice[]): Promise<void>;
  /**
   * Takes the slice whose turn it is, for a term; null where nothing waits in these lanes.
   *
   * @param except schools that have enough at hand.
   */
  claim(lanes: readonly Lane[], except?: readonly string[]): Promise<ClaimedSlice | null>;
  /** Lengthens the term. @returns false where the slice is not held any more. */
  beat(slice: ClaimedSlice): Promise<boolean>;
  /** Holds the slice until the transaction ends. @throws SliceLost where it is not held any more. */
  fence(manager: EntityManager, slice: ClaimedSlice): Promise<void>;
  /** Ends a slice that is held. @throws SliceLost where it is not held any more. */
  end(manager: EntityManager, slice: ClaimedSlice, as: SliceEnd): Promise<void>;
  /** Gives a slice up that was begun, so that another can do it at once. */
  giveBack(slice: ClaimedSlice): Promise<void>;
  /** Ends what is left of a job; who has a slice of it loses it. */
  stop(manager: EntityManager, jobId: string): Promise<void>;
  /** True while a slice of the job waits or is being done. */
  isOpen(manager: EntityManager, jobId: string): Promise<boolean>;
  /** Puts back what a server took that says nothing any more. @returns how many. */
  reclaim(): Promise<number>;
  /** Takes away what has ended a while ago. */
  sweep(): Promise<void>;
}
