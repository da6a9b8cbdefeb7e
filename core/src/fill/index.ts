export {
  fillFields,
  printedOf,
  textsOfFilled,
  textsOfPrinted,
  type FillContext,
  type Filled,
  type FilledValues,
  type Printed,
  type PrintedValues,
} from './fill.js';
export { oneLine, printable } from './printable.js';
export { printValue } from './print-value.js';
