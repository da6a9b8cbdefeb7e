export { programValues } from './inputs.js';
export { FALLBACK_FONTS, typeset, type Program } from './program.js';
