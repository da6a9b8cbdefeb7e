import type { Entry, Roll } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';

/** A thread's desk from this side: every answer takes its time. */
export type Distant<Desk> = {
  [K in keyof Desk]: Desk[K] extends (...given: infer A) => infer R ? (...given: A) => Promise<R> : never;
};

/** What takes a roll a chunk at a time. */
export interface RollTaker {
  takeRoll(columns: Column[], key: string[] | undefined): Promise<void>;
  takeEntries(entries: Entry[]): Promise<void>;
}

/** Entries that travel in one chunk. */
const PIECE = 400;

/** Sends a roll to a thread in chunks, so that no chunk holds the screen up. */
export async function sendInChunks(desk: RollTaker, roll: Roll): Promise<void> {
  await desk.takeRoll(roll.columns, roll.key);
  for (let from = 0; from < roll.entries.length; from += PIECE)
    await desk.takeEntries(roll.entries.slice(from, from + PIECE) as Entry[]);
}

/**
 * A thread's copy of the roll. Work over it takes turns: two rolls that travel at once would be mixed up, and work would
 * find the roll of somebody else's.
 */
export class RollThere<Desk extends RollTaker> {
  private sent: Roll | null = null;
  private turn: Promise<unknown> = Promise.resolve();

  constructor(private readonly desk: Desk) {}

  /** Brings the copy up to date, and does the work over it. */
  with<T>(roll: Roll, work: (desk: Desk) => Promise<T>): Promise<T> {
    const done = this.turn.then(async () => {
      if (this.sent !== roll) {
        this.sent = null;
        await sendInChunks(this.desk, roll);
        this.sent = roll;
      }
      return work(this.desk);
    });
    this.turn = done.catch(() => undefined);
    return done;
  }
}
