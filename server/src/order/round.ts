import { columnsOf, holds } from '@scriptum/core/condition';
import { isReached } from '@scriptum/core/note';
import { preflight, type Finding } from '@scriptum/core/preflight';
import type { PlannedPaper } from '@scriptum/core/paper';
import { isIn, type Entry } from '@scriptum/core/roll';
import { notesWith } from '@scriptum/core/sorting';
import { writingsOf } from '@scriptum/core/template';
import { dayBegins, dayIn } from '@scriptum/core/time';
import { In, MoreThanOrEqual, type EntityManager } from 'typeorm';
import type { SliceQueue } from '../jobs/slice-queue.js';
import { accountFor } from '../post/accounts-on.js';
import { apartAsFirst, onceMore, queueBundles, type Posting } from '../post/dispatch.js';
import { sortPapers, whyNobody, type Wait } from '../post/plan-dispatch.js';
import { planRun } from '../press/plan-run.js';
import { Refusal } from '../refusal.js';
import { clearingOf } from '../register/judge-papers.js';
import { plannedNow, toCheck, type Planning } from '../register/planning.js';
import { PRESENT } from '../register/present-papers.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Milliseconds before a paper that was out of date before it could leave is pressed anew, doubled each time up to the most. */
const AGAIN = { first: 500, most: 600_000 };
/** Letters of a reason. */
const WHY_MOST = 1000;

export interface RoundOf {
  readonly planning: Planning;
  readonly posting: Posting;
  readonly orders: readonly StandingOrderRow[];
  readonly timeZone: string;
  readonly now: Date;
}

/** What becomes of a work. */
type Outcome = Partial<
  Pick<OrderWorkRow, 'state' | 'why' | 'isWrong' | 'notBefore' | 'until' | 'runId' | 'startedAt' | 'tries'>
>;

/** One look at some works of a folio: which papers are pressed, which leave, and what becomes of the others. */
export class Round {
  private readonly byEntry = new Map<string, Entry>();
  private readonly planned = new Map<string, PlannedPaper[]>();
  private readonly orders: ReadonlyMap<string, StandingOrderRow>;
  private readonly place: Place;
  private findings: readonly Finding[] = [];
  private readonly blocks = { press: new Blocks(), dispatch: new Blocks() };
  private readonly papers = new Map<string, PaperRow[]>();
  private readonly begunToday = new Map<string, number>();
  private readonly runs = new Map<string, PressRunRow['state']>();
  private clears = true;
  private readonly toPress: OrderWorkRow[] = [];
  private readonly toSend: OrderWorkRow[] = [];

  constructor(
    private readonly manager: EntityManager,
    private readonly queue: Pick<SliceQueue, 'offer'>,
    private readonly of: RoundOf,
  ) {
    const { planning, orders } = of;
    this.orders = new Map(orders.map((row) => [row.id, row]));
    this.place = { schoolId: planning.folio.schoolId, folioId: planning.folio.id };
    for (const entry of planning.roll.entries) this.byEntry.set(entry.id, entry);
  }

  async go(works: readonly OrderWorkRow[]): Promise<{ pressing: boolean; queued: number }> {
    await this.prepare(works);
    for (const work of works) {
      const outcome = this.look(work, works);
      if (outcome) await this.end(work, outcome);
    }
    const queued = this.toSend.length > 0 ? await this.send() : 0;
    const pressing = this.toPress.length > 0 && (await this.press());
    return { pressing, queued };
  }

