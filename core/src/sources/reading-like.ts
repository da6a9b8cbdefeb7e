import { headerTitles, isBlankRow, type Grid, type Reading, type Result } from '../table/index.js';
import { plainTitle } from '../column/index.js';

/** A file that is open. */
export interface ReadableFile {
  readonly sheets: readonly { readonly name: string; readonly hidden: boolean }[];
  grid(reading: Reading): Result<Grid>;
}

/** Rows in which titles are looked for. */
const TOP = 60;

/**
 * How a newer version of a file is read, by how it was read before: the sheet of the same name, or the one that has the
 * titles; the row of the titles, wherever they stand now; and what was chosen about totals and hidden rows. What does not
 * fit the newer file any more is left to be found out.
 *
 * @param titles of the columns as the file had them.
 */
export function readingLike(file: ReadableFile, before: Reading, titles: readonly string[]): Reading {
  const kept: Reading = {
    ...textReading(file, before),
    ...(before.keepTotals ? { keepTotals: true } : {}),
    ...(before.skipHidden === undefined ? {} : { skipHidden: before.skipHidden }),
  };
  // A text file is one sheet without a name.
  const same = file.sheets.find(({ name }) => name === (before.sheet ?? ''));
  const named = file.sheets.filter(({ name, hidden }) => name !== '' && !hidden);
  const sheets: (string | undefined)[] = same
    ? [same.name || undefined]
    : named.length > 0
      ? named.map(({ name }) => name)
      : [undefined];
  const found = sheets
    .flatMap((sheet) => headerIn(file, { ...kept, ...sheetOf(sheet) }, before, titles) ?? [])
    .sort((a, b) => b.share - a.share)[0];
  if (found) return found.reading;
  if (!same) return kept;
  return {
    ...kept,
    ...sheetOf(same.name || undefined),
    ...(before.header?.count === 0 ? { header: before.header } : {}),
  };
}

const sheetOf = (sheet: string | undefined): Reading => (sheet === undefined ? {} : { sheet });

/** The encoding of before where the newer file does not say its own: it was looked at and left or chosen then. */
function textReading(file: ReadableFile, before: Reading): Reading {
  const { encoding } = before;
  if (!encoding || encoding.startsWith('utf-') || file.sheets.some(({ name }) => name !== '')) return {};
  const grid = file.grid({});
  return grid.ok && grid.value.notes.some(({ code }) => code === 'encoding-guessed') ? { encoding } : {};
}

interface Found {
  readonly reading: Reading;
  /** The share of the titles that stand there. */
  readonly share: number;
}

/** A sheet with its row of titles; null where fewer than half of them stand there. */
function headerIn(
  file: ReadableFile,
  reading: Reading,
  before: Reading,
  titles: readonly string[],
): Found | null {
  const grid = file.grid(reading);
  if (!grid.ok || titles.length === 0) return null;
  const wanted = new Set(titles.map(plainTitle));
  const counts = [...new Set([before.header?.count ?? 1, 1, 2])].filter((count) => count > 0);
  let best: Found | null = null;
  for (let row = 1; row <= Math.min(TOP, grid.value.rows.length); row++) {
    if (isBlankRow(grid.value.rows[row - 1])) continue;
    for (const count of counts) {
      const here = new Set(headerTitles(grid.value, { row, count }).map(plainTitle));
      const share = [...wanted].filter((title) => here.has(title)).length / wanted.size;
      // Half of the titles, so that the row is no row of answers.
      if (share >= 0.5 && share > (best?.share ?? 0))
        best = { reading: { ...reading, header: { row, count } }, share };
    }
  }
  return best;
}
