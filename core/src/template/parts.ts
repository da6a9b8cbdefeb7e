import { fieldsUsed, type FlowText, type LineText, isBlank, partsUsed, picturesOf } from '../text/index.js';
import type { TextPart } from './field.js';
import type { Template } from './letter.js';

/** Each text of a template, in the order in which it is read. */
export const textsOf = (template: Template): readonly FlowText[] =>
  template.kind === 'letter' ? [template.body] : template.boxes.map(({ body }) => body);

/** The lines at the head and the foot of a template's pages. */
export const pageLinesOf = ({ head, foot }: Template): readonly LineText[] =>
  [head, foot].flatMap((line) => (line ? [line.left, line.right] : []));

/** Identities of the fields that stand in a template, each once. */
export const fieldsOf = (template: Template): string[] => [
  ...new Set([...textsOf(template), ...pageLinesOf(template)].flatMap((text) => fieldsUsed(text))),
];

/** The parts that come and go which blocks of a template belong to. */
export function partsOf(template: Template): TextPart[] {
  const used = new Set(textsOf(template).flatMap((text) => partsUsed(text)));
  return (template.parts ?? []).filter(({ id }) => used.has(id));
}

/** Every picture of a template. */
export const allPicturesOf = (template: Template): ReturnType<typeof picturesOf> =>
  textsOf(template).flatMap((text) => picturesOf(text));

/** True where a template would print nothing. */
export const isTemplateBlank = (template: Template): boolean =>
  textsOf(template).every((text) => isBlank(text));
