import { learnerName, nameColumns, valueOf, type Entry, type Roll } from '../roll/index.js';
import { saying, type Saying } from '../sentences/index.js';
import type { Sorter } from '../sorting/index.js';
import type { Finding } from './finding.js';

/** Somebody whose paper is worth a try, and why. */
export interface Difficult {
  readonly entry: Entry;
  readonly why: readonly Saying[];
}

const RIGHT_TO_LEFT = /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}]/u;
const letters = new Intl.Segmenter(undefined, { granularity: 'grapheme' });
const lengthOf = (text: string): number => [...letters.segment(text)].length;

/**
 * The learners whose papers are most likely to come out wrong: the longest and the shortest name, a name from right to left, the
 * longest text, the most blank cells, the most findings, more pages than others, and one for each rule of the sorting.
 *
 * @param roll of those who get papers.
 * @returns each learner once, in the order of the roll.
 */
export function difficultEntries(
  roll: Roll,
  findings: readonly Finding[],
  sorted: Sorter<unknown>,
): Difficult[] {
  const { columns, entries } = roll;
  const reasons = new Map<Entry, Saying[]>();
  const add = (entry: Entry | undefined, why: Saying): void => {
    if (entry) reasons.set(entry, [...(reasons.get(entry) ?? []), why]);
  };
  const most = (of: (entry: Entry) => number): Entry | undefined => {
    let [best, value] = [undefined as Entry | undefined, 0];
    for (const entry of entries) {
      const own = of(entry);
      if (own > value) [best, value] = [entry, own];
    }
    return best;
  };
  const names = nameColumns(columns);
  const nameOf = new Map(entries.map((entry) => [entry, learnerName(entry, names)]));
  const longest = Math.max(0, ...[...nameOf.values()].map(lengthOf));
  add(
    most((entry) => lengthOf(nameOf.get(entry)!)),
    saying('try-longest-name'),
  );
  add(
    most((entry) => longest + 1 - lengthOf(nameOf.get(entry)!)),
    saying('try-shortest-name'),
  );
  add(
    entries.find((entry) => RIGHT_TO_LEFT.test(nameOf.get(entry)!)),
    saying('try-right-to-left'),
  );
  const textOf = (entry: Entry): number =>
    columns.reduce((sum, { id }) => sum + valueOf(entry, id).length, 0);
  add(most(textOf), saying('try-longest-text'));
  add(
    most((entry) => columns.filter(({ id }) => valueOf(entry, id) === '').length),
    saying('try-most-blank'),
  );
  const found = new Map<string, number>();
  for (const { entryIds } of findings) for (const id of entryIds) found.set(id, (found.get(id) ?? 0) + 1);
  add(
    most((entry) => found.get(entry.id) ?? 0),
    saying('try-most-findings'),
  );
  const long = new Set(
    findings.filter(({ code }) => code === 'pages-more').flatMap(({ entryIds }) => entryIds),
  );
  add(
    entries.find(({ id }) => long.has(id)),
    saying('try-more-pages'),
  );
  const shown = new Set<number>();
  for (const entry of entries) {
    const { by, also, templates } = sorted(entry);
    if (templates.length === 0) continue;
    for (const rule of [...(by === null ? [] : [by]), ...also])
      if (!shown.has(rule)) {
        shown.add(rule);
        add(entry, saying('try-rule', { rule: rule + 1 }));
      }
  }
  return entries.flatMap((entry) => {
    const why = reasons.get(entry);
    return why ? [{ entry, why }] : [];
  });
}