  private async prepare(works: readonly OrderWorkRow[]): Promise<void> {
    const { manager, place } = this;
    const { planning, orders, timeZone, now } = this.of;
    for (const paper of plannedNow(planning)) {
      const own = this.planned.get(paper.entryId);
      if (own) own.push(paper);
      else this.planned.set(paper.entryId, [paper]);
    }
    this.findings = preflight({
      ...(await toCheck(manager, planning)),
      notes: writingsOf(planning.writings, 'note'),
    });
    for (const finding of this.findings) if (finding.blocks) this.blocks[finding.blocks].add(finding);
    this.clears = (await clearingOf(manager, place.schoolId)) === 'free';
    const entryIds = [...new Set(works.map(({ entryId }) => entryId))];
    const papers = await manager.find(PaperRow, {
      select: {
        id: true,
        entryId: true,
        templateId: true,
        state: true,
        reason: true,
        runId: true,
        heldBack: true,
      },
      where: { ...place, entryId: In(entryIds), state: In([...PRESENT, 'failed']) },
    });
    for (const paper of papers)
      this.papers.set(paper.entryId, [...(this.papers.get(paper.entryId) ?? []), paper]);
    const runIds = works.flatMap(({ runId }) => runId ?? []);
    for (const { id, state } of await manager.find(PressRunRow, {
      select: { id: true, state: true },
      where: { ...place, id: In(runIds) },
    }))
      this.runs.set(id, state);
    const midnight = dayBegins(dayIn(now, timeZone), timeZone);
    for (const { id, content } of orders)
      if (content.most !== null)
        this.begunToday.set(
          id,
          await manager.countBy(OrderWorkRow, { orderId: id, startedAt: MoreThanOrEqual(midnight) }),
        );
  }

  /** What becomes of a work now; null where it is pressed or sent with the others. */
  private look(work: OrderWorkRow, all: readonly OrderWorkRow[]): Outcome | null {
    const order = this.orders.get(work.orderId)!;
    const entry = this.byEntry.get(work.entryId);
    if (!entry) return left('The learner is not in the roll any more.');
    if (!isIn(entry)) return left('The learner is left out.');
    const begins = work.state === 'owed' || work.state === 'blocked';
    if (begins && all.some((other) => isNewer(other, work)))
      return left('Something newer of the same learner came before this could be done.');
    const { content } = order;
    if (begins && this.looksAtGone(order))
      return {
        ...wrong('The order looks at a column that is gone. Switch it off, and choose another one.'),
        state: 'blocked',
      };
    if (begins && content.if && !holds(content.if, entry, this.of.planning.roll.columns))
      return left('The order is not for this learner, by its condition.');
    const planned = this.planned.get(entry.id) ?? [];
    if (planned.length === 0) return wrong('The sorting gives no paper to this learner.');
    const stale = planned.filter((paper) => !this.of.planning.present.isUpToDate(paper));
    // Nothing is begun with that could not be ended.
    const blocked =
      (stale.length > 0 ? this.blocks.press.of(entry.id) : null) ??
      (content.then.kind === 'keep' ? null : this.blocks.dispatch.of(entry.id));
    if (blocked !== null)
      return { state: 'blocked', why: blocked.slice(0, WHY_MOST), isWrong: true, until: null };
    if (begins) {
      const begun = this.begunToday.get(order.id);
      if (begun !== undefined && begun >= content.most!)
        return {
          state: 'owed',
          why: `The order takes ${content.most} learners a day, and has done so today. It goes on tomorrow.`,
          notBefore: this.tomorrow(),
        };
      if (begun !== undefined) this.begunToday.set(order.id, begun + 1);
    }
    if (stale.length === 0) return this.ready(work, order);
    if (work.state === 'pressing') {
      const failed = (this.papers.get(entry.id) ?? []).find(
        ({ state, runId, templateId }) =>
          state === 'failed' &&
          runId === work.runId &&
          stale.some((paper) => paper.templateId === templateId),
      );
      if (failed) return wrong(failed.reason ?? 'The paper could not be pressed.');
      if (this.runs.get(work.runId!) === 'stopped')
        return left('Somebody stopped the press run before this paper was made.');
    }
    // Pressed for the first time, or out of date by now: what was said of it counts for another paper.
    if (!begins) return this.anew(work);
    this.toPress.push(work);
    return null;
  }

  /** True where its condition looks at a column that is gone: it would hold for nobody, without a word. */
  private looksAtGone({ content }: StandingOrderRow): boolean {
    const { columns } = this.of.planning.roll;
    return (
      content.if !== null &&
      columnsOf(content.if).some((columnId) => !columns.some(({ id }) => id === columnId))
    );
  }

