import type { Column } from '../column/index.js';
import { valueOf, type Entry } from '../roll/index.js';
import { saying, type Saying } from '../sentences/index.js';
import type { CellTest, Condition, Made } from './condition.js';
import { columnOf, compares, isMade, NOTHING_KNOWN } from './holds.js';
import { sayCell } from './say.js';

/** Whether a condition holds for an entry, and why, as a sentence without its full stop. */
export interface Verdict {
  readonly holds: boolean;
  readonly why: Saying;
}

/** Looks whether a condition holds for an entry. A test of a column that is gone never does. */
export function evaluate(
  condition: Condition,
  entry: Entry,
  columns: readonly Column[],
  made: Made = NOTHING_KNOWN,
): Verdict {
  if ('not' in condition) {
    const { holds, why } = evaluate(condition.not, entry, columns, made);
    return { holds: !holds, why };
  }
  if ('all' in condition) {
    const verdicts = condition.all.map((one) => evaluate(one, entry, columns, made));
    const failed = verdicts.filter(({ holds }) => !holds);
    if (failed.length > 0) return { holds: false, why: failed[0]!.why };
    return { holds: true, why: saying('because-all', { why: verdicts.map(({ why }) => why) }) };
  }
  if ('any' in condition) {
    const verdicts = condition.any.map((one) => evaluate(one, entry, columns, made));
    const held = verdicts.find(({ holds }) => holds);
    return held ?? { holds: false, why: saying('because-none', { why: verdicts.map(({ why }) => why) }) };
  }
  if ('papers' in condition) {
    const papers = made.isNew ? 'new' : made.changed ? 'changed' : 'not changed';
    return { holds: isMade(condition, made), why: saying('because-papers', { papers }) };
  }
  return test(condition, entry, columns);
}

function test(one: CellTest, entry: Entry, columns: readonly Column[]): Verdict {
  const column = columnOf(one.columnId, columns);
  if (!column) return { holds: false, why: saying('because-gone') };
  const fits = compares(one, entry, column);
  return { holds: fits, why: sayCell(column, valueOf(entry, column.id).trim(), fits ? null : one) };
}
