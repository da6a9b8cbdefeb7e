import {
  alignBoxes,
  distributeBoxes,
  reorder,
  stepCopies,
  type Axis,
  type Rect,
  type Side,
} from '@scriptum/core/placing';
import {
  fieldsOf,
  partsOf,
  sizeOfPage,
  type Field,
  type Placed,
  type PlacedBox,
  type TextBox,
  type TextPart,
} from '@scriptum/core/template';
import { goesUnder } from './new-box';
import { nudged, type Nudge } from './place-keys';

/** Boxes that were copied, with the fields and parts that they name. */
export interface Copied {
  readonly boxes: readonly PlacedBox[];
  readonly fields: readonly Field[];
  readonly parts: readonly TextPart[];
}

type Part = Partial<Placed>;

/** Boxes after some of them were changed. */
export const mapBoxes = (
  { boxes }: Placed,
  ids: ReadonlySet<string>,
  change: (box: PlacedBox) => PlacedBox,
): Part => ({ boxes: boxes.map((box) => (ids.has(box.id) ? change(box) : box)) });

/** With one more box: among the others, or below them where it has no words. */
export const withBox = ({ boxes }: Placed, box: PlacedBox): Part => ({
  boxes: goesUnder(box) ? [box, ...boxes] : [...boxes, box],
});

/** Without some boxes; those that are locked stay. */
export const withoutBoxes = ({ boxes }: Placed, ids: ReadonlySet<string>): Part => ({
  boxes: ended(boxes.filter(({ id, locked }) => locked || !ids.has(id))),
});

/** Texts that went on in a place that is gone end in their own. */
function ended(boxes: readonly PlacedBox[]): PlacedBox[] {
  const there = new Set(boxes.map(({ id }) => id));
  return boxes.map((box) => {
    if (box.kind !== 'text' || box.long?.do !== 'on' || there.has(box.long.to)) return box;
    const { long: _, ...rest } = box;
    return rest;
  });
}

/**
 * With a place for a text to go on in: as large as its own, where that stands on the next page, which is put in where there is
 * none.
 */
export function withGoingOn(template: Placed, box: TextBox, id: string): Part {
  const page = box.page + 1;
  const there =
    page < template.pages.length
      ? template
      : { ...template, ...withPage(template, box.page, false, () => id) };
  const {
    part: _,
    group: _group,
    name: _name,
    locked: _locked,
    oneLine: _oneLine,
    long: _long,
    ...like
  } = box;
  const place: TextBox = { ...like, id, page, body: { type: 'doc', content: [{ type: 'paragraph' }] } };
  const from: TextBox = { ...box, oneLine: false, long: { do: 'on', to: id } };
  return {
    pages: there.pages,
    boxes: [...there.boxes.map((one) => (one.id === box.id ? from : one)), place],
  };
}

/** The box whose text goes on in one. */
export const goesOnFrom = ({ boxes }: Placed, id: string): PlacedBox | undefined =>
  boxes.find((box) => box.kind === 'text' && box.long?.do === 'on' && box.long.to === id);

/** Every box of the groups that some belong to. */
export function wholeGroups({ boxes }: Placed, ids: readonly string[]): string[] {
  const chosen = new Set(ids);
  const groups = new Set(boxes.flatMap(({ id, group }) => (group && chosen.has(id) ? [group] : [])));
  return boxes.filter(({ id, group }) => chosen.has(id) || (group && groups.has(group))).map(({ id }) => id);
}

export const movedTo = (template: Placed, rects: ReadonlyMap<string, Rect>): Part =>
  mapBoxes(template, new Set(rects.keys()), (box) => ({ ...box, ...rects.get(box.id) }));

export const nudgedBoxes = (template: Placed, ids: ReadonlySet<string>, nudge: Nudge): Part =>
  mapBoxes(template, ids, (box) => (box.locked ? box : nudged(box, nudge)));

/** The boxes that are chosen and may be moved, page by page. */
const movable = ({ boxes }: Placed, ids: ReadonlySet<string>): PlacedBox[][] => {
  const pages = new Map<number, PlacedBox[]>();
  for (const box of boxes)
    if (ids.has(box.id) && !box.locked) pages.set(box.page, [...(pages.get(box.page) ?? []), box]);
  return [...pages.values()];
};

const putBack = (template: Placed, changed: readonly PlacedBox[]): Part => {
  const known = new Map(changed.map((box) => [box.id, box]));
  return { boxes: template.boxes.map((box) => known.get(box.id) ?? box) };
};

/** In line with each other; one alone, or one group, with the page. */
export const aligned = (template: Placed, ids: ReadonlySet<string>, side: Side): Part =>
  putBack(
    template,
    movable(template, ids).flatMap((boxes) =>
      alignBoxes(boxes, side, { x: 0, y: 0, ...sizeOfPage(template, boxes[0]!.page) }),
    ),
  );

