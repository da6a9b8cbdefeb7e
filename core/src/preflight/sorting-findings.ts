import { columnsOf, type Condition } from '../condition/index.js';
import type { Entry, Roll } from '../roll/index.js';
import { countsOf, type SortedBy, type Sorter } from '../sorting/index.js';
import type { SortingOutcome } from '../template/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** A template as far as it matters whether a rule gives it. */
interface Given {
  readonly id: string;
  readonly content: { readonly name: string; readonly variant?: unknown };
}

/**
 * What is worth a look in the rules that say who gets which papers: rules that take nobody, that give what is not there or is
 * off, that look at columns which are gone; learners whom several rules would take, and those who get nothing.
 */
export function sortingFindings(
  { entries, columns }: Roll,
  { sorting: { rules } }: SortedBy,
  templates: readonly Given[],
  sorted: Sorter<Given>,
): Finding[] {
  if (rules.length === 0) return [];
  const roll = { entries, columns };
  const counts = countsOf(entries, sorted, rules.length);
  const known = new Set(columns.map(({ id }) => id));
  const there = new Set(templates.map(({ id }) => id));
  const findings: Finding[] = [];
  const about = { place: 'sorting' } as const;
  for (const [at, { if: condition, then }] of rules.entries()) {
    const rule = at + 1;
    const { entries: taken, overtaken } = counts.rules[at]!;
    if (condition && columnsOf(condition).some((id) => !known.has(id)))
      findings.push(look(about, 'rule-column-gone', { rule }));
    else if (condition && isWritten(then) && taken.length === 0 && overtaken.length === 0)
      findings.push(look(about, 'rule-nobody', { rule }));
    if (then.kind !== 'out' && (then.templates.length === 0 || then.templates.some((id) => !there.has(id))))
      findings.push(look(about, 'rule-gives-gone', { rule, chosen: then.templates.length }));
    const unclear = overtaken.filter((entry) => !isStep(rules[sorted(entry).by!]!.if, condition));
    if (unclear.length > 0) {
      const first = [...new Set(unclear.map((entry) => sorted(entry).by! + 1))].sort((a, b) => a - b);
      const said = { rule, first, who: who(unclear, roll) };
      findings.push(look({ ...about, entries: unclear }, 'rules-overlap', said));
    }
  }
  if (counts.without.length > 0) {
    const [nobody, nothing] = parted(counts.without, (entry) => sorted(entry).by === null);
    if (nobody.length > 0)
      findings.push(look({ ...about, entries: nobody }, 'sorting-nobody', { who: who(nobody, roll) }));
    if (nothing.length > 0)
      findings.push(look({ ...about, entries: nothing }, 'sorting-nothing', { who: who(nothing, roll) }));
  }
  return findings;
}

/** Comparisons of which one that is further on fits those too whom the one before fits. */
const STEPS = [
  ['over', 'at least'],
  ['under', 'at most'],
];

/** True where two rules are steps of one column, such as at least 30 and at least 20: there the first one is meant to count. */
function isStep(one: Condition | null, other: Condition | null): boolean {
  if (!one || !other || !('columnId' in one) || !('columnId' in other)) return false;
  return (
    one.columnId === other.columnId && STEPS.some((step) => step.includes(one.is) && step.includes(other.is))
  );
}

const isWritten = (then: SortingOutcome): boolean => then.kind === 'out' || then.templates.length > 0;

function parted(entries: readonly Entry[], is: (entry: Entry) => boolean): [Entry[], Entry[]] {
  return [entries.filter(is), entries.filter((entry) => !is(entry))];
}
