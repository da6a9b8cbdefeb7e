import type { Letter } from './letter.js';
import { emptyPlaced, type Placed } from './placed.js';
import type { Template } from './template.js';

/** The pages behind letters as templates of their own, so that the same letter gives the same one. */
const known = new WeakMap<Letter, Placed>();

/**
 * The pages with boxes that a template has: all of a placed one, or those behind a letter's text; null where it has none. Fields,
 * parts and language of these are the letter's.
 */
export function placedOf(template: Template): Placed | null {
  if (template.kind === 'placed') return template;
  if (!template.behind) return null;
  let placed = known.get(template);
  if (!placed) {
    const { behind, name, language, fields, parts, standard, letterhead, signature } = template;
    placed = {
      kind: 'placed',
      name,
      language,
      fields,
      ...behind,
      ...(parts ? { parts } : {}),
      ...(standard ? { standard } : {}),
      ...(letterhead ? { letterhead } : {}),
      ...(signature ? { signature } : {}),
    };
    known.set(template, placed);
  }
  return placed;
}

/** A letter with its pages behind it changed, and what they share with it. */
export function withPlaced(letter: Letter, placed: Placed): Letter {
  const { page, font, pages, boxes, fillable, fields, parts, language, standard } = placed;
  const changed: Letter = {
    ...letter,
    language,
    fields,
    behind: { page, font, pages, boxes, ...(fillable ? { fillable } : {}) },
    ...(parts ? { parts } : {}),
    ...(standard ? { standard } : {}),
  };
  known.set(changed, placed);
  return changed;
}

/** A letter with one empty page of its own size behind it. */
export const withFirstBehind = (letter: Letter): Letter =>
  withPlaced(letter, {
    ...emptyPlaced(letter.name),
    language: letter.language,
    page: { width: letter.page.width, height: letter.page.height, margins: letter.page.margins },
    font: letter.font,
    fields: letter.fields,
    ...(letter.parts ? { parts: letter.parts } : {}),
    ...(letter.standard ? { standard: letter.standard } : {}),
  });

/**
 * A letter with the pages of a placed template behind it: copies, which are the letter's from then on. A field or a part that
 * means something else in each of the two gets a new identity on the pages.
 */
export function withPagesBehind(letter: Letter, placed: Placed, newId: () => string): Letter {
  const fields = taken(letter.fields, placed.fields, newId);
  const parts = taken(letter.parts ?? [], placed.parts ?? [], newId);
  const renamed = { fieldId: fields.other, part: parts.other };
  const { boxes } = JSON.parse(JSON.stringify({ boxes: placed.boxes }), (key, value: unknown) =>
    (key === 'fieldId' || key === 'part') && typeof value === 'string'
      ? (renamed[key].get(value) ?? value)
      : value,
  ) as Pick<Placed, 'boxes'>;
  return withPlaced(letter, {
    ...placed,
    boxes,
    name: letter.name,
    language: letter.language,
    fields: fields.all,
    ...(parts.all.length > 0 ? { parts: parts.all } : {}),
  });
}

/** What two lists have together, and the new identities of those of the second that mean something else in the first. */
function taken<T extends { readonly id: string }>(
  mine: readonly T[],
  theirs: readonly T[],
  newId: () => string,
): { readonly all: T[]; readonly other: ReadonlyMap<string, string> } {
  const known = new Map(mine.map((one) => [one.id, JSON.stringify(one)]));
  const other = new Map<string, string>();
  const added = theirs.flatMap((one): T[] => {
    const same = known.get(one.id);
    if (same === undefined) return [one];
    if (same === JSON.stringify(one)) return [];
    other.set(one.id, newId());
    return [{ ...one, id: other.get(one.id)! }];
  });
  return { all: [...mine, ...added], other };
}

/**
 * A template whose boxes fill fields only where there are fields to be filled: on pages that lie on a form. Elsewhere they are
 * printed, so that what they say is not lost.
 *
 * @param isForm whether a PDF that lies under pages still has its fields.
 */
export function fillingForms<T extends Template>(template: T, isForm: (asset: string) => boolean): T {
  const placed = placedOf(template);
  if (!placed?.fillable) return template;
  const filled = ({ page, fills }: Placed['boxes'][number]): boolean =>
    fills !== undefined && isForm(placed.pages[page]?.ground?.asset ?? '');
  if (placed.boxes.every((box) => !box.fills || filled(box))) return template;
  const boxes = placed.boxes.map((box) => (filled(box) ? box : { ...box, fills: undefined }));
  const changed = { ...placed, boxes };
  return (template.kind === 'placed' ? changed : { ...template, ...withPlaced(template, changed) }) as T;
}
