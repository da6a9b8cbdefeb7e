import { mean, median } from 'd3-array';
import type { Column } from '../column/index.js';
import { splitChoices } from '../column/index.js';
import { meaningOf, valueOf, type Entry } from '../roll/index.js';
import type { Form, FormItem } from './form.js';
import { columnIdsOf } from './given.js';
import { cellsOf } from './pages.js';
import { wordsIn } from './words-in.js';

/** One answer, and who gave it. */
export interface Tally {
  readonly label: string;
  readonly entryIds: readonly string[];
  /** It was written instead of one of the choices. */
  readonly isOther: boolean;
}

export interface Numbers {
  readonly all: readonly number[];
  readonly least: number;
  readonly most: number;
  readonly mean: number;
  readonly median: number;
}

/** What was answered to one question. */
export interface ItemSummary {
  readonly itemId: string;
  readonly title: string;
  /** Who answered it, in the order of the roll. */
  readonly entryIds: readonly string[];
  /** Answers that are counted; of a grid, each row has its own. */
  readonly rows: readonly { readonly title: string; readonly tallies: readonly Tally[] }[];
  /** True where one entry may stand in several tallies. */
  readonly several: boolean;
  readonly numbers: Numbers | null;
  /** The last answers in people's own words, the newest first, of those that are not counted. */
  readonly texts: readonly { readonly text: string; readonly entryId: string }[];
}

/** What was answered to a form. */
export interface FormSummary {
  /** Entries that answered. */
  readonly entryIds: readonly string[];
  readonly items: readonly ItemSummary[];
}

/** Texts that are shown, and different ones that are counted still. */
const TEXTS = 5;
const COUNTED = 12;

/**
 * Sums up what was answered to a form, as the cells say it now, mends among them. Choices that are taken out of the form since are counted
 * by their words.
 *
 * @param formId of the form: entries that are its answers, and learners' own entries in which one of its columns is filled.
 */
export function summaryOf(
  formId: string,
  form: Form,
  { entries, columns }: { readonly entries: readonly Entry[]; readonly columns: readonly Column[] },
): FormSummary {
  const own = columns.filter(({ sourceId }) => sourceId === formId).map(({ id }) => id);
  const answered = entries.filter(
    (entry) =>
      entry.answered === formId ||
      (entry.answered === undefined && own.some((id) => valueOf(entry, id).trim() !== '')),
  );
  const byId = new Map(columns.map((column) => [column.id, column]));
  const items = form.items.filter((item) => 'label' in item);
  return {
    entryIds: answered.map(({ id }) => id),
    items: items.map((item) => itemSummary(item, form.languages[0]!, answered, byId)),
  };
}

type Labelled = Extract<FormItem, { label: unknown }>;
type Columns = ReadonlyMap<string, Column>;

function itemSummary(
  item: Labelled,
  first: string,
  entries: readonly Entry[],
  columns: Columns,
): ItemSummary {
  const ids = columnIdsOf(item);
  const given = entries.filter((entry) => ids.some((id) => valueOf(entry, id).trim() !== ''));
  const [id = ''] = ids;
  const several = item.kind === 'several' || (item.kind === 'grid' && item.several);
  const plain: ItemSummary = {
    itemId: item.id,
    title: wordsIn(item.label, first, first),
    entryIds: given.map((entry) => entry.id),
    rows: [],
    several,
    numbers: null,
    texts: [],
  };
  const count = (columnId: string, offered: readonly string[]): Tally[] =>
    tally(given, (entry) => saidIn(entry, columnId, several, columns), offered);
  switch (item.kind) {
    case 'one':
    case 'several':
      return { ...plain, rows: [{ title: '', tallies: count(id, offeredBy(item, id, first, columns)) }] };
    case 'grid':
      return {
        ...plain,
        rows: item.rows.map((row) => ({
          title: wordsIn(row.label, first, first),
          tallies: count(row.id, offeredBy(item, row.id, first, columns)),
        })),
      };
    case 'scale': {
      const steps = Array.from({ length: item.to - item.from + 1 }, (_, n) => String(item.from + n));
      return {
        ...plain,
        rows: [{ title: '', tallies: count(id, steps) }],
        numbers: numbersIn(given, id, columns),
      };
    }
    case 'number':
      return {
        ...plain,
        rows: counted(plain, given, id, 'in order').rows,
        numbers: numbersIn(given, id, columns),
      };
    case 'consent': {
      const agreed = new Set(given);
      const isYes = (entry: Entry): string => (agreed.has(entry) ? 'Yes' : 'No');
      return {
        ...plain,
        rows: [{ title: '', tallies: tally(entries, (entry) => [isYes(entry)], ['Yes', 'No']) }],
      };
    }
    case 'date':
    case 'time':
      return counted(plain, given, id, 'in order');
    case 'short':
      return counted(plain, given, id, 'by count');
    case 'long':
      return { ...plain, texts: lastTexts(given, id) };
    default:
      // Names, addresses, files and signatures are nobody's business in a summary: that they are there is told.
      return plain;
  }
}

