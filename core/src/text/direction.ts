/** Scripts that are written from right to left (Unicode Standard Annex 24, with the directions of CLDR's script metadata). */
const RIGHT_TO_LEFT: ReadonlySet<string> = new Set([
  'Adlm',
  'Arab',
  'Hebr',
  'Mand',
  'Nkoo',
  'Rohg',
  'Samr',
  'Syrc',
  'Thaa',
]);

/** True for a language (BCP 47) that is written from right to left, by its likely script (CLDR likely subtags). */
export function isRightToLeft(language: string): boolean {
  try {
    return RIGHT_TO_LEFT.has(new Intl.Locale(language).maximize().script ?? '');
  } catch {
    return false;
  }
}
