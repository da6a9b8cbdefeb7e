import { dressed, type Letterhead, type TemplateWriting } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { LetterheadRow } from './entities/letterhead.js';

/** The letterhead that a school uses now; null while it has none. */
export const currentLetterhead = (manager: EntityManager, schoolId: string): Promise<LetterheadRow | null> =>
  manager.findOne(LetterheadRow, { where: { schoolId }, order: { version: 'DESC' } });

/** A school's letterhead as it was in a version; null for none. */
export async function letterheadAt(
  manager: EntityManager,
  schoolId: string,
  version: number | null,
): Promise<Letterhead | null> {
  if (version === null) return null;
  const row = await manager.findOneBy(LetterheadRow, { schoolId, version });
  return row?.content ?? null;
}

/** Templates with what they take from a letterhead. */
export const dressAll = <T extends TemplateWriting>(
  templates: readonly T[],
  letterhead: Letterhead | null,
): T[] => templates.map((one) => ({ ...one, content: dressed(one.content, letterhead) }));
