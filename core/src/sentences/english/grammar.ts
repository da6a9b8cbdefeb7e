const numbers = new Intl.NumberFormat('en-GB');
const plurals = new Intl.PluralRules('en-GB');
const lists = {
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
};

/** `12,000`. */
export const count = (value: number): string => numbers.format(value);

/** The form of a word that goes with a number of things: `has` or `have`. */
export const form = (value: number, one: string, many: string): string =>
  plurals.select(value) === 'one' ? one : many;

/** `1 row`, `12,000 rows`. */
export const counted = (value: number, one: string, many: string): string =>
  `${count(value)} ${form(value, one, many)}`;

/** `A, B and C`; those beyond `most` are only counted: `A, B and 3 more`. */
export function listed(
  parts: readonly (string | number)[],
  most = Infinity,
  last: 'and' | 'or' = 'and',
): string {
  const more = parts.length - most;
  const shown = parts.slice(0, most).map(String);
  return lists[last].format(more > 0 ? [...shown, `${count(more)} more`] : shown);
}

export const quoted = (text: string): string => `“${text}”`;

/** `“A”, “B” and 3 more`. */
export const quotedList = (names: readonly string[], most = 4, last: 'and' | 'or' = 'and'): string =>
  listed(names.map(quoted), most, last);

/** Rows of a file: how many, and the numbers of the first ones. */
export interface Rows {
  readonly count: number;
  readonly first: readonly number[];
}

/** As many rows are told by number. */
const TOLD_MOST = 5;

export const someRows = (rows: readonly number[]): Rows => ({
  count: rows.length,
  first: rows.slice(0, TOLD_MOST),
});

/** `Row 4 has`, `Rows 4, 7 and 9 have`, `Rows 4, 7, 9, 12, 15 and 12 more have`. */
export function rowsThat({ count: all, first }: Rows, one: string, many: string): string {
  const more = all > first.length ? [`${count(all - first.length)} more`] : [];
  return `${form(all, 'Row', 'Rows')} ${listed([...first, ...more])} ${form(all, one, many)}`;
}

/** Learners by name where they are few, else their number. */
export interface People {
  readonly count: number;
  /** Of all where there are few. */
  readonly names: readonly string[];
}

/** As many are told by name. */
export const NAMED_MOST = 3;

/** `Ada Quill`, `Ada Quill and Bo Lind`, `12 learners`, `nobody`. */
export function people({ count, names }: People): string {
  if (count === 0) return 'nobody';
  return names.length === count ? listed(names) : counted(count, 'learner', 'learners');
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** The size in KB below a tenth of a MB, else in MB (10^6 would surprise people who see their file manager's figure: 1 MB = 1,048,576 bytes). */
export const megabytes = (bytes: number): string =>
  bytes < 104_858
    ? `${Math.max(1, Math.round(bytes / 1024))} KB`
    : `${(bytes / 1_048_576).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
