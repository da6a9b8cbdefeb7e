export { ChartFilling, ChartValue, columnsOfChart, wordsOfChart } from './chart-filling.js';
export {
  blankRules,
  conditionsOf,
  columnsOfField,
  Field,
  fieldForColumn,
  fieldLabel,
  isBlockField,
  isMatched,
  JoinedValue,
  LookUp,
  matchFields,
  namedIn,
  TextPart,
  WhenBlank,
  WordsIf,
} from './field.js';
export {
  COLUMN_GAP,
  CoverNote,
  emptyFiling,
  emptyLetter,
  emptyNote,
  FileStandard,
  Filing,
  Letter,
  lineWidth,
  PageLine,
  PageSetup,
  PAPER_FONTS,
  PAPER_SIZES,
  PaperSize,
  paperSizeOf,
  Placed,
  PlacedBox,
  SCRIPT_FONTS,
  StyleLook,
  Template,
  TextStyle,
} from './letter.js';
export {
  type Dress,
  dressed,
  type DressedTemplate,
  emptyLetterhead,
  Letterhead,
  LetterheadLayout,
  picturesOfDress,
  SignOff,
  signOffsOf,
} from './letterhead.js';
export { collectFields, cutMustache, type FieldCollector, joinMustache } from './mustache.js';
export { allPicturesOf, fieldsOf, isTemplateBlank, pageLinesOf, partsOf, textsOf } from './parts.js';
export {
  ColumnLook,
  columnsOfTable,
  ColumnWidth,
  idsOf,
  NamedColumn,
  QuestionPart,
  TableCell,
  TableColumn,
  TableFilling,
  TableRow,
  Within,
  wordsOfTable,
} from './table-filling.js';
export { PictureFilling } from './picture-filling.js';
export { readLine, type ReadTemplate, readTemplateFile, TemplateFile } from './template-file.js';
export { getsOf, type GivenTemplate, isFor, sorterOf, Variant } from './variants.js';
export {
  mergeContents,
  templatesOf,
  type TemplateWriting,
  type Writing,
  WRITING_CONTENTS,
  WRITING_NAMES,
  type WritingContent,
  type WritingContents,
  WritingKind,
  writingsOf,
} from './writing.js';
