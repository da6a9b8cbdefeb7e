import { programValues } from '@scriptum/core/page';
import { emptyLetter, type Letter } from '@scriptum/core/template';
import type { Block } from '@scriptum/core/text';
import type { EntityManager } from 'typeorm';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { Refusal } from '../refusal.js';
import type { PlannedPack } from './plan-pack.js';

const field = (fieldId: string): Block => ({
  type: 'paragraph',
  content: [{ type: 'field', attrs: { fieldId } }],
});

/** A sheet that says whose papers come next. */
function sheet({ title, size }: PlannedPack): Letter {
  const blank = emptyLetter(title);
  const margin = Math.round(Math.min(size.width, size.height) / 8);
  return {
    ...blank,
    page: { ...size, margins: { top: margin * 2, right: margin, bottom: margin, left: margin } },
    font: { family: 'Source Sans 3', size: 14 },
    fields: ['what', 'group', 'count'].map((id) => ({
      id,
      name: id,
      columnId: null,
      same: { kind: 'text', text: '' },
    })),
    body: {
      type: 'doc',
      content: [
        field('what'),
        {
          type: 'heading',
          attrs: { level: 1 },
          // To be found in a stack.
          content: [
            {
              type: 'field',
              attrs: { fieldId: 'group' },
              marks: [{ type: 'textStyle', attrs: { fontSize: '64pt' } }],
            },
          ],
        },
        field('count'),
      ],
    } as Letter['body'],
  };
}

/** Sets the sheets between the papers of a pack. @returns the PDF of each group. */
export async function separators(
  manager: EntityManager,
  { programs, typesetter }: { readonly programs: Programs; readonly typesetter: Typesetter },
  { schoolId, folioId }: { readonly schoolId: string; readonly folioId: string },
  plan: PlannedPack,
): Promise<Map<string, Buffer>> {
  const counts = new Map<string, { papers: number; learners: Set<string> }>();
  for (const { group, copies, learner, fileName } of plan.papers) {
    if (group === null || copies === 0) continue;
    const count = counts.get(group) ?? { papers: 0, learners: new Set<string>() };
    count.papers += copies;
    count.learners.add(learner || fileName);
    counts.set(group, count);
  }
  const sheets = new Map<string, Buffer>();
  if (counts.size === 0) return sheets;
  const template = sheet(plan);
  const program = await programs.load(manager, schoolId, folioId, template);
  for (const [group, { papers, learners }] of counts) {
    const values = {
      what: `${plan.title} · ${plan.apart}`,
      group: group === '' ? `Without ${plan.apart}` : group,
      count: `${papers} ${papers === 1 ? 'paper' : 'papers'} · ${learners.size} ${learners.size === 1 ? 'learner' : 'learners'}`,
    };
    const set = await typesetter.paper(program, programValues(template, values), new Date(), []);
    if (!set.ok) throw new Refusal(422, 'typesetting', `The sheet “${group}” cannot be set. ${set.reason}`);
    sheets.set(group, set.bytes);
  }
  return sheets;
}
