import type { Values } from '../fill/index.js';
import type { Letter } from '../template/index.js';
import { fieldKey } from './program.js';

/** One entry's values as the JSON that a letter's program reads from the compiler's input `values`. */
export function programValues(letter: Letter, values: Values): string {
  return JSON.stringify(
    Object.fromEntries(letter.fields.map((field, place) => [fieldKey(place), values[field.id] ?? ''])),
  );
}
