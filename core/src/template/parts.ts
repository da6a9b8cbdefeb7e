import { fieldsUsed, type FlowText, isBlank, picturesOf } from '../text/index.js';
import type { Template } from './letter.js';

/** Each text of a template, in the order in which it is read. */
export const textsOf = (template: Template): readonly FlowText[] =>
  template.kind === 'letter' ? [template.body] : template.boxes.map(({ body }) => body);

/** Identities of the fields that stand in a template, each once. */
export const fieldsOf = (template: Template): string[] => [
  ...new Set(textsOf(template).flatMap((text) => fieldsUsed(text))),
];

/** Every picture of a template. */
export const allPicturesOf = (template: Template): ReturnType<typeof picturesOf> =>
  textsOf(template).flatMap((text) => picturesOf(text));

/** True where a template would print nothing. */
export const isTemplateBlank = (template: Template): boolean =>
  textsOf(template).every((text) => isBlank(text));