  private ready(work: OrderWorkRow, { isOn, content: { then } }: StandingOrderRow): Outcome | null {
    const { now } = this.of;
    const startedAt = work.startedAt ?? now;
    // Somebody has switched it off meanwhile: nothing leaves any more but by a person's word.
    if (!isOn && work.state !== 'said yes')
      return { state: 'owed', why: 'The order was switched off. It goes on once it is on again.', startedAt };
    const papers = this.papers.get(work.entryId) ?? [];
    const held = papers.find(({ state }) => state === 'held');
    if (work.state === 'said yes') {
      this.toSend.push(work);
      return null;
    }
    if (work.state === 'asked') {
      if (then.kind !== 'ask' || then.else === 'keep' || held || !this.clears)
        return wrong('Nobody said yes in time. The paper lies in the register.');
      this.toSend.push(work);
      return null;
    }
    if (then.kind === 'keep') return { state: 'kept', why: held?.reason ?? null, startedAt };
    if (papers.length > 0 && papers.every(({ state }) => state === 'dispatched'))
      return { state: 'sent', why: 'The family had this paper already.', startedAt };
    // Somebody has said yes to these very papers, and something else was to be mended before they could leave.
    const hasYes = work.saidBy !== null && papers.every(({ state }) => state !== 'pressed');
    // Nobody is asked about what cannot leave.
    const unreached = then.kind === 'ask' ? this.whyUnreached(work.entryId) : null;
    if (unreached !== null) return { ...wrong(unreached), startedAt };
    const ask = this.whyAsked(then.kind === 'ask' && !hasYes, held, papers);
    if (ask !== null) {
      const hours = then.kind === 'ask' ? then.hours : null;
      const until = hours === null ? null : new Date(now.getTime() + hours * 3_600_000);
      return { state: 'asked', why: ask || null, until, startedAt };
    }
    this.toSend.push(work);
    return null;
  }

  /** Why no note can be written for an entry; null where one can. */
  private whyUnreached(entryId: string): string | null {
    const { writings, templates, by, roll } = this.of.planning;
    const entry = this.byEntry.get(entryId)!;
    const goes = notesWith(writingsOf(writings, 'note'), templates, by);
    const notes = (this.planned.get(entryId) ?? []).flatMap(({ templateId }) => goes(entry, templateId));
    const [first] = notes;
    if (first && notes.some(({ content }) => isReached(content, entry))) return null;
    return first
      ? notReached(whyNobody(first.content, entry, roll.columns))
      : 'No cover note goes to this learner.';
  }

  /** Why a person has to say yes; blank where the order says so, null where nobody has to. */
  private whyAsked(asks: boolean, held: PaperRow | undefined, papers: readonly PaperRow[]): string | null {
    if (held) return (held.reason ?? 'The paper is held.').slice(0, WHY_MOST);
    if (asks) return '';
    return !this.clears && papers.some(({ state }) => state === 'pressed')
      ? 'This school wants somebody to clear papers before they leave.'
      : null;
  }

  private anew({ tries }: OrderWorkRow): Outcome {
    const wait = Math.min(AGAIN.most, AGAIN.first * 2 ** tries);
    return {
      state: 'owed',
      why: 'Something in the paper became another one before it could leave; it is pressed anew.',
      notBefore: new Date(this.of.now.getTime() + wait),
      until: null,
      runId: null,
      tries: Math.min(tries + 1, 20),
    };
  }

  private tomorrow(): Date {
    const { now, timeZone } = this.of;
    const today = dayBegins(dayIn(now, timeZone), timeZone);
    return dayBegins(dayIn(new Date(today.getTime() + 30 * 3_600_000), timeZone), timeZone);
  }

  private async press(): Promise<boolean> {
    const { manager, queue, place, toPress, findings } = this;
    const names = [...new Set(toPress.map(({ orderId }) => this.orders.get(orderId)!.content.name))];
    try {
      const { run } = await planRun(
        manager,
        queue,
        {
          ...place,
          staffId: null,
          entryIds: [...new Set(toPress.map(({ entryId }) => entryId))],
          orders: names,
        },
        { planning: this.of.planning, findings },
      );
      const startedAt = this.of.now;
      for (const work of toPress)
        await this.end(
          work,
          run
            ? { state: 'pressing', runId: run.id, startedAt: work.startedAt ?? startedAt }
            : this.anew(work),
        );
      return run !== null;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      for (const work of toPress) await this.end(work, { ...wrong(error.message), state: 'blocked' });
      return false;
    }
  }

