import type { Column } from '../column/index.js';
import { columnsOf } from '../condition/index.js';
import { meaningOf, valueOf, type Entry, type Roll } from '../roll/index.js';
import { columnsOfField, conditionsOf, fieldsOf, partsOf, type Template } from '../template/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** Fewer numbers than these say nothing of what is usual. */
const LEAST = 10;
/** Years that days of learners and of school are in. */
const YEARS = [1900, 2100] as const;

/**
 * Values that lie outside of what their column can hold or usually holds: percentages below 0 or over 100, days of other
 * centuries, and numbers beyond the outer fences of all others (NIST/SEMATECH e-Handbook of Statistical Methods, 7.1.6: three
 * times the distance of the quartiles beyond them; extreme outliers). Only columns that papers print or hang on are looked at.
 */
export function rangeFindings(roll: Roll, templates: readonly Template[]): Finding[] {
  const used = new Set(templates.flatMap(columnsUsed));
  return roll.columns.flatMap((column): Finding[] => {
    if (!used.has(column.id)) return [];
    const out = outside(column, roll.entries);
    if (out.length === 0) return [];
    const sample = valueOf(out[0]!, column.id).slice(0, 40);
    const about = { place: 'roll', entries: out, columnId: column.id } as const;
    return [look(about, 'value-range', { title: column.title, sample, who: who(out, roll) })];
  });
}

const columnsUsed = (template: Template): string[] => {
  const stands = new Set(fieldsOf(template));
  const fields = template.fields.filter(({ id }) => stands.has(id));
  return [
    ...fields.flatMap(columnsOfField),
    ...fields.flatMap(conditionsOf).flatMap(columnsOf),
    ...partsOf(template).flatMap((part) => columnsOf(part.if)),
  ];
};

function outside(column: Column, entries: readonly Entry[]): Entry[] {
  switch (column.type) {
    case 'percentage':
      return entries.filter((entry) => {
        const number = numberOf(entry, column);
        return number !== null && (number < 0 || number > 100);
      });
    case 'number': {
      const numbers = entries.map((entry) => numberOf(entry, column));
      const [low, high] = outerFences(numbers.filter((one) => one !== null));
      return entries.filter((_, n) => numbers[n] != null && (numbers[n] < low || numbers[n] > high));
    }
    case 'date':
    case 'date-time':
      return entries.filter((entry) => {
        const value = meaningOf(entry, column);
        const year = value.kind === 'date' ? Number(value.iso.slice(0, 4)) : null;
        return year !== null && (year < YEARS[0] || year > YEARS[1]);
      });
    default:
      return [];
  }
}

function numberOf(entry: Entry, column: Column): number | null {
  const value = meaningOf(entry, column);
  return value.kind === 'number' ? Number(value.decimal) : null;
}

/** Between these lies what is usual; everything where too little is known. */
function outerFences(numbers: readonly number[]): readonly [number, number] {
  const sorted = [...numbers].sort((a, b) => a - b);
  const [low, high] = [quantile(sorted, 0.25), quantile(sorted, 0.75)];
  const distance = high - low;
  if (sorted.length < LEAST || !(distance > 0)) return [-Infinity, Infinity];
  return [low - 3 * distance, high + 3 * distance];
}

/** Interpolated between the two numbers beside its place. */
function quantile(sorted: readonly number[], part: number): number {
  const at = (sorted.length - 1) * part;
  const [below, above] = [sorted[Math.floor(at)] ?? NaN, sorted[Math.ceil(at)] ?? NaN];
  return below + (above - below) * (at - Math.floor(at));
}
