import { boundsOf, endOf, lengthOf, middleOf, startOf, tidy, type Axis, type Rect } from './rect.js';

/** A rectangle that belongs to something. */
export type Named = Rect & { readonly id: string };

export type Side = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';

/** What is moved together: the boxes of one group, or one box alone. */
function clusters<T extends Named & { readonly group?: string | undefined }>(boxes: readonly T[]): T[][] {
  const groups = new Map<string, T[]>();
  for (const box of boxes) {
    const key = box.group ?? `alone ${box.id}`;
    groups.set(key, [...(groups.get(key) ?? []), box]);
  }
  return [...groups.values()];
}

const shift = <T extends Rect>(box: T, axis: Axis, by: number): T => ({
  ...box,
  [axis]: tidy(box[axis] + by),
});

/**
 * Puts boxes in line at a side of what they take together, or of a room where there is only one of them. Groups stay as
 * they are and move as a whole.
 */
export function alignBoxes<T extends Named & { readonly group?: string | undefined }>(
  boxes: readonly T[],
  side: Side,
  room: Rect,
): T[] {
  const all = clusters(boxes);
  const axis: Axis = side === 'left' || side === 'centre' || side === 'right' ? 'x' : 'y';
  const whole = all.length === 1 ? room : boundsOf(boxes);
  if (!whole) return [...boxes];
  const place = (rect: Rect): number => {
    if (side === 'left' || side === 'top') return startOf(whole, axis) - startOf(rect, axis);
    if (side === 'right' || side === 'bottom') return endOf(whole, axis) - endOf(rect, axis);
    return middleOf(whole, axis) - middleOf(rect, axis);
  };
  return all.flatMap((cluster) => {
    const by = place(boundsOf(cluster)!);
    return cluster.map((box) => shift(box, axis, by));
  });
}

/** Gives boxes the same distance from one to the next; the first and the last stay. Fewer than three stay as they are. */
export function distributeBoxes<T extends Named & { readonly group?: string | undefined }>(
  boxes: readonly T[],
  axis: Axis,
): T[] {
  const all = clusters(boxes)
    .map((cluster) => ({ cluster, rect: boundsOf(cluster)! }))
    .sort((a, b) => startOf(a.rect, axis) - startOf(b.rect, axis));
  if (all.length < 3) return [...boxes];
  const taken = all.reduce((sum, { rect }) => sum + lengthOf(rect, axis), 0);
  const room = endOf(all.at(-1)!.rect, axis) - startOf(all[0]!.rect, axis);
  const gap = (room - taken) / (all.length - 1);
  let at = startOf(all[0]!.rect, axis);
  return all.flatMap(({ cluster, rect }) => {
    const by = at - startOf(rect, axis);
    at += lengthOf(rect, axis) + gap;
    return cluster.map((box) => shift(box, axis, by));
  });
}

/** Copies of boxes, each so far from the one before; groups among them become groups of their own. */
export function stepCopies<T extends Named & { readonly group?: string | undefined }>(
  boxes: readonly T[],
  times: number,
  by: { readonly x: number; readonly y: number },
  newId: () => string,
): T[] {
  return Array.from({ length: times }, (_, n) => {
    const groups = new Map<string, string>();
    return boxes.map((box): T => {
      if (box.group && !groups.has(box.group)) groups.set(box.group, newId());
      return {
        ...box,
        id: newId(),
        x: tidy(box.x + by.x * (n + 1)),
        y: tidy(box.y + by.y * (n + 1)),
        ...(box.group ? { group: groups.get(box.group)! } : {}),
      };
    });
  }).flat();
}

/** Where some stand among others in an order after they went forward or back one place, or to an end. */
export function reorder<T extends { readonly id: string }>(
  all: readonly T[],
  ids: ReadonlySet<string>,
  to: 'first' | 'earlier' | 'later' | 'last',
): T[] {
  const chosen = all.filter(({ id }) => ids.has(id));
  if (to === 'first') return [...chosen, ...all.filter(({ id }) => !ids.has(id))];
  if (to === 'last') return [...all.filter(({ id }) => !ids.has(id)), ...chosen];
  const list = [...all];
  const swap = (a: number, b: number): void => {
    [list[a], list[b]] = [list[b]!, list[a]!];
  };
  if (to === 'earlier') {
    for (let n = 1; n < list.length; n++)
      if (ids.has(list[n]!.id) && !ids.has(list[n - 1]!.id)) swap(n, n - 1);
  } else {
    for (let n = list.length - 2; n >= 0; n--)
      if (ids.has(list[n]!.id) && !ids.has(list[n + 1]!.id)) swap(n, n + 1);
  }
  return list;
}
