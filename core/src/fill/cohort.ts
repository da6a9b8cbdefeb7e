import type { Column, FillFormat } from '../column/index.js';
import { decimalOf, mean, ratio, type Ratio } from '../marks/index.js';
import { formatAlike } from './alike.js';
import { isIn, meaningOf, valueOf, type Entry, type Roll } from '../roll/index.js';

/** Where fewer have a value nothing is told of them: from a mean of two each could reckon the other's. */
const LEAST = 3;

/**
 * The others whom a learner is compared with: all who get a paper, or those of them who agree in some columns, such as the
 * class; and in what form all of them have their numbers and days. What is reckoned is kept, since all papers of a roll ask for it.
 */
export class Cohort {
  private readonly values = new Map<string, ReadonlyMap<string, readonly string[]>>();
  private readonly numbers = new Map<string, readonly number[] | null>();
  private readonly extents = new Map<string, readonly [number, number] | null>();
  private readonly formats = new Map<string, FillFormat | null>();
  private readonly means = new Map<string, string | null>();
  private readonly columns: ReadonlyMap<string, Column>;

  constructor(private readonly roll: Roll) {
    this.columns = new Map(roll.columns.map((column) => [column.id, column]));
  }

  /** The mean of a column as a decimal number, of the values as they are shown; null where fewer than three have one. */
  mean(columnId: string, within: readonly string[], entry: Entry): string | null {
    const group = groupOf(entry, within);
    const key = JSON.stringify([columnId, within, group]);
    let known = this.means.get(key);
    if (known === undefined) {
      const values = this.grouped(columnId, within).get(group) ?? [];
      const middle: Ratio | null = values.length < LEAST ? null : mean(values.map(ratio));
      known = middle && decimalOf(middle);
      this.means.set(key, known);
    }
    return known;
  }

  /**
   * The values of a column of those whom an entry is compared with, the same list for all of them; null where they are fewer
   * than three.
   */
  valuesOf(columnId: string, within: readonly string[], entry: Entry): readonly number[] | null {
    const group = groupOf(entry, within);
    const key = JSON.stringify([columnId, within, group]);
    let known = this.numbers.get(key);
    if (known === undefined) {
      const values = this.grouped(columnId, within).get(group) ?? [];
      this.numbers.set(key, (known = values.length < LEAST ? null : values.map(Number)));
    }
    return known;
  }

  /** How a column's numbers or days are printed so that they look alike; null where they do as they stand. */
  formatOf(columnId: string, language: string): FillFormat | null {
    const key = `${language} ${columnId}`;
    let format = this.formats.get(key);
    if (format === undefined) {
      const column = this.columns.get(columnId);
      this.formats.set(key, (format = column ? formatAlike(column, this.roll, language) : null));
    }
    return format;
  }

  /** The lowest and the highest value that anybody has in some columns; null where nobody has one. */
  extent(columnIds: readonly string[]): readonly [number, number] | null {
    const key = columnIds.join(' ');
    let known = this.extents.get(key);
    if (known === undefined) this.extents.set(key, (known = this.extentNow(columnIds)));
    return known;
  }

  private extentNow(columnIds: readonly string[]): readonly [number, number] | null {
    let [least, most] = [Infinity, -Infinity];
    for (const columnId of columnIds)
      for (const value of this.grouped(columnId, []).get(groupOf(null, [])) ?? []) {
        least = Math.min(least, Number(value));
        most = Math.max(most, Number(value));
      }
    return most === -Infinity ? null : [least, most];
  }

  private grouped(columnId: string, within: readonly string[]): ReadonlyMap<string, readonly string[]> {
    const key = JSON.stringify([columnId, within]);
    let groups = this.values.get(key) as Map<string, string[]> | undefined;
    if (!groups) {
      this.values.set(key, (groups = new Map()));
      const column = this.columns.get(columnId);
      for (const entry of this.roll.entries) {
        if (!column || !isIn(entry)) continue;
        const value = meaningOf(entry, column);
        if (value.kind !== 'number') continue;
        const group = groupOf(entry, within);
        const list = groups.get(group);
        if (list) list.push(value.decimal);
        else groups.set(group, [value.decimal]);
      }
    }
    return groups;
  }
}

const groupOf = (entry: Entry | null, within: readonly string[]): string =>
  JSON.stringify(
    within.map((id) =>
      valueOf(entry ?? undefined, id)
        .trim()
        .toLowerCase(),
    ),
  );

const cohorts = new WeakMap<Roll, Cohort>();

/** The cohort of a roll; the same one as long as the roll is the same. */
export function cohortOf(roll: Roll): Cohort {
  let cohort = cohorts.get(roll);
  if (!cohort) cohorts.set(roll, (cohort = new Cohort(roll)));
  return cohort;
}
