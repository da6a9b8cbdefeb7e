import { standsIn, textsOfPrinted, type PrintedValues } from '../fill/index.js';
import type { Template } from '../template/index.js';
import { fieldKey, partKey } from './program.js';

/** One entry's values as the JSON that a template's program reads from the compiler's input `values`. */
export function programValues({ fields, parts = [] }: Template, values: PrintedValues): string {
  const texts = textsOfPrinted(values);
  return JSON.stringify({
    ...Object.fromEntries(fields.map((field, place) => [fieldKey(place), texts[field.id] ?? ''])),
    ...Object.fromEntries(parts.map(({ id }, place) => [partKey(place), standsIn(values, id)])),
  });
}
