export { Field, fieldForColumn, fieldLabel, isMatched, matchFields } from './field.js';
export { FillFormat } from './fill-format.js';
export {
  CoverNote,
  emptyFiling,
  emptyLetter,
  emptyNote,
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
export { collectFields, cutMustache, joinMustache, type FieldCollector } from './mustache.js';
export { allPicturesOf, fieldsOf, isTemplateBlank, textsOf } from './parts.js';
export { readLine, readTemplateFile, TemplateFile, type ReadTemplate } from './template-file.js';
export {
  mergeContents,
  templatesOf,
  WRITING_CONTENTS,
  WRITING_NAMES,
  WritingKind,
  writingsOf,
  type TemplateWriting,
  type Writing,
  type WritingContent,
  type WritingContents,
} from './writing.js';