export const distributed = (template: Placed, ids: ReadonlySet<string>, axis: Axis): Part =>
  putBack(
    template,
    movable(template, ids).flatMap((boxes) => distributeBoxes(boxes, axis)),
  );

export const reordered = (
  { boxes }: Placed,
  ids: ReadonlySet<string>,
  to: 'first' | 'earlier' | 'later' | 'last',
): Part => ({ boxes: reorder(boxes, ids, to) });

export const grouped = (template: Placed, ids: ReadonlySet<string>, group: string | null): Part =>
  mapBoxes(template, ids, ({ group: _, ...box }) => (group === null ? box : { ...box, group }));

/** What is copied of some boxes. */
export function copyOf(template: Placed, ids: ReadonlySet<string>): Copied {
  const boxes = template.boxes.filter(({ id }) => ids.has(id));
  const alone = { ...template, boxes };
  const named = new Set(fieldsOf(alone));
  return { boxes, fields: template.fields.filter(({ id }) => named.has(id)), parts: partsOf(alone) };
}

/** Copies in steps, of which each goes on in the copy of where its own text went on, if that was copied too. */
function copies(
  boxes: readonly PlacedBox[],
  times: number,
  by: { readonly x: number; readonly y: number },
  newId: () => string,
): PlacedBox[] {
  // A field of a form is filled from one place.
  const alone = boxes.map(({ fills: _, ...box }): PlacedBox => box);
  const made = stepCopies(alone, times, by, newId);
  return made.map((box, n) => {
    if (box.kind !== 'text' || box.long?.do !== 'on') return box;
    const { to } = box.long;
    const place = boxes.findIndex(({ id }) => id === to);
    const round = n - (n % boxes.length);
    const { long: _, ...rest } = box;
    return place < 0 ? rest : { ...rest, long: { do: 'on', to: made[round + place]!.id } };
  });
}

/** Millimetres that a copy stands off what it was made from. */
const OFF = 5;

/** With copies put in on a page, and their identities. On the page that they come from they stand a little off. */
export function withCopies(
  template: Placed,
  copied: Copied,
  page: number,
  newId: () => string,
): { readonly part: Part; readonly ids: readonly string[] } {
  const there = new Set(template.boxes.map(({ id, page: on }) => `${id} ${on}`));
  const off = copied.boxes.some(({ id }) => there.has(`${id} ${page}`)) ? OFF : 0;
  const boxes = copies(copied.boxes, 1, { x: off, y: off }, newId).map((box) => ({ ...box, page }));
  const missing = <T extends { readonly id: string }>(mine: readonly T[], theirs: readonly T[]): T[] => {
    const known = new Set(mine.map(({ id }) => id));
    return [...mine, ...theirs.filter(({ id }) => !known.has(id))];
  };
  const parts = missing(template.parts ?? [], copied.parts);
  return {
    part: {
      boxes: [...template.boxes, ...boxes],
      fields: missing(template.fields, copied.fields),
      ...(parts.length > 0 ? { parts } : {}),
    },
    ids: boxes.map(({ id }) => id),
  };
}

/** With copies in steps: so many, each so far from the one before. */
export function withSteps(
  template: Placed,
  ids: ReadonlySet<string>,
  times: number,
  by: { readonly x: number; readonly y: number },
  newId: () => string,
): { readonly part: Part; readonly ids: readonly string[] } {
  const made = copies(
    template.boxes.filter(({ id }) => ids.has(id)),
    times,
    by,
    newId,
  );
  return { part: { boxes: [...template.boxes, ...made] }, ids: made.map(({ id }) => id) };
}

/** Without a page and what stands on it; the last one stays. */
export function withoutPage({ pages, boxes }: Placed, n: number): Part {
  if (pages.length < 2) return {};
  return {
    pages: pages.filter((_, at) => at !== n),
    boxes: ended(boxes.filter(({ page }) => page !== n)).map((box) =>
      box.page > n ? { ...box, page: box.page - 1 } : box,
    ),
  };
}

/** With a page behind another one: a blank one of its size, or a copy with all boxes. */
export function withPage({ pages, boxes }: Placed, behind: number, copy: boolean, newId: () => string): Part {
  const page = pages[behind] ?? {};
  const moved = boxes.map((box) => (box.page > behind ? { ...box, page: box.page + 1 } : box));
  const added = copy
    ? copies(
        boxes.filter((box) => box.page === behind),
        1,
        { x: 0, y: 0 },
        newId,
      ).map((box) => ({ ...box, page: behind + 1 }))
    : [];
  const next = copy ? page : page.size ? { size: page.size } : {};
  return {
    pages: [...pages.slice(0, behind + 1), next, ...pages.slice(behind + 1)],
    boxes: [...moved, ...added],
  };
}
