export {
  blankRules,
  Field,
  fieldForColumn,
  fieldLabel,
  isMatched,
  JoinedValue,
  matchFields,
  TextPart,
  WhenBlank,
  WordsIf,
} from './field.js';
export {
  CoverNote,
  emptyFiling,
  emptyLetter,
  emptyNote,
  FileStandard,
  Filing,
  Letter,
  PageSetup,
  PAPER_FONTS,
  PAPER_SIZES,
  PaperSize,
  paperSizeOf,
  Placed,
  PlacedBox,
  Template,
} from './letter.js';
export { collectFields, cutMustache, type FieldCollector, joinMustache } from './mustache.js';
export { allPicturesOf, fieldsOf, isTemplateBlank, partsOf, textsOf } from './parts.js';
export { readLine, type ReadTemplate, readTemplateFile, TemplateFile } from './template-file.js';
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
