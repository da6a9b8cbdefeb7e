export { lettersWithoutFont, packRanges, unpackRanges, type LetterRange } from './coverage.js';
export { programValues } from './inputs.js';
export { FALLBACK_FONTS, typeset, type Program } from './program.js';
