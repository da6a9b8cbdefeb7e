import type { Condition } from '@scriptum/core/condition';
import type { Placed, PlacedBox } from '@scriptum/core/template';
import type { Arranging } from './arrange-bar';
import { aligned, distributed, grouped, mapBoxes, reordered, withoutBoxes, withSteps } from './placed-edits';

type Part = Partial<Placed>;

/** A template after some of its boxes were arranged, and which are picked then, where these are others. */
export function arranged(
  template: Placed,
  ids: ReadonlySet<string>,
  arranging: Exclude<Arranging, { do: 'copy' }>,
  newId: () => string,
): { readonly part: Part; readonly ids?: readonly string[] } {
  switch (arranging.do) {
    case 'align':
      return { part: aligned(template, ids, arranging.side) };
    case 'distribute':
      return { part: distributed(template, ids, arranging.axis) };
    case 'order':
      return { part: reordered(template, ids, arranging.to) };
    case 'group':
      return { part: grouped(template, ids, newId()) };
    case 'ungroup':
      return { part: grouped(template, ids, null) };
    case 'lock':
    case 'unlock':
      return { part: mapBoxes(template, ids, (box) => ({ ...box, locked: arranging.do === 'lock' })) };
    case 'delete':
      return { part: withoutBoxes(template, ids) };
    case 'steps':
      return withSteps(template, ids, arranging.times, arranging, newId);
  }
}

/** With a condition under which a box stands; null is always. Copies of a box share its part until one of them gets another. */
export function withCondition(
  template: Placed,
  box: PlacedBox,
  condition: Condition | null,
  newId: () => string,
): Part {
  const ids = new Set([box.id]);
  const { part: _, ...bare } = box;
  if (condition === null) return mapBoxes(template, ids, () => bare);
  const parts = template.parts ?? [];
  const known = parts.find(({ id }) => id === box.part);
  const shared = known && template.boxes.some(({ id, part }) => id !== box.id && part === known.id);
  const id = known && !shared ? known.id : newId();
  const one = { id, if: condition };
  return {
    ...mapBoxes(template, ids, () => ({ ...bare, part: id })),
    parts: known && !shared ? parts.map((part) => (part.id === id ? one : part)) : [...parts, one],
  };
}
