export {
  type FillContext,
  type Filled,
  type FilledValues,
  fillFields,
  isBlankField,
  type Printed,
  printedOf,
  type PrintedValues,
  textsOfFilled,
  textsOfPrinted,
} from './fill.js';
export { filledParts, standsIn } from './parts.js';
export { oneLine, printable } from './printable.js';
