import type { Column } from '../column/index.js';
import type { Field, Within } from '../template/index.js';
import type { Roll } from '../roll/index.js';
import { kindTitle, type ColumnKind } from './kinds.js';

/** A table or a chart that can be put in at once, made from what the roll knows. */
export interface Beginning {
  readonly name: string;
  /** What it shows, in a few words. */
  readonly hint: string;
  readonly field: Omit<Field, 'id'>;
}

/** A row of marks: what it is called, and its column. */
export interface MarkRow {
  readonly row: string;
  readonly column: Column;
}

/** What beginnings are made from. */
export interface Around {
  readonly roll: Roll;
  readonly kinds: readonly ColumnKind[];
  readonly within: Within;
  readonly newId: () => string;
}

/** Marks of one kind. */
export interface Series {
  readonly title: string;
  readonly rows: readonly MarkRow[];
  readonly kind: ColumnKind | null;
}

const isNumber = ({ type, worked }: Column): boolean =>
  type === 'number' || type === 'percentage' || worked?.kind === 'scheme';

/** Columns of numbers of one kind; marks of schemes first. */
export function markSeries({ columns }: Roll, kinds: readonly ColumnKind[]): Series[] {
  const numbers = kinds
    .map((kind) => ({ kind, rows: kind.members.filter(({ column }) => isNumber(column)) }))
    .filter(({ rows }) => rows.length > 2)
    .map(({ kind, rows }): Series => ({ title: kindTitle(kind), rows, kind }));
  const schemes = columns.filter(({ worked }) => worked?.kind === 'scheme');
  const told = numbers.find(({ rows }) => schemes.every((one) => rows.some(({ column }) => column === one)));
  const others = numbers.filter((one) => one !== told);
  if (schemes.length < 2) return numbers;
  const first: Series = told
    ? { ...told, rows: told.rows.filter(({ column }) => schemes.includes(column)) }
    : { title: 'Mark', rows: schemes.map((column) => ({ row: column.title, column })), kind: null };
  return [first, ...others];
}

export const listed = (names: readonly string[]): string =>
  names.length > 6 ? `${names.slice(0, 5).join(', ')} and ${names.length - 5} more` : names.join(', ');

/** Where a bar that holds such a mark ends. */
export function roundMost(most: number): number {
  if (!(most > 0)) return 100;
  const power = 10 ** Math.floor(Math.log10(most));
  return Number(
    ([1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].find((times) => times * power >= most - 1e-9)! * power).toPrecision(
      6,
    ),
  );
}
