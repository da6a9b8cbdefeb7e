import { columnsOf, type Condition } from '../condition/index.js';
import type { Roll } from '../roll/index.js';
import { isMatched, type Field } from '../template/index.js';
import type { Finding } from './finding.js';
import { block, look } from './say.js';

/** A part that looks at a column which is gone stands for nobody. */
export function partFindings(
  parts: readonly { readonly if: Condition }[],
  { columns }: Roll,
  place: 'letter' | 'note',
  what: typeof place | 'certificate' | { readonly template: string } = place,
): Finding[] {
  const known = new Set(columns.map(({ id }) => id));
  const gone = parts.filter((part) => columnsOf(part.if).some((id) => !known.has(id)));
  return gone.length > 0 ? [look({ place }, 'part-column-gone', { place: what, count: gone.length })] : [];
}

/** Fields that stand somewhere and that nothing fills. */
export function unmatched(
  fields: readonly Field[],
  used: readonly string[],
  place: 'letter' | 'note' | 'filing',
  what: typeof place | 'certificate' | { readonly template: string } = place,
): Finding[] {
  return used.flatMap((id) => {
    const field = fields.find((candidate) => candidate.id === id);
    if (field && isMatched(field)) return [];
    const said = { place: what, field: field?.name ?? null };
    return [{ ...block('press', place, 'field-unmatched', said), fieldId: id }];
  });
}
