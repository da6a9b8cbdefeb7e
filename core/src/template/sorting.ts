import { z } from 'zod';
import { Identity } from '../column/index.js';
import { sizeOfAll, SortingCondition } from '../condition/index.js';
import { TOO_MANY } from './template-base.js';

const given = {
  templates: z.array(Identity).max(50),
  /** Cover notes that go along beside those for everybody. */
  notes: z.array(Identity).max(50).optional(),
};

/** What those get whom a rule takes: papers, papers beside what other rules give, or none. */
export const SortingOutcome = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('gives'), ...given }),
  z.object({ kind: z.literal('also'), ...given }),
  z.object({ kind: z.literal('out'), why: z.string().max(300) }),
]);
export type SortingOutcome = z.infer<typeof SortingOutcome>;

export const SortingRule = z.object({
  id: Identity,
  /** Whom it takes; null is everybody whom no rule before it has taken. */
  if: SortingCondition.nullable(),
  then: SortingOutcome,
});
export type SortingRule = z.infer<typeof SortingRule>;

/** Who gets papers of which templates: rules in their order. Without rules everybody gets one of each. */
export const Sorting = z
  .object({ rules: z.array(SortingRule).max(100) })
  .refine(({ rules }) => sizeOfAll(rules.flatMap((rule) => (rule.if ? [rule.if] : []))) <= 300, TOO_MANY)
  .meta({ id: 'Sorting', description: 'Who gets papers of which templates' });
export type Sorting = z.infer<typeof Sorting>;

export const emptySorting = (): Sorting => ({ rules: [] });
