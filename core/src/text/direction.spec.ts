import { isRightToLeft } from './index.js';

// Directions by CLDR 44, supplemental likely subtags and script metadata; from memory.
test.each(['ar', 'he', 'fa', 'ur', 'ps', 'dv', 'yi', 'ar-EG', 'pa-PK', 'az-Arab', 'ug', 'sd'])(
  '%s is written from right to left',
  (language) => expect(isRightToLeft(language)).toBe(true),
);
test.each(['en-GB', 'de', 'tr', 'pa', 'az', 'zh', 'am', 'hi', 'ku', 'so', 'not a language', ''])(
  '%s is not',
  (language) => expect(isRightToLeft(language)).toBe(false),
);
