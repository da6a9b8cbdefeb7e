import type { Folio } from '@scriptum/core/contract';
import type { Roll } from '@scriptum/core/roll';
import {
  emptyFiling,
  emptyLetter,
  emptyNote,
  emptySorting,
  WRITING_NAMES,
  type Writing,
  type WritingContents,
  type WritingKind,
} from '@scriptum/core/template';

/** Writings of tests, by kind; their identities are their kinds. */
export function testWritings(
  contents: Partial<WritingContents> = {},
  versions: Partial<Record<WritingKind, number>> = {},
): Writing[] {
  const all = {
    letter: emptyLetter('T'),
    note: emptyNote(),
    filing: emptyFiling(),
    sorting: emptySorting(),
    ...contents,
  };
  return (['letter', 'note', 'filing', 'sorting'] as const).map(
    (kind) =>
      ({
        id: kind,
        kind,
        name: WRITING_NAMES[kind],
        place: 0,
        version: versions[kind] ?? 1,
        content: all[kind],
      }) as Writing,
  );
}

/** A folio of tests. */
export const testFolio = (
  roll: Roll = { columns: [], entries: [] },
  writings: Writing[] = testWritings(),
  id = 'folio1',
): Folio => ({ id, title: 'T', sources: [], earlier: null, roll, writings, assets: [], letterhead: null });
