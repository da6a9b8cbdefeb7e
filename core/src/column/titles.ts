import type { Column } from './column.js';

/**
 * A title reduced to what two people would call the same: no accents, case, spaces, underscores or punctuation.
 * `"E-mail_Adresse"` and `"email adresse"` give the same text. Compatibility decomposition after Unicode UAX #15 (NFKD).
 */
export function plainTitle(title: string): string {
  const plain = title
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{N}]/gu, '');
  return plain || title.trim().toLowerCase();
}

/** The column that a field called `name` means: the same title to the letter, else the first that agrees in plain form. */
export function columnFor(name: string, columns: readonly Column[]): Column | undefined {
  const plain = plainTitle(name);
  return (
    columns.find((column) => column.title === name) ??
    columns.find((column) => column.title.trim() === name.trim()) ??
    (plain ? columns.find((column) => plainTitle(column.title) === plain) : undefined)
  );
}

/** The title, with a number where it is taken. */
export function freeTitle(title: string, taken: ReadonlySet<string>): string {
  if (!taken.has(title)) return title;
  let n = 2;
  while (taken.has(`${title} (${n})`)) n++;
  return `${title} (${n})`;
}
