import { z } from 'zod';
import { Identity } from '../column/index.js';

/** How a cell is compared. Those with several values take any number of them, `between` two. */
export const COMPARISONS = [
  'blank',
  'not blank',
  'equal',
  'unequal',
  'under',
  'at most',
  'over',
  'at least',
  'between',
  'one of',
  'none of',
  'contains',
  'contains not',
  'begins with',
  'true',
  'false',
] as const;
export const Comparison = z.enum(COMPARISONS);
export type Comparison = z.infer<typeof Comparison>;

/** How many values a comparison takes. */
export const VALUES: Readonly<Record<Comparison, 0 | 1 | 2 | 'any'>> = {
  blank: 0,
  'not blank': 0,
  equal: 1,
  unequal: 1,
  under: 1,
  'at most': 1,
  over: 1,
  'at least': 1,
  between: 2,
  'one of': 'any',
  'none of': 'any',
  contains: 1,
  'contains not': 1,
  'begins with': 1,
  true: 0,
  false: 0,
};

/**
 * One test of a cell. Values are numbers in plain decimal notation, days and moments in ISO 8601, or texts; which of these
 * they are decides how the cell is read.
 */
export const CellTest = z
  .object({
    columnId: Identity,
    is: Comparison,
    values: z.array(z.string().max(1000)).max(200).default([]),
  })
  .refine(({ is, values }) => VALUES[is] === 'any' || values.length === VALUES[is], {
    message: 'A comparison has as many values as it compares with.',
  });
export type CellTest = z.infer<typeof CellTest>;

/** What may be asked of the papers that an entry has: whether there are none, whether a cell is another one since. */
export const PAPER_TESTS = ['new', 'not new', 'changed', 'not changed'] as const;
/** One test of what was made for an entry before. It is for rules of sorting alone: a paper cannot hang on whether it is there. */
export const PaperTest = z.object({ papers: z.enum(PAPER_TESTS) });
export type PaperTest = z.infer<typeof PaperTest>;

/** What was made for an entry before. */
export interface Made {
  /** No paper stands for it. */
  readonly isNew: boolean;
  /** There is a paper, and since the last one was planned a cell became another one. */
  readonly changed: boolean;
}

/** A test on an entry: of one cell, or put together with and, or, not. No tests in `all` hold for everybody, in `any` for nobody. */
export type Condition =
  | CellTest
  | PaperTest
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition };

/** How deep, and how many in all. */
const DEEP = 8;
const MANY = 300;

function built(of: z.ZodType<Condition>): z.ZodType<Condition> {
  const inner: z.ZodType<Condition> = z.lazy(() =>
    z.union([
      z.object({ all: z.array(inner).max(MANY) }),
      z.object({ any: z.array(inner).max(MANY) }),
      z.object({ not: inner }),
      of,
    ]),
  );
  return z
    .unknown()
    .superRefine((value, context) => {
      const { depth, count } = sizeOf(value);
      if (depth > DEEP || count > MANY)
        context.addIssue({
          code: 'custom',
          message: `A condition may be ${DEEP} levels deep and have ${MANY} parts.`,
        });
    })
    .pipe(inner);
}

export const Condition: z.ZodType<Condition> = built(CellTest).meta({
  id: 'Condition',
  description: 'A test on an entry',
});

/** A test on an entry that may also ask what was made for it before. */
export const SortingCondition: z.ZodType<Condition> = built(z.union([CellTest, PaperTest])).meta({
  id: 'SortingCondition',
  description: 'A test on an entry and on what was made for it before',
});

/** How many tests and signs are in some conditions together. */
export const sizeOfAll = (conditions: readonly Condition[]): number =>
  conditions.reduce((sum, condition) => sum + sizeOf(condition).count, 0);

/** Measures without going deeper than is allowed. */
function sizeOf(value: unknown, depth = 1): { depth: number; count: number } {
  const parts = partsOf(value);
  let deepest = depth;
  let count = 1;
  if (depth <= DEEP)
    for (const part of parts) {
      const inner = sizeOf(part, depth + 1);
      deepest = Math.max(deepest, inner.depth);
      if ((count += inner.count) > MANY) break;
    }
  return { depth: deepest, count };
}

function partsOf(value: unknown): readonly unknown[] {
  if (typeof value !== 'object' || value === null) return [];
  if ('all' in value) return Array.isArray(value.all) ? value.all : [];
  if ('any' in value) return Array.isArray(value.any) ? value.any : [];
  return 'not' in value ? [value.not] : [];
}

/** The columns that a condition looks at, each once. */
export function columnsOf(condition: Condition): string[] {
  if ('columnId' in condition) return [condition.columnId];
  return [...new Set((partsOf(condition) as readonly Condition[]).flatMap(columnsOf))];
}

/** True where a condition asks what was made for an entry before. */
export const asksPapers = (condition: Condition): boolean =>
  'papers' in condition || (partsOf(condition) as readonly Condition[]).some(asksPapers);
