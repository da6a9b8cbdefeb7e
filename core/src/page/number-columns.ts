/** A number of a column: `text` up to its last digit, what is left free behind it so that decimal signs stand below each other, and what follows. */
export interface AlignedCell {
  readonly text: string;
  readonly pad: string;
  readonly rest: string;
}

/** Numbers of a column as they are set below each other, by their decimal signs. Cells with the most decimals stay as they are. */
export function alignedCells(cells: readonly string[], language: string): (string | AlignedCell)[] {
  const sign = decimalSign(language);
  const cut = cells.map((cell) => cutNumber(cell, sign));
  const most = Math.max(0, ...cut.map((one) => one?.decimals ?? 0));
  return cut.map((one, n) => {
    const missing = most - (one?.decimals ?? most);
    if (!one || (missing === 0 && one.rest === '')) return cells[n]!;
    const pad = missing === 0 ? '' : (one.decimals === 0 ? sign : '') + '0'.repeat(missing);
    return pad === '' ? cells[n]! : { text: one.text, pad, rest: one.rest };
  });
}

/** The sign before decimals in a language (Unicode CLDR). */
const decimalSign = (language: string): string =>
  new Intl.NumberFormat(language).formatToParts(1.5).find(({ type }) => type === 'decimal')?.value ?? '.';

function cutNumber(cell: string, sign: string): { text: string; rest: string; decimals: number } | null {
  const [, text, rest] = /^(.*\p{Nd})(\P{Nd}*)$/su.exec(cell) ?? [];
  if (text === undefined || rest === undefined) return null;
  const [, mark, digits = ''] = /([.,\u066b])(\p{Nd}+)$/u.exec(text) ?? [];
  // What is as long as a thousand's group is one, unless the sign is the language's own.
  const decimals = mark !== undefined && (mark === sign || (mark === '.' && digits.length !== 3));
  return { text, rest, decimals: decimals ? digits.length : 0 };
}
