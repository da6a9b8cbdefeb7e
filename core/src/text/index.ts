export {
  Alignment,
  Block,
  Colour,
  FieldPlace,
  FlowText,
  Inline,
  LineText,
  Picture,
  Rule,
  TextMark,
  TextRun,
  TypeSize,
  type List,
  type ListItem,
} from './flow-text.js';
export { escapeHtml, textHtml } from './html.js';
export { linePlain, textPlain, type TextValues } from './plain.js';
export { TypstWriter, type TypstField } from './typst.js';
export { blocksOf, fieldsUsed, inlinesOf, isBlank, picturesOf } from './walk.js';
