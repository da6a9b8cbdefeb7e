import type { Column } from '../column/index.js';
import type { CellChange, WantedChange, Entry, Roll } from '../roll/index.js';

/** One entry's part of an offer. */
export interface OfferLine {
  readonly entryId: string;
  readonly before: string;
  readonly after: string;
  readonly cells: readonly CellChange[];
  /** Set where the line leaves the entry out: the reason. */
  readonly leaveOut?: string;
  /** False for a line that people should look at before they take it. */
  readonly certain: boolean;
}

/** One way to do what an offer is about. */
export interface OfferWay {
  readonly id: string;
  readonly label: string;
  readonly lines: readonly OfferLine[];
  /** Columns that this way adds, with the column each comes after. */
  readonly adds?: readonly { readonly column: Column; readonly after: string }[];
}

/** Something that could be put in order, with before and after for every entry that it touches. */
export interface Offer {
  /** Stable for the same thing in the same column. */
  readonly id: string;
  readonly title: string;
  readonly explain: string;
  readonly columnId: string | null;
  readonly ways: readonly OfferWay[];
}

/** A repair of single cells of one column. */
export function cellOffer(
  roll: Roll,
  column: Column,
  about: { id: string; title: string; explain: string; label: string },
  repair: (
    text: string,
    entry: Entry,
  ) => string | { readonly text: string; readonly certain: boolean } | null,
): Offer | null {
  const lines: OfferLine[] = [];
  for (const entry of roll.entries) {
    const before = entry.values[column.id] ?? '';
    if (before === '') continue;
    const repaired = repair(before, entry);
    if (repaired === null) continue;
    const { text, certain } = typeof repaired === 'string' ? { text: repaired, certain: true } : repaired;
    if (text === before) continue;
    lines.push({
      entryId: entry.id,
      before,
      after: text,
      cells: [{ entryId: entry.id, columnId: column.id, text }],
      certain,
    });
  }
  if (lines.length === 0) return null;
  return {
    id: `${about.id} ${column.id}`,
    title: about.title,
    explain: about.explain,
    columnId: column.id,
    ways: [{ id: 'mend', label: about.label, lines }],
  };
}

/** The change that takes the chosen lines of a way, as one step. */
export function offerPatch(roll: Roll, way: OfferWay, chosen: ReadonlySet<string>): WantedChange {
  const lines = way.lines.filter(({ entryId }) => chosen.has(entryId));
  const cells = lines.flatMap((line) => line.cells);
  const leftOut = lines.flatMap(({ entryId, leaveOut }) =>
    leaveOut === undefined ? [] : [{ entryId, reason: leaveOut }],
  );
  const columns = [...roll.columns];
  for (const { column, after } of way.adds ?? []) {
    if (!columns.some(({ id }) => id === column.id)) {
      const place = columns.findIndex(({ id }) => id === after);
      columns.splice(place < 0 ? columns.length : place + 1, 0, column);
    }
  }
  return {
    ...(cells.length > 0 ? { cells } : {}),
    ...(leftOut.length > 0 ? { leftOut } : {}),
    ...(columns.length > roll.columns.length ? { columns } : {}),
  };
}
