/** Letters that Unicode does not take apart, as people type them on another keyboard (common practice, no published source). */
const LIKE: Readonly<Record<string, string>> = {
  ł: 'l',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ı: 'i',
  ħ: 'h',
};

/**
 * The words of a text as they are looked for: without capitals, accents and apostrophes. Compatibility decomposition after Unicode
 * UAX #15 (NFKD).
 */
export const soughtWords = (text: string): string[] =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[\p{M}'’‘`ʻʼʹ\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu, '')
    .replace(/[łøđðþßæœıħ]/g, (letter) => LIKE[letter]!)
    .split(/\s+/)
    .filter(Boolean);
