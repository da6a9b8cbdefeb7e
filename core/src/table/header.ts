import { readAddress, readMoment, readExact, readNumber, readPercentage } from '../column/index.js';
import { gridWidth, isBlankRow, type Grid } from './grid.js';

/** Rows at the top among which the header is looked for. */
const LOOK = 30;

/**
 * The rows that most likely hold the titles. Rows above them with a cell or two (a heading, a date) are passed over; a
 * row of titles that stand over several columns, with another row of titles below, makes two.
 *
 * @returns the 1-based number of the first row, and how many rows; null where all rows are blank.
 */
export function guessHeader(grid: Grid): { row: number; count: number } | null {
  const width = gridWidth(grid);
  const first = grid.rows.findIndex((row) => !isBlankRow(row));
  if (first < 0) return null;
  const start = firstFull(grid, first, width);
  const below = start + 1;
  if (hasSpanning(grid, start) && looksLikeTitles(grid, below, width)) return { row: start + 1, count: 2 };
  return { row: start + 1, count: 1 };
}

/** The first row that is no heading above the table: more than one cell, and as wide as what follows. */
function firstFull(grid: Grid, first: number, width: number): number {
  if (width < 2) return first;
  if (width === 2) return firstPair(grid, first);
  const last = Math.min(grid.rows.length, first + LOOK);
  for (let at = first; at < last; at++) {
    const row = grid.rows[at];
    if (isBlankRow(row)) continue;
    const filled = row!.filter((cell) => cell?.trim()).length;
    if (filled > Math.max(1, width * 0.34) || (hasSpanning(grid, at) && filled > 1)) {
      return at;
    }
  }
  return first;
}

/** In a table of two columns: the first row with both, where they are titles and what stands above has one cell a row. */
function firstPair(grid: Grid, first: number): number {
  const filled = (at: number): number => grid.rows[at]?.filter((cell) => cell?.trim()).length ?? 0;
  if (filled(first) !== 1) return first;
  const last = Math.min(grid.rows.length, first + LOOK);
  for (let at = first + 1; at < last; at++)
    if (filled(at) === 2) return looksLikeTitles(grid, at, 2) ? at : first;
  return first;
}

/** True where a cell of this row stands over two columns or more, but not over all. */
function hasSpanning(grid: Grid, at: number): boolean {
  const width = gridWidth(grid);
  return grid.merges.some(
    (merge) =>
      merge.top <= at &&
      merge.bottom === at &&
      merge.right > merge.left &&
      merge.right - merge.left + 1 < width,
  );
}

/** True for a row of words that is no row of data. */
function looksLikeTitles(grid: Grid, at: number, width: number): boolean {
  const row = grid.rows[at];
  if (isBlankRow(row)) return false;
  const filled = row!.filter((cell) => cell?.trim());
  if (filled.length < Math.max(2, width * 0.3)) return false;
  return row!.every((cell, column) => {
    const exact = grid.exact[at]?.[column];
    if (exact && readExact(exact).kind !== 'e') return false;
    return !looksLikeData(cell ?? '');
  });
}

/** True for a number, a date or an address. */
export function looksLikeData(cell: string): boolean {
  const text = cell.trim();
  if (text === '') return false;
  return (
    readNumber(text) !== null ||
    readPercentage(text) !== null ||
    readMoment(text) !== null ||
    readAddress(text).kind === 'address'
  );
}

/** What rows that sum up are called, in the languages whose months are known. Common practice, no published source. */
const SUMS =
  'totals?|sums?|averages?|avg|means?|medians?|modes?|counts?|std\\.?\\s?dev|st\\.?\\s?dev|standard deviation|deviation|minimum|maximum|lowest|highest|range|summe|gesamt|gesamtsumme|insgesamt|mittelwert|durchschnitt|klassenschnitt|schnitt|anzahl|moyenne|somme|médiane|écart[- ]type|media|promedio|suma|total general|totale|totaal|gemiddelde|som|średnia|razem|genomsnitt|medel|summa|gennemsnit|gjennomsnitt|cyfanswm|cyfartaledd|meán|iomlán';
const OF = 'grand|sub|over-?all|class|group|year|form|school|set|klassen|kurs';
const TOTAL = new RegExp(`^(?:(?:${OF})[\\s-]*)?(?:${SUMS})(?:\\s*(?:of|in|\\(|per|/).*)?\\s*[:.]?$`, 'iu');
/** Rows that say how much there is to get; these may stand above all others. */
const OUT_OF =
  /^(?:out of|maximum|max\.?(?: points| marks| score)|possible(?: points)?|points possible|möglich|höchstpunktzahl|barème)\s*[:.]?$/iu;

/**
 * True for a row whose first filled cell says that it sums up the others, and that has little else but numbers.
 *
 * @param below whether there are rows above it that it could sum up.
 */
export function isTotalRow(cells: readonly string[], below: boolean): boolean {
  const filled = cells.filter((cell) => cell?.trim());
  const first = filled[0]?.trim().replace(/\s+/g, ' ') ?? '';
  if (filled.length < 2 || !(OUT_OF.test(first) || (below && TOTAL.test(first)))) return false;
  const words = filled
    .slice(1)
    .filter((cell) => !/^(?:[\d.,%\s+\-–/]+(?:\s\p{L}{3,})?|#[A-Z/0]+[!?])$/u.test(cell.trim()));
  return words.length === 0 || (words.length === 1 && /^\p{L}+\.?$/u.test(words[0]!.trim()));
}

const FOOTER = new RegExp(
  `^(?:\\d[\\d.,]*\\s+\\p{L}[\\p{L}\\s]*|(?:(?:${OF})[\\s-]*)?(?:${SUMS})(?:\\s+\\p{L}+)?\\s*[:=]?\\s*[\\d.,]+\\s*%?|(?:page|seite|printed|generated|exported|created|erstellt|gedruckt|as of|stand|source|quelle|note|report run)\\b.*)$`,
  'iu',
);

/** True for a line under a table that says something of it: `150 participants`, `Total: 150`, `Exported on 3 May`. */
export function isFooter(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell?.trim());
  return filled.length === 1 && FOOTER.test(filled[0]!.trim().replace(/\s+/g, ' '));
}
