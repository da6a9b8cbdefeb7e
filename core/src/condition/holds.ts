import { readMoment, readNumber, readPercentage, type Column, type Value } from '../column/index.js';
import { ratio } from '../ratio/index.js';
import { meaningOf, valueOf, type Entry } from '../roll/index.js';
import type { CellTest, Condition, Made, PaperTest } from './condition.js';

/** Of an entry of which nothing is said. */
export const NOTHING_KNOWN: Made = { isNew: false, changed: false };

/** As `evaluate`, without why: for where many entries are looked at, and for where nobody asks. */
export function holds(
  condition: Condition,
  entry: Entry,
  columns: readonly Column[],
  made: Made = NOTHING_KNOWN,
): boolean {
  if ('not' in condition) return !holds(condition.not, entry, columns, made);
  if ('all' in condition) return condition.all.every((one) => holds(one, entry, columns, made));
  if ('any' in condition) return condition.any.some((one) => holds(one, entry, columns, made));
  if ('papers' in condition) return isMade(condition, made);
  const column = columnOf(condition.columnId, columns);
  return column !== undefined && compares(condition, entry, column);
}

export function isMade({ papers }: PaperTest, { isNew, changed }: Made): boolean {
  switch (papers) {
    case 'new':
      return isNew;
    case 'not new':
      return !isNew;
    case 'changed':
      return changed;
    case 'not changed':
      return !changed;
  }
}

export const compares = (one: CellTest, entry: Entry, column: Column): boolean =>
  compare(one, valueOf(entry, column.id).trim(), meaningOf(entry, column), column);

const known = new WeakMap<readonly Column[], ReadonlyMap<string, Column>>();

export function columnOf(columnId: string, columns: readonly Column[]): Column | undefined {
  let byId = known.get(columns);
  if (!byId) known.set(columns, (byId = new Map(columns.map((column) => [column.id, column]))));
  return byId.get(columnId);
}

function compare({ is, values }: CellTest, text: string, value: Value, column: Column): boolean {
  const items = value.kind === 'list' ? value.items : [text];
  const [first = '', second = ''] = values;
  const any = (wanted: string): boolean => items.some((item) => isSame(item, wanted, value, column));
  switch (is) {
    case 'blank':
      return text === '';
    case 'not blank':
      return text !== '';
    case 'equal':
      return any(first);
    case 'unequal':
      return !any(first);
    case 'one of':
      return values.some(any);
    case 'none of':
      return !values.some(any);
    case 'contains':
      return has(items, value, first);
    case 'contains not':
      return !has(items, value, first);
    case 'begins with':
      return plain(text).startsWith(plain(first));
    case 'true':
    case 'false':
      return value.kind === 'truth' && value.truth === (is === 'true');
    case 'under':
      return order(text, first, value, column, (sign) => sign < 0);
    case 'at most':
      return order(text, first, value, column, (sign) => sign <= 0);
    case 'over':
      return order(text, first, value, column, (sign) => sign > 0);
    case 'at least':
      return order(text, first, value, column, (sign) => sign >= 0);
    case 'between':
      return (
        order(text, first, value, column, (sign) => sign >= 0) &&
        order(text, second, value, column, (sign) => sign <= 0)
      );
  }
}

/** Of several choices one of them; of a text a part of it. */
const has = (items: readonly string[], value: Value, wanted: string): boolean =>
  value.kind === 'list'
    ? items.some((item) => plain(item) === plain(wanted))
    : plain(items[0] ?? '').includes(plain(wanted));

/** Blank cells, and cells that are none of the kind, are in no order with anything. */
function order(
  text: string,
  wanted: string,
  value: Value,
  column: Column,
  accept: (sign: number) => boolean,
): boolean {
  if (text === '') return false;
  const sign = signOf(text, wanted, value, column);
  return sign !== null && accept(sign);
}

function signOf(text: string, wanted: string, value: Value, column: Column): number | null {
  if (isNumber(wanted)) {
    const number = numberOf(text, value, column);
    return number === null ? null : ratio(number).compare(ratio(wanted));
  }
  if (isMoment(wanted)) {
    const moment = momentOf(text, value, column);
    if (moment === null) return null;
    // A day is before, at or after another day; a moment is only asked for its time where the other one has one.
    const length = wanted.length === 10 ? 10 : undefined;
    const [a, b] = [moment.slice(0, length), moment.length === 10 ? wanted.slice(0, 10) : wanted];
    return a < b ? -1 : a > b ? 1 : 0;
  }
  return collator.compare(text, wanted);
}

/** Numbers and days by what they mean, all else by its text; case and spaces do not count. */
function isSame(item: string, wanted: string, value: Value, column: Column): boolean {
  if (plain(item) === plain(wanted)) return true;
  if (item === '' || wanted === '') return false;
  if (!isNumber(wanted) && !isMoment(wanted)) return false;
  return signOf(item, wanted, value.kind === 'list' ? { kind: 'text', text: item } : value, column) === 0;
}

function numberOf(text: string, value: Value, column: Column): string | null {
  if (value.kind === 'number') return value.decimal;
  if (value.kind === 'date' || value.kind === 'truth') return null;
  const decimal = column.format?.decimal;
  return readNumber(text, decimal) ?? readPercentage(text, decimal);
}

function momentOf(text: string, value: Value, column: Column): string | null {
  if (value.kind === 'date') return value.iso;
  return value.kind === 'text' ? (readMoment(text, column.format?.dateOrder)?.iso ?? null) : null;
}

const isNumber = (text: string): boolean => /^-?\d+(\.\d+)?$/.test(text);
const isMoment = (text: string): boolean => /^\d{4}-\d\d-\d\d(T\d\d:\d\d(:\d\d)?)?$/.test(text);

const collator = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** Text as it is compared: case, spaces and how accents are coded do not count. */
const plain = (text: string): string => text.normalize('NFC').toLowerCase().replace(/\s+/g, ' ').trim();