/** The choices as they stand in cells. */
function offeredBy(
  item: Extract<FormItem, { kind: 'one' | 'several' | 'grid' }>,
  columnId: string,
  first: string,
  columns: Columns,
): string[] {
  const between = (id: string): string => columns.get(id)?.format?.separator ?? ',';
  return item.choices.flatMap(
    (choice) => cellsOf(item, { [columnId]: [choice.id] }, first, between)[columnId] || [],
  );
}

function saidIn(entry: Entry, columnId: string, several: boolean, columns: Columns): string[] {
  const text = valueOf(entry, columnId).trim();
  if (text === '') return [];
  return several ? [...new Set(splitChoices(text, columns.get(columnId)?.format?.separator ?? ','))] : [text];
}

/** Counts answers: those that are offered in their order, then others by how many gave them. */
function tally(
  entries: readonly Entry[],
  saidBy: (entry: Entry) => readonly string[],
  offered: readonly string[],
): Tally[] {
  const counts = new Map(
    offered.map((label) => [plainOf(label), { label, entryIds: [] as string[], isOther: false }]),
  );
  for (const entry of entries)
    for (const said of saidBy(entry)) {
      const key = plainOf(said);
      const one = counts.get(key) ?? { label: said, entryIds: [], isOther: true };
      counts.set(key, one);
      one.entryIds.push(entry.id);
    }
  const all = [...counts.values()];
  const others = all.filter(({ isOther }) => isOther).sort((a, b) => b.entryIds.length - a.entryIds.length);
  return [...all.filter(({ isOther }) => !isOther), ...others];
}

const plainOf = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim().toLowerCase();

function numbersIn(entries: readonly Entry[], columnId: string, columns: Columns): Numbers | null {
  const column = columns.get(columnId);
  if (!column) return null;
  const all = entries.flatMap((entry) => {
    const value = meaningOf(entry, column);
    return value.kind === 'number' ? Number(value.decimal) : [];
  });
  if (all.length === 0) return null;
  return {
    all,
    least: Math.min(...all),
    most: Math.max(...all),
    mean: mean(all)!,
    median: median(all)!,
  };
}

/** Dates and times in their own order, numbers by what they are worth. */
const byLabel = (a: Tally, b: Tally): number =>
  Number(a.label) - Number(b.label) || (a.label < b.label ? -1 : 1);

/** Answers that are alike are counted, where there are few different ones; else the last ones are told. */
function counted(
  plain: ItemSummary,
  entries: readonly Entry[],
  columnId: string,
  order: 'in order' | 'by count',
): ItemSummary {
  const tallies = tally(entries, (entry) => [valueOf(entry, columnId).trim()].filter(Boolean), []);
  const isCounted = tallies.length > 0 && tallies.length <= COUNTED && tallies.length < entries.length;
  if (!isCounted) return { ...plain, texts: lastTexts(entries, columnId) };
  const sorted = order === 'in order' ? [...tallies].sort(byLabel) : tallies;
  return { ...plain, rows: [{ title: '', tallies: sorted.map((one) => ({ ...one, isOther: false })) }] };
}

const lastTexts = (entries: readonly Entry[], columnId: string): ItemSummary['texts'] =>
  [...entries]
    .sort((a, b) => b.position - a.position)
    .map((entry) => ({ text: valueOf(entry, columnId).trim(), entryId: entry.id }))
    .filter(({ text }) => text !== '')
    .slice(0, TEXTS);
