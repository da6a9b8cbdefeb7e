export { wordsOfBox } from './box-words.js';
export { fillingForms, placedOf, withFirstBehind, withPagesBehind, withPlaced } from './behind.js';
export { type Excepted, exceptedOf, exceptionsOf } from './excepted.js';
export { Exception, exceptionKey, withException } from './exception.js';
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
  isNumberField,
  JoinedValue,
  LookUp,
  matchFields,
  namedIn,
  TextPart,
  WhenBlank,
  WordsIf,
} from './field.js';
export {
  addressColumns,
  ALONG_MOST,
  assetsOfNote,
  AlongFile,
  CoverNote,
  emptyNote,
  Lock,
  neededColumns,
  noteName,
  PasswordForm,
  PrivateLink,
  Recipient,
  withNoteAssets,
} from './cover-note.js';
export { emptyFiling, emptyLetter, Filing, Letter, PaperNumbers, PLAIN_NUMBERS } from './letter.js';
export {
  COLUMN_GAP,
  lineWidth,
  PAGE_SIZES,
  PageSetup,
  PAPER_SIZES,
  PaperSize,
  paperSizeOf,
} from './page-setup.js';
export {
  type Behind,
  type BoxKind,
  type BoxOf,
  BoxType,
  emptyPlaced,
  GroundAbout,
  GroundNotice,
  Placed,
  PlacedBox,
  PlacedPage,
  sizeOfPage,
  type TextBox,
  WhenLong,
} from './placed.js';
export { Template } from './template.js';
export { FileStandard, PageLine, PAPER_FONTS, SCRIPT_FONTS, StyleLook, TextStyle } from './template-base.js';
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
export {
  allPicturesOf,
  boxesOf,
  fieldsOf,
  isTemplateBlank,
  linesOfTemplate,
  pageLinesOf,
  partsOf,
  textsOf,
  withTemplatePictures,
} from './parts.js';
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
export { emptySorting, Sorting, SortingOutcome, SortingRule } from './sorting.js';
export { type GivenTemplate, isFor, Variant } from './variants.js';
export {
  allTemplatesOf,
  mergeContents,
  templatesOf,
  type TemplateWriting,
  type Writing,
  WRITING_CONTENTS,
  WRITING_NAMES,
  type WritingContent,
  type WritingContents,
  isTemplateKind,
  WritingKind,
  writingsOf,
} from './writing.js';
