import type { DataSource } from 'typeorm';
import { Heartbeat } from '../store/claims.js';
import { newId } from '../store/id.js';
import { throughGates } from './gates.js';
import { findDue, renewMessages, takeMessages, type Due, type WaitingAccount } from './message-claims.js';
import type { Outcome } from './record-outcomes.js';
import type { Delivery } from './transport.js';

/** Connections to a mail server at a time. */
export const CONNECTIONS = 4;
/** Messages at hand at a time: one on each connection, and some that are written meanwhile. */
const LANES = CONNECTIONS + 3;
/** Messages that are taken and not written down yet, at the most: so many can become unconfirmed by a crash. */
const AT_RISK = 24;
/** Messages that wait their turn, at which the next ones are taken, and how many at the least. */
const LOW = 5;
const FEWEST = 4;
/** Messages that are written down together, unless there are no others to go on with. */
const TOGETHER = 8;
/** Milliseconds after which what is known is written down by itself. */
const SOON = 200;
/** Milliseconds after which a lane that waits looks again. */
const LOOK_AGAIN = 500;

export interface SendingOptions {
  /** Whose messages are sent. */
  readonly account: WaitingAccount;
  /** Milliseconds for which messages are taken, unless it is lengthened. */
  readonly term: number;
  readonly goesOn: () => boolean;
  /** @returns null where nothing was tried, and nothing left. */
  readonly deliver: (due: Due) => Promise<Delivery | null>;
  /** Writes down what became of messages that were taken under the claim, and puts back those of which nothing left. */
  readonly record: (claim: string, outcomes: readonly Outcome[], left: readonly string[]) => Promise<void>;
}

/**
 * Sends what is due of one account under one claim: takes a few messages at a time, keeps the connections busy with them, and takes the
 * next ones and writes down the last ones meanwhile. It ends where nothing is due any more, and where the claim may be lost.
 */
export class Sending {
  private readonly claim = newId();
  private readonly ready: Due[] = [];
  private outcomes: Outcome[] = [];
  private left: string[] = [];
  /** Messages that were taken and are not written down. */
  private atRisk = 0;
  private taking = false;
  private recording: Promise<void> | null = null;
  private exhausted = false;
  private skip = 0;
  private failure: { readonly error: unknown } | null = null;
  /** True where something could not be written down for another reason than an outage, which `record` waits for. */
  private unrecorded = false;
  /** True once the account is known not to work. */
  private faulty = false;
  private heartbeat!: Heartbeat;
  private later: NodeJS.Timeout | null = null;
  private waiting: (() => void)[] = [];

  constructor(
    private readonly database: DataSource,
    private readonly options: SendingOptions,
  ) {}

  /** Resolves when nothing is due any more and all is written down. */
  async run(): Promise<void> {
    const { term } = this.options;
    const began = performance.now();
    this.heartbeat = new Heartbeat(began, term, async () => {
      await renewMessages(this.database, this.claim, term);
      return true;
    });
    try {
      this.takeMore();
      await Promise.all(Array.from({ length: LANES }, () => this.lane()));
      while (this.taking) await this.change();
      for (const { message } of this.ready.splice(0)) this.left.push(message.id);
      await this.writeAllDown();
    } finally {
      if (this.later) clearTimeout(this.later);
      this.heartbeat.stop();
    }
    if (this.failure) throw this.failure.error;
  }

  private get goesOn(): boolean {
    return this.options.goesOn() && !this.failure && this.heartbeat.held;
  }

  private async lane(): Promise<void> {
    while (this.goesOn) {
      const due = this.ready.shift();
      this.takeMore();
      if (!due) {
        if (this.exhausted) return;
        await this.change();
        continue;
      }
      const { message } = due;
      const delivery = this.faulty ? null : await this.options.deliver(due);
      if (delivery?.state === 'fault') this.faulty = true;
      if (delivery) this.outcomes.push({ message, delivery });
      else this.left.push(message.id);
      this.writeDown();
    }
  }

  /** Takes the next messages, where few are left and not too many are at risk. */
  private takeMore(): void {
    const room = AT_RISK - this.atRisk;
    if (this.taking || this.exhausted || this.ready.length > LOW || room < FEWEST || !this.goesOn) return;
    this.taking = true;
    this.take(room)
      .catch((error: unknown) => {
        this.failure ??= { error };
      })
      .finally(() => {
        this.taking = false;
        this.changed();
      });
  }

  private async take(most: number): Promise<void> {
    const found = this.faulty
      ? []
      : await findDue(this.database.manager, this.options.account.accountId, most, this.skip);
    if (found.length === 0) {
      this.exhausted = this.skip === 0 || this.faulty;
      this.skip = 0;
      return;
    }
    // What a gate keeps back is not found again until it opens.
    const due = await throughGates(this.database, this.options.account, found);
    if (due.length === 0) return;
    const ours = await takeMessages(this.database, this.claim, due, this.options.term);
    // Where another server was quicker, look a little further on, so that the two do not run after the same ones.
    this.skip = ours.length < due.length && this.skip === 0 ? found.length : 0;
    this.atRisk += ours.length;
    this.ready.push(...ours);
  }

  /** Writes down what is known by now, some together; what comes meanwhile is written down after it. */
  private writeDown(now = false): void {
    if (this.recording || this.unwritten === 0 || this.unrecorded) return;
    if (!now && this.unwritten < TOGETHER && this.ready.length > 0) {
      this.later ??= setTimeout(() => {
        this.later = null;
        this.writeDown(true);
      }, SOON);
      return;
    }
    if (this.later) clearTimeout(this.later);
    this.later = null;
    const { outcomes, left } = this;
    this.outcomes = [];
    this.left = [];
    this.recording = this.options
      .record(this.claim, outcomes, left)
      .then(() => {
        this.atRisk -= outcomes.length + left.length;
      })
      .catch((error: unknown) => {
        this.failure ??= { error };
        this.unrecorded = true;
      })
      .finally(() => {
        this.recording = null;
        this.writeDown();
        this.takeMore();
        this.changed();
      });
  }

  private get unwritten(): number {
    return this.outcomes.length + this.left.length;
  }

  /** What is known is written down to the last, also where nothing more can be taken. */
  private async writeAllDown(): Promise<void> {
    do {
      this.writeDown();
      await this.recording;
    } while (this.recording || (this.unwritten > 0 && !this.unrecorded));
  }

  /** Resolves when something was taken or written down, or after a moment, since the claim may be lost meanwhile. */
  private change(): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, LOOK_AGAIN);
      this.waiting.push(() => {
        clearTimeout(timer);
        resolve();
      });
    });
  }

  private changed(): void {
    for (const resolve of this.waiting.splice(0)) resolve();
  }
}
