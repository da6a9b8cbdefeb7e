import type { Sheet } from '../table/index.js';
import { plainKey, learnerName, nameColumns, valueOf, type Roll } from '../roll/index.js';
import { plainTitle } from '../column/index.js';

/** Stands for the learner's whole name in a key. */
export const WHOLE_NAME = '@name';

export const together = (parts: readonly string[]): string => parts.join(' ').replace(/\s+/g, ' ').trim();

/** The places of the columns that a part of the key is made of; none where the sheet lacks it. */
export function columnsAt(sheet: Sheet, title: string): number[] {
  if (title === WHOLE_NAME) return nameColumns(sheet.columns).map((column) => sheet.columns.indexOf(column));
  const at = sheet.columns.findIndex((column) => column.title === title);
  return at < 0 ? [] : [at];
}

export const keyText = (parts: readonly string[]): string | null => {
  const plain = parts.map(plainKey);
  return plain.includes('') ? null : plain.join('\u0000');
};

/** The columns of a roll and a sheet that most likely mean the same person: the pair with the most values in common. */
export function guessJoinKey(roll: Roll, sheet: Sheet): { left: string; right: string } | null {
  const sample = roll.entries.slice(0, 400);
  const sets = sheet.columns.map(
    (_, at) => new Set(sheet.rows.slice(0, 20_000).map((row) => plainKey(row[at] ?? ''))),
  );
  let best: { left: string; right: string; score: number } | null = null;
  const names = nameColumns(roll.columns);
  const sheetNames = nameColumns(sheet.columns).map((column) => sheet.columns.indexOf(column));
  if (names.length > 1 || sheetNames.length > 1) {
    // A name in two columns on one side may stand in one on the other.
    const mine = sample.map((entry) => plainKey(learnerName(entry, names)));
    const theirs = new Set(
      sheet.rows.slice(0, 20_000).map((row) => plainKey(together(sheetNames.map((at) => row[at] ?? '')))),
    );
    const common =
      mine.filter((name) => theirs.has(name)).length / Math.max(1, Math.min(mine.length, theirs.size));
    if (common >= 0.2) best = { left: WHOLE_NAME, right: WHOLE_NAME, score: common };
  }
  for (const column of roll.columns) {
    const values = sample.map((entry) => plainKey(valueOf(entry, column.id))).filter(Boolean);
    const distinct = new Set(values);
    if (distinct.size < Math.max(1, values.length * 0.5)) continue;
    sheet.columns.forEach(({ title }, at) => {
      const common =
        [...distinct].filter((value) => sets[at]!.has(value)).length /
        Math.max(1, Math.min(distinct.size, sets[at]!.size));
      const telling = distinct.size / Math.max(1, values.length);
      const alike = plainTitle(title) === plainTitle(column.title) ? 0.1 : 0;
      const score = common * telling + (common > 0 ? alike : 0);
      if (common >= 0.2 && (!best || score > best.score)) best = { left: column.id, right: title, score };
    });
  }
  return best && { left: (best as { left: string }).left, right: (best as { right: string }).right };
}
