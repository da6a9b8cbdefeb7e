import type { Words } from './words.js';

/** The text in a language; in the form's first one where it has not been translated. */
export const wordsIn = (words: Words | undefined, language: string, first: string): string =>
  words?.[language]?.trim() || words?.[first]?.trim() || '';
