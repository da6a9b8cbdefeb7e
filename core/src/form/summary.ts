import { max, mean, median, min } from 'd3-array';
import { readValue, splitChoices, type Column } from '../column/index.js';
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

/** Answers of one kind, counted. */
export interface Counted {
  /** What the row of a grid is called; blank elsewhere. */
  readonly title: string;
  readonly tallies: readonly Tally[];
  /** Entries that were counted: what a share is a share of. */
  readonly of: number;
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
  readonly rows: readonly Counted[];
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
  const said = (columnId: string) => (entry: Entry) => saidIn(entry, columnId, several, columns);
  switch (item.kind) {
    case 'one':
    case 'several':
      return { ...plain, rows: [tally(given, said(id), offeredBy(item, id, first, columns))] };
    case 'grid':
      return {
        ...plain,
        rows: item.rows.map((row) =>
          tally(
            given,
            said(row.id),
            offeredBy(item, row.id, first, columns),
            wordsIn(row.label, first, first),
          ),
        ),
      };
    case 'scale': {
      const steps = Array.from({ length: item.to - item.from + 1 }, (_, n) => String(item.from + n));
      return { ...plain, rows: [tally(given, said(id), steps)], numbers: numbersIn(given, id, columns) };
    }
    case 'number': {
      const decimals = (entry: Entry): string[] => decimalIn(entry, columns.get(id));
      return {
        ...plain,
        rows: counted(plain, given, decimals, 'in order').rows,
        numbers: numbersIn(given, id, columns),
      };
    }
    case 'consent':
      // Who has not agreed is counted too.
      return { ...plain, rows: [tally(entries, (entry) => [agreedIn(entry, id)], ['Yes', 'No'])] };
    case 'date':
    case 'time':
      return counted(plain, given, said(id), 'in order', lastTexts(given, id));
    case 'short':
      return counted(plain, given, said(id), 'by count', lastTexts(given, id));
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

/** A cell that can be read as neither is told as it is. */
function agreedIn(entry: Entry, columnId: string): string {
  const text = valueOf(entry, columnId).trim();
  const value = readValue({ type: 'yes/no' }, text);
  if (value.kind === 'truth') return value.truth ? 'Yes' : 'No';
  return text || 'No';
}

/** Counts answers: those that are offered in their order, then others by how many gave them. */
function tally(
  entries: readonly Entry[],
  saidBy: (entry: Entry) => readonly string[],
  offered: readonly string[],
  title = '',
): Counted {
  const counts = new Map(
    offered.map((label) => [plainOf(label), { label, entryIds: [] as string[], isOther: false }]),
  );
  let of = 0;
  for (const entry of entries) {
    const all = saidBy(entry);
    if (all.length > 0) of++;
    for (const said of all) {
      const key = plainOf(said);
      const one = counts.get(key) ?? { label: said, entryIds: [], isOther: true };
      counts.set(key, one);
      one.entryIds.push(entry.id);
    }
  }
  const all = [...counts.values()];
  const others = all.filter(({ isOther }) => isOther).sort((a, b) => b.entryIds.length - a.entryIds.length);
  return { title, tallies: [...all.filter(({ isOther }) => !isOther), ...others], of };
}

const plainOf = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim().toLowerCase();

/** The number in a cell, written in one way however the cell writes it; none where there is no number. */
function decimalIn(entry: Entry, column: Column | undefined): string[] {
  const value = column && meaningOf(entry, column);
  return value?.kind === 'number' ? [String(Number(value.decimal))] : [];
}

function numbersIn(entries: readonly Entry[], columnId: string, columns: Columns): Numbers | null {
  const all = entries.flatMap((entry) => decimalIn(entry, columns.get(columnId)).map(Number));
  if (all.length === 0) return null;
  return { all, least: min(all)!, most: max(all)!, mean: mean(all)!, median: median(all)! };
}

/** Numbers by what they are worth; dates and times as they are written, which is their order. */
const byLabel = (a: Tally, b: Tally): number =>
  Number(a.label) - Number(b.label) || (a.label < b.label ? -1 : 1);

/** Answers that are alike are counted, where there are few different ones; else the last ones are told. */
function counted(
  plain: ItemSummary,
  entries: readonly Entry[],
  saidBy: (entry: Entry) => readonly string[],
  order: 'in order' | 'by count',
  texts: ItemSummary['texts'] = [],
): ItemSummary {
  const { tallies, of } = tally(entries, saidBy, []);
  if (tallies.length === 0 || tallies.length > COUNTED || tallies.length >= of) return { ...plain, texts };
  const sorted = order === 'in order' ? [...tallies].sort(byLabel) : tallies;
  return {
    ...plain,
    rows: [{ title: '', tallies: sorted.map((one) => ({ ...one, isOther: false })), of }],
  };
}

const lastTexts = (entries: readonly Entry[], columnId: string): ItemSummary['texts'] =>
  [...entries]
    .sort((a, b) => b.position - a.position)
    .map((entry) => ({ text: valueOf(entry, columnId).trim(), entryId: entry.id }))
    .filter(({ text }) => text !== '')
    .slice(0, TEXTS);
