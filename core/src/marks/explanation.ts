/** One thing that a step is made from. */
export interface Term {
  readonly text: string;
  /** Written, and struck out: it does not count. */
  readonly struck?: boolean;
  /** Why, or what became of it. */
  readonly note?: string;
}

/** One step of how a value came about, from what is given to what comes out. */
export interface Step {
  readonly label: string;
  readonly terms: readonly Term[];
  /** What the step comes to; null where it only tells something. */
  readonly result: string | null;
}

/** How a cell of a worked column came about. */
export interface Explanation {
  /** The value as it stands in the table; blank where there is none. */
  readonly value: string;
  readonly steps: readonly Step[];
  /** Why there is no value, or what is wrong, as a sentence. */
  readonly problem: string | null;
  /** True where somebody wrote the cell by hand; the steps say what would stand there else. */
  readonly byHand: boolean;
}

export const step = (
  label: string,
  terms: readonly (Term | string)[],
  result: string | null = null,
): Step => ({
  label,
  terms: terms.map((term) => (typeof term === 'string' ? { text: term } : term)),
  result,
});

/** A step on one line: `Tests 40 %: 71, 64, 38 (dropped) → 67.5`. */
export function stepText({ label, terms, result }: Step): string {
  const made = terms.map(({ text, note }) => (note ? `${text} (${note})` : text)).join(', ');
  const told = [label, made].filter(Boolean).join(': ');
  return result === null ? told : `${told} → ${result}`;
}
