import { programValues } from '@scriptum/core/page';
import type { PrintedValues } from '@scriptum/core/fill';
import { isIn } from '@scriptum/core/roll';
import type { DressedTemplate, Template } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { findFolio } from '../store/folios.js';
import { contentsOf, loadPlanning, plannedNow } from './planning.js';

/** A paper to be tried: all that it is made from. */
export interface TryPaper {
  readonly learner: string;
  readonly fileName: string;
  readonly template: DressedTemplate & Template;
  readonly printed: PrintedValues;
  /** JSON of `programValues`. */
  readonly values: string;
}

/** The papers of some entries as they would be made now, in the order of the roll. */
export async function planTry(
  manager: EntityManager,
  { schoolId, folioId, entryIds }: { schoolId: string; folioId: string; entryIds: readonly string[] },
): Promise<TryPaper[]> {
  const planning = await loadPlanning(manager, await findFolio(manager, schoolId, folioId));
  const contentOf = contentsOf(planning);
  const asked = new Set(entryIds);
  return plannedNow(planning)
    .filter(({ entry }) => isIn(entry) && asked.has(entry.id))
    .map((paper) => {
      const { learner, fileName, values } = paper;
      const template = contentOf(paper);
      return { learner, fileName, template, printed: values, values: programValues(template, values) };
    });
}