  private async send(): Promise<number> {
    const { manager, place, toSend, findings } = this;
    const { planning, posting, now } = this.of;
    const entryIds = new Set(toSend.map(({ entryId }) => entryId));
    const all = async (outcome: Outcome): Promise<number> => {
      for (const work of toSend) await this.end(work, outcome);
      return 0;
    };
    const sorted = await sortPapers(manager, planning.folio, posting.address, {
      planning,
      findings,
      entryIds,
    });
    const [blocked] = sorted.plan.blocked;
    if (blocked !== undefined) return all({ ...wrong(blocked), state: 'blocked' });
    const { first, again, corrected, waits } = sorted;
    const bundles = [...first, ...again, ...corrected];
    const ended = bundles.find(({ link }) => link && link.ends <= now.toISOString().slice(0, 10));
    if (ended)
      return all({
        ...wrong(`The private links of the cover note end on ${ended.link!.ends}. Let them work longer.`),
        state: 'blocked',
      });
    try {
      const accountId = await accountFor(manager, { schoolId: place.schoolId, staffId: null });
      const queueing = { ...place, staffId: null, posting, accountId };
      await queueBundles(manager, queueing, [...first, ...again], apartAsFirst);
      await queueBundles(manager, queueing, corrected, onceMore);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      return all({ ...wrong(error.message), state: 'blocked' });
    }
    const sent = new Set(bundles.flatMap(({ envelope }) => envelope.entries.map(({ id }) => id)));
    for (const work of toSend)
      await this.end(work, {
        startedAt: work.startedAt ?? now,
        ...(sent.has(work.entryId)
          ? { state: 'sent' as const, why: null }
          : this.notSent(work, waits.get(work.entryId))),
      });
    return bundles.length;
  }

  private notSent(work: OrderWorkRow, wait: Wait | undefined): Outcome {
    switch (wait?.for) {
      case 'outOfDate':
        return this.anew(work);
      case 'held':
        return { state: 'asked', why: 'The paper is held.', until: null };
      case 'notCleared':
        return {
          state: 'asked',
          why: 'This school wants somebody to clear papers before they leave.',
          until: null,
        };
      case 'address':
        return wrong(notReached(wait.reason));
      case undefined:
        return { state: 'sent', why: 'The family had this paper already.' };
    }
  }

  /** Writes down what became of a work. */
  private async end(work: OrderWorkRow, outcome: Outcome): Promise<void> {
    const state = outcome.state ?? work.state;
    const ends = state === 'sent' || state === 'kept' || state === 'left';
    // Who was told of another state is told of this one; what is blocked still was told.
    const isStill = state === 'blocked' && work.isWrong;
    const isNew = (outcome.why ?? null) !== work.why || (state !== work.state && !isStill);
    await this.manager.update(
      OrderWorkRow,
      { id: work.id },
      {
        isWrong: false,
        ...outcome,
        state,
        why: outcome.why ?? null,
        endedAt: ends ? this.of.now : null,
        ...(isNew ? { toldAt: null } : {}),
      },
    );
    if (ends || state === 'asked' || state === 'pressing')
      await this.manager.update(StandingOrderRow, { id: work.orderId }, { lastAt: this.of.now });
  }
}

/** What blocks everybody, and what blocks one. */
class Blocks {
  private all: string | null = null;
  private readonly one = new Map<string, string>();

  add({ entryIds, message }: Finding): void {
    if (entryIds.length === 0) this.all ??= message;
    for (const id of entryIds) if (!this.one.has(id)) this.one.set(id, message);
  }

  of(entryId: string): string | null {
    return this.all ?? this.one.get(entryId) ?? null;
  }
}

const left = (why: string): Outcome => ({ state: 'left', why: why.slice(0, WHY_MOST) });
/** Nothing is done, and somebody has to know. */
const wrong = (why: string): Outcome => ({ ...left(why), isWrong: true });

const isNewer = (a: OrderWorkRow, b: OrderWorkRow): boolean =>
  a !== b &&
  a.orderId === b.orderId &&
  a.entryId === b.entryId &&
  (a.state === 'owed' || a.state === 'blocked') &&
  (a.owedAt > b.owedAt || (a.owedAt.getTime() === b.owedAt.getTime() && a.id > b.id));

/** That nobody can be written to. */
const notReached = (reason: string): string =>
  `${capital(reason)}. The paper lies in the register, to be printed.`;

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
