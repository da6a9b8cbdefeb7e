export { Blank, BlankReason, findBlanks, LIKELY } from './find-blanks.js';
export type { Area, FormField, Glyph, PageMarks, Rule, Shape } from './page-marks.js';
