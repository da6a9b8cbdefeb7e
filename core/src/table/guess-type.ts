import {
  readAddress,
  type ColumnFormat,
  type ColumnType,
  readMoment,
  type DateOrder,
  type ReadMoment,
  readExact,
  type Exact,
  guessDecimal,
  readNumber,
  readPercentage,
  isPhone,
  isPicture,
  isTruth,
  isWeb,
  splitChoices,
} from '../column/index.js';

export interface GuessedType {
  readonly type: ColumnType;
  readonly format?: ColumnFormat;
}

/** The share of the filled cells that must be of a type for the column to be taken as such. */
const ENOUGH = 0.85;
/** Cells that are looked at; a long column says no more in its second thousand. */
const SAMPLE = 2000;

const PHONE_TITLE = /phone|mobile|\btel\b|telephone|telefon|téléphone|teléfono|handy/i;

/**
 * The type of a column's cells. A type is taken where at least 85% of the filled cells are of it (common practice, no
 * published source); the others are findings later. What cannot be told apart is text, which never loses anything.
 */
export function guessType(
  title: string,
  cells: readonly { readonly text: string; readonly exact?: Exact | undefined }[],
  decimal?: '.' | ',',
): GuessedType {
  const filled = cells.filter(({ text }) => text.trim() !== '').slice(0, SAMPLE);
  if (filled.length === 0) return { type: 'text' };
  const share = (test: (text: string, kind: string | undefined) => boolean): number =>
    filled.filter(({ text, exact }) => test(text.trim(), exact && readExact(exact).kind)).length /
    filled.length;

  if (share((text) => readAddress(text).kind === 'address') >= 0.5) return { type: 'email' };
  if (share(isPicture) >= ENOUGH) return { type: 'picture' };
  if (share(isWeb) >= ENOUGH) return { type: 'web' };
  if (filled.length >= 3 && share((text) => isTruth(text) && /\D/.test(text)) === 1 && bothSides(filled))
    return { type: 'yes/no' };
  if (share((_text, kind) => kind === 'b') >= ENOUGH) return { type: 'yes/no' };

  const sign = decimal ?? guessDecimal(filled.map(({ text }) => text));
  const format = sign === ',' ? { format: { decimal: sign } } : {};
  if (share((text, kind) => kind === 'p' || readPercentage(text, sign) !== null) >= ENOUGH)
    return { type: 'percentage', ...format };
  const date = guessDate(filled);
  if (date) return date;
  if (PHONE_TITLE.test(title) && share(isPhone) >= ENOUGH) return { type: 'phone' };
  // A number with leading zeros among the others makes the column one of names made of digits.
  const coded = filled.some(({ text }) => /^0\d+$/.test(text.trim()));
  if (!coded && share((text, kind) => kind === 'n' || readNumber(text, sign) !== null) >= ENOUGH) {
    const long = filled.some(({ text, exact }) => !exact && text.replace(/\D/g, '').length > 15);
    if (!long) return { type: 'number', ...format };
  }
  if (share((text) => isPhone(text) && /^[+(0]|[\s-]/.test(text)) >= ENOUGH) return { type: 'phone' };
  // Names come back too, but nobody chooses among them.
  if (/name|learner|student|pupil/i.test(title)) return { type: 'text' };
  return guessChoice(filled.map(({ text }) => text.trim()));
}

function bothSides(cells: readonly { readonly text: string }[]): boolean {
  return new Set(cells.map(({ text }) => text.trim().toLowerCase())).size <= 2;
}

function guessDate(
  cells: readonly { readonly text: string; readonly exact?: Exact | undefined }[],
): GuessedType | null {
  let times = 0;
  let dates = 0;
  let ambiguous = false;
  let orders: readonly DateOrder[] = ['dmy', 'mdy', 'ymd'];
  for (const { text, exact } of cells) {
    const known = exact === undefined ? undefined : readExact(exact);
    if (known?.kind === 'd' || known?.kind === 't') {
      dates++;
      if (known.kind === 't') times++;
      continue;
    }
    const read: ReadMoment | null = readMoment(text);
    if (!read) continue;
    dates++;
    if (read.iso.length > 10) times++;
    ambiguous ||= read.ambiguous;
    const kept = orders.filter((order) => read.orders.includes(order));
    if (kept.length > 0) orders = kept;
  }
  if (dates / cells.length < ENOUGH) return null;
  const type: ColumnType = times > dates / 2 ? 'date-time' : 'date';
  if (!ambiguous) return orders.length === 1 ? { type, format: { dateOrder: orders[0] } } : { type };
  // One cell that can be read one way only settles it for all.
  const [only, other] = orders.filter((order) => order !== 'ymd');
  return only && !other ? { type, format: { dateOrder: only } } : { type };
}

/** Choices come back often; several choices are made of few parts that come back often. */
function guessChoice(texts: readonly string[]): GuessedType {
  if (texts.length < 4 || texts.some((text) => text.length > 400)) return { type: 'text' };
  const distinct = new Set(texts).size;
  if (texts.every((text) => text.length <= 80) && distinct <= Math.min(20, texts.length / 2.5)) {
    const several = guessSeparator(texts);
    return several && several.options < distinct && several.options > 1
      ? { type: 'several choices', format: { separator: several.separator } }
      : { type: 'choice' };
  }
  const several = guessSeparator(texts);
  return several ? { type: 'several choices', format: { separator: several.separator } } : { type: 'text' };
}

function guessSeparator(texts: readonly string[]): { separator: string; options: number } | null {
  for (const separator of [';', '|', '\n', ',']) {
    const lists = texts.map((text) => splitChoices(text, separator));
    const parts = lists.flat();
    if (lists.filter((list) => list.length > 1).length < texts.length * 0.3) continue;
    const options = new Set(parts).size;
    const repeatsInOne = lists.some((list) => new Set(list).size < list.length);
    if (
      !repeatsInOne &&
      options <= 30 &&
      parts.length >= options * 2.5 &&
      parts.every((part) => part.length <= 80)
    )
      return { separator, options };
  }
  return null;
}
