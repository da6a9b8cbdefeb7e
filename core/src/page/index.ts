export { programValues } from './inputs.js';
export { FALLBACK_FONTS, typesetLetter, type Program } from './program.js';
