import { evaluate, holds } from '@scriptum/core/condition';
import { dayOf } from '@scriptum/core/order';
import { isIn, type Entry, type Roll } from '@scriptum/core/roll';
import { say } from '@scriptum/core/sentences';
import { dayIn } from '@scriptum/core/time';
import { In, type EntityManager } from 'typeorm';
import { OrderWorkRow, type StandingOrderRow } from '../store/entities/orders.js';
import { SourceRow } from '../store/entities/folio.js';
import { FormAnswerRow } from '../store/entities/intake.js';
import { WatchedRow } from '../store/entities/watched.js';
import { ANSWERED, cellsOf, onDay, type Owed } from './owe.js';

/** An entry that an order passes over, and why. */
export interface Passed {
  readonly entryId: string;
  readonly why: string;
}

/**
 * Whom an order takes at a set time, or by somebody's word, and whom it passes over.
 *
 * @param timeZone of the school, whose days count.
 * @param now true where somebody says so: also those take part whose time came while it was off.
 */
export async function whomFor(
  manager: EntityManager,
  { id, schoolId, folioId, content, onAt }: StandingOrderRow,
  { entries, columns }: Roll,
  { at, timeZone, now }: { readonly at: Date; readonly timeZone: string; readonly now: boolean },
): Promise<{ takes: Owed[]; passed: Passed[] }> {
  const rows = await manager.find(OrderWorkRow, {
    select: { entryId: true, version: true },
    where: { orderId: id },
  });
  const known = new Set(rows.map(({ entryId, version }) => `${entryId} ${version}`));
  const isAnswered = await answeredBy(manager, { schoolId, folioId }, content.when);
  const day = dayIn(at, timeZone);
  const since = onAt ? dayIn(onAt, timeZone) : day;
  const takes: Owed[] = [];
  const passed: Passed[] = [];
  for (const entry of entries) {
    const why = notFor(entry);
    if (why !== null) {
      passed.push({ entryId: entry.id, why });
      continue;
    }
    const version = versionOf(entry);
    if (typeof version !== 'string') passed.push({ entryId: entry.id, why: version.why });
    else if (known.has(`${entry.id} ${version}`))
      passed.push({ entryId: entry.id, why: 'done already, and nothing is new' });
    else takes.push({ entryId: entry.id, version });
  }
  return { takes, passed };

  function notFor(entry: Entry): string | null {
    if (!isIn(entry)) return 'left out';
    const { if: condition } = content;
    if (!condition || holds(condition, entry, columns)) return null;
    return say(evaluate(condition, entry, columns).why);
  }

  function versionOf(entry: Entry): string | { why: string } {
    const { when, missed } = content;
    switch (when.kind) {
      case 'answer':
        return isAnswered(entry) ? ANSWERED : { why: 'no answer yet' };
      case 'day': {
        const own = dayOf(when, entry, columns);
        if (own === null) return { why: 'no day in the row' };
        if (own > day) return { why: `the day comes on ${own}` };
        const isLate = own < day && (missed === 'skip' || own < since);
        return isLate && !now ? { why: `the day came on ${own}` } : onDay(own);
      }
      default:
        return cellsOf(entry);
    }
  }
}

/**
 * Tells which entries have answered what an order acts on: a form or a hook, in a row or in the learner's own entry, or a watched file, of
 * which each row is an answer.
 */
async function answeredBy(
  manager: EntityManager,
  place: { readonly schoolId: string; readonly folioId: string },
  when: StandingOrderRow['content']['when'],
): Promise<(entry: Entry) => boolean> {
  if (when.kind !== 'answer') return () => false;
  const { formId } = when;
  const of = formId === null ? {} : { writingId: formId };
  const [answers, watched] = await Promise.all([
    manager.find(FormAnswerRow, { select: { entryId: true }, where: { ...place, ...of } }),
    manager.findBy(WatchedRow, { ...place, ...(formId === null ? {} : { id: formId }) }),
  ]);
  const known = new Set(answers.map(({ entryId }) => entryId));
  const sourceId = In(watched.map((one) => one.sourceId));
  const isWatched =
    watched.length > 0 && (await manager.existsBy(SourceRow, { ...place, kind: 'base', id: sourceId }));
  return ({ id, answered, byHand }) => known.has(id) || (isWatched && answered === undefined && !byHand);
}
