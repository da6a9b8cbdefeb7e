import { keyTroubles, meaningOf, valueOf, type Entry, type Roll } from '../roll/index.js';
import { readMoment, type Column, markWords } from '../column/index.js';
import type { Finding } from './finding.js';
import { block, look, who } from './say.js';

/**
 * What is wrong in the roll itself: nobody on it, cells that are not of their column's type, dates that can be read two
 * ways, keys that are blank or that two entries share.
 *
 * @param addressColumns those that are written to; their addresses are looked at with the cover note.
 */
export function rollFindings(roll: Roll, addressColumns: readonly string[]): Finding[] {
  if (roll.entries.length === 0) {
    return [block('press', 'roll', 'roll-empty')];
  }
  return [...typeFindings(roll, addressColumns), ...dateFindings(roll), ...keyFindings(roll)];
}

interface CellTroubles {
  readonly columns: readonly Column[];
  /** Columns whose cell is not of their type. */
  readonly wrong: readonly string[];
  /** Columns whose cell is a date that can be read two ways. */
  readonly unclear: readonly string[];
}

const knownWords = new WeakMap<readonly Column[], ReturnType<typeof markWords>>();

function wordsOf(columns: readonly Column[]): ReturnType<typeof markWords> {
  let words = knownWords.get(columns);
  if (!words) knownWords.set(columns, (words = markWords(columns)));
  return words;
}

/** Kept for as long as an entry and its columns stay the same: a large roll changes a cell at a time. */
const known = new WeakMap<Entry, CellTroubles>();

function troublesOf(entry: Entry, columns: readonly Column[]): CellTroubles {
  const before = known.get(entry);
  if (before?.columns === columns) return before;
  const words = wordsOf(columns);
  const wrong = columns
    .filter((column) => meaningOf(entry, column).kind === 'wrong')
    .filter(({ id }) => !words.get(id)?.has(valueOf(entry, id).trim().toLowerCase()))
    .map(({ id }) => id);
  const unclear = columns
    .filter((column) => (column.type === 'date' || column.type === 'date-time') && !column.format?.dateOrder)
    .filter(({ id }) => !entry.exact?.[id] && readMoment(valueOf(entry, id))?.ambiguous)
    .map(({ id }) => id);
  const troubles = { columns, wrong, unclear };
  known.set(entry, troubles);
  return troubles;
}

function typeFindings({ columns, entries }: Roll, addressColumns: readonly string[]): Finding[] {
  const wrong = new Map<string, Entry[]>();
  for (const entry of entries) {
    for (const id of troublesOf(entry, columns).wrong) {
      const found = wrong.get(id);
      if (found) found.push(entry);
      else wrong.set(id, [entry]);
    }
  }
  return [...wrong].flatMap(([columnId, found]) => {
    const column = columns.find(({ id }) => id === columnId)!;
    if (addressColumns.includes(columnId)) return [];
    const { title, type = 'text' } = column;
    const roll = { columns, entries };
    const about = { place: 'roll', entries: found, columnId } as const;
    const sample = valueOf(found[0], columnId).slice(0, 40);
    if (sample === '') return [look(about, 'type-error', { title, who: who(found, roll) })];
    const said = { title, type, cells: found.length, sample, first: who(found.slice(0, 1), roll) };
    return [look(about, 'type-wrong', said)];
  });
}

function dateFindings({ columns, entries }: Roll): Finding[] {
  const first = new Map<string, Entry>();
  for (const entry of entries) {
    for (const id of troublesOf(entry, columns).unclear) if (!first.has(id)) first.set(id, entry);
  }
  return [...first].map(([columnId, entry]) =>
    look({ place: 'roll', columnId }, 'date-order', {
      title: columns.find(({ id }) => id === columnId)?.title ?? '',
      cell: valueOf(entry, columnId),
    }),
  );
}

function keyFindings(roll: Roll): Finding[] {
  const { repeated, blank } = keyTroubles(roll);
  const titles = roll.columns.filter(({ id }) => roll.key?.includes(id)).map(({ title }) => title);
  const findings: Finding[] = [];
  if (repeated.length > 0) {
    const entries = repeated.flat();
    findings.push(look({ place: 'roll', entries }, 'key-repeated', { titles, who: who(entries, roll) }));
  }
  if (blank.length > 0)
    findings.push(look({ place: 'roll', entries: blank }, 'key-blank', { titles, who: who(blank, roll) }));
  return findings;
}
