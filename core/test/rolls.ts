import type { Column } from '../src/column/index.js';
import {
  applyPatch,
  guessKey,
  makeRoll,
  markNameColumns,
  type Roll,
  type RollPatch,
} from '../src/roll/index.js';
import { readCsv, type Sheet } from '../src/table/index.js';

let count = 0;
export const newId = (): string => `n${++count}`;

/** A sheet of CSV that can be read. */
export function sheetOf(csv: string): Sheet {
  const read = readCsv(new TextEncoder().encode(csv), newId);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
}

/** A roll of CSV with its key, where one is found; all its columns come from a source. */
export function rollOf(csv: string, sourceId = 'base'): Roll {
  const sheet = sheetOf(csv);
  const columns = sheet.columns.map((column): Column => ({ ...column, sourceId }));
  const roll = makeRoll({ ...sheet, columns: markNameColumns(columns) }, newId);
  const key = guessKey(roll);
  return key ? { ...roll, key: [key.id] } : roll;
}

/** The identity of the column of this title. */
export const at = (roll: Roll, title: string): string =>
  roll.columns.find((column) => column.title === title)!.id;

/** The texts of the column of this title. */
export const texts = (roll: Roll, title: string): string[] =>
  roll.entries.map((entry) => entry.values[at(roll, title)] ?? '');

/** A patch that can be made. */
export function patched(roll: Roll, patch: RollPatch): { roll: Roll; undo: RollPatch } {
  const result = applyPatch(roll, patch);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}

export const mend = (roll: Roll, row: number, title: string, text: string): Roll =>
  patched(roll, { cells: [{ entryId: roll.entries[row]!.id, columnId: at(roll, title), text }] }).roll;
