export { attendanceWeeks } from './attendance-weeks.js';
export { Cohort, cohortOf } from './cohort.js';
export {
  type FilledValues,
  fillFields,
  isBlankField,
  picturesPrinted,
  printedOf,
  type PrintedValues,
  textsOfFilled,
  textsOfPrinted,
} from './fill.js';
export type {
  FillContext,
  Filled,
  MessageContext,
  PaperNumber,
  Printed,
  PrintedCell,
  PrintedTable,
} from './filled.js';
export { filledParts, standsIn } from './parts.js';
export { oneLine, printable } from './printable.js';
export { printedFor } from './printed-for.js';
