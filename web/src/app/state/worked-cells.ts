import type { Entry, Roll } from '@scriptum/core/roll';

/** The texts of a worked column that are new, at their places in the roll; all of them where no places are named. */
export interface WorkedTexts {
  readonly columnId: string;
  readonly places: readonly number[] | null;
  readonly texts: readonly string[];
}

/** What worked columns come to, by entry and column. */
export type WorkedCells = ReadonlyMap<string, Readonly<Record<string, string>>>;

/**
 * The cells with new texts in them. Those of entries that did not change stay the same objects.
 *
 * @param entryIds whose places the texts are.
 * @param anew true where everything was worked out anew; what was there before goes.
 */
export function takeTexts(
  before: WorkedCells,
  texts: readonly WorkedTexts[],
  entryIds: readonly string[],
  anew: boolean,
): WorkedCells {
  const fresh = new Map<string, Record<string, string>>();
  for (const { columnId, places, texts: list } of texts) {
    list.forEach((text, n) => {
      const id = entryIds[places ? places[n]! : n];
      if (id === undefined) return;
      let cells = fresh.get(id);
      if (!cells) fresh.set(id, (cells = anew ? {} : { ...before.get(id) }));
      cells[columnId] = text;
    });
  }
  return anew ? fresh : new Map([...before, ...fresh]);
}

const merged = new WeakMap<Entry, { cells: Readonly<Record<string, string>>; entry: Entry }>();

/** The roll with what its worked columns come to. Entries stay the same objects as long as nothing in them changes. */
export function mergeWorked(roll: Roll, worked: WorkedCells): Roll {
  if (worked.size === 0) return roll;
  return {
    ...roll,
    entries: roll.entries.map((entry) => {
      const cells = worked.get(entry.id);
      if (!cells) return entry;
      const known = merged.get(entry);
      if (known?.cells === cells) return known.entry;
      const now = { ...entry, worked: cells };
      merged.set(entry, { cells, entry: now });
      return now;
    }),
  };
}
