import type { Entry } from '../roll/index.js';
import { partsOf, type Template } from '../template/index.js';
import { fillFields, printedOf, type PrintedValues } from './fill.js';
import type { FillContext } from './filled.js';
import { filledParts } from './parts.js';

/** All that a template prints for one entry: its fields, and which of its parts stand. */
export function printedFor(
  template: Template,
  entry: Entry,
  around: Omit<FillContext, 'language'>,
): PrintedValues {
  const context = { ...around, language: template.language };
  return {
    ...printedOf(fillFields(template.fields, entry, context)),
    ...filledParts(partsOf(template), entry, context.columns),
  };
}
