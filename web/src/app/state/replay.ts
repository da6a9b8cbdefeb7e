import type { Folio } from '@scriptum/core/contract';
import { applyPatch, namesGone } from '@scriptum/core/roll';
import type { QueuedPatch } from './roll';

/** A folio as it came, with the changes that have not left yet; without those that do not go on it any more. */
export interface Replayed {
  readonly folio: Folio;
  readonly queue: readonly QueuedPatch[];
  readonly lost: number;
}

export function replay(folio: Folio, queue: readonly QueuedPatch[]): Replayed {
  let { roll } = folio;
  const kept = queue.filter(({ folioId, patch }) => {
    if (folioId !== folio.id) return true;
    const there = new Set(roll.entries.map(({ id }) => id));
    if (namesGone(patch, (id) => there.has(id))) return false;
    const patched = applyPatch(roll, patch);
    if (patched.ok) roll = patched.value.roll;
    return patched.ok;
  });
  return { folio: { ...folio, roll }, queue: kept, lost: queue.length - kept.length };
}
