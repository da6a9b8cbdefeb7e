import type { Column } from '../column/index.js';
import { noteAt, type SheetNote } from './sheet.js';

/**
 * Gives each header cell a column with an identity and a title that is unique in the sheet: an empty title becomes
 * "Column 3", a repeated one gets a number. Each change is said in a note about the header's `row`.
 */
export function nameColumns(
  header: readonly string[],
  width: number,
  row: number,
  newId: () => string,
): { columns: Column[]; notes: SheetNote[] } {
  const notes: SheetNote[] = [];
  const taken = new Set<string>();
  const repeated = new Set<string>();
  const unnamed: string[] = [];
  const own = new Set(header.map((title) => title.trim()).filter(Boolean));
  const columns = Array.from({ length: width }, (_, index): Column => {
    const given = (header[index] ?? '').trim();
    let title = given || `Column ${index + 1}`;
    if (!given) unnamed.push(title);
    if (taken.has(title)) {
      repeated.add(title);
      let n = 2;
      while (taken.has(`${title} (${n})`) || own.has(`${title} (${n})`)) n++;
      title = `${title} (${n})`;
    }
    taken.add(title);
    return { id: newId(), title };
  });
  if (repeated.size > 0) {
    notes.push(noteAt([row], 'header-repeated', { titles: [...repeated] }));
  }
  if (unnamed.length > 0) {
    notes.push(noteAt([row], 'header-empty', { titles: unnamed }));
  }
  return { columns, notes };
}
