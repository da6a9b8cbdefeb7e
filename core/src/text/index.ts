export {
  Alignment,
  Block,
  Colour,
  FieldBlock,
  FieldPlace,
  FlowText,
  type Frame,
  type FreeTable,
  Inline,
  LinkAddress,
  LineText,
  PageBreak,
  ParagraphStyle,
  partOfWords,
  Picture,
  Rule,
  SignOffPlace,
  TableLines,
  TextMark,
  TextRun,
  TypeSize,
  type List,
  type ListItem,
} from './flow-text.js';
export { isRightToLeft } from './direction.js';
export { assetAt, assetsShown, contentIdOf, escapeHtml, textHtml } from './html.js';
export {
  linesOf,
  remaining,
  withoutBlank,
  type BlankRules,
  type GoesOut,
  type Line,
  type Stretch,
} from './lines.js';
export { linePlain, textPlain, type TextValues } from './plain.js';
export { TypstWriter, type TypstField } from './typst.js';
export {
  blocksOf,
  fieldPlaces,
  fieldsUsed,
  inlinesOf,
  isBlank,
  partsUsed,
  picturesOf,
  withPictures,
  wordsOfLine,
} from './walk.js';
