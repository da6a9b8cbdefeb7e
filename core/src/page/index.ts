export { lettersWithoutFont, packRanges, unpackRanges, type LetterRange } from './coverage.js';
export { BAND_TINTS } from './block-code.js';
export { drawnValues, programValues } from './inputs.js';
export { FALLBACK_FONTS, typeset, type Program } from './program.js';
export { forMeasuring, valuesToMeasure, type Measuring } from './measuring.js';
export { fieldValues, type FilledField } from './field-values.js';
export { chainsOf, mayGoOnIn } from './going-on.js';
export { FIT_STATES, type FitState } from './placed-code.js';
