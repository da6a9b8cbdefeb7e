/** The words of a chart's key, as people wrote them. */
export interface ChartWords {
  readonly own: string;
  readonly mean: string;
  /** What is counted: learners. */
  readonly count: string;
}

interface Common {
  /** What the values are called. */
  readonly axis: string;
  readonly words: ChartWords;
  /** Where the axis of the values ends at least. */
  readonly least: number;
  readonly most: number;
}

/** A value with what it is called; null where there is none. */
export interface ChartPoint {
  readonly title: string;
  readonly value: number | null;
  /** The value as it is printed. */
  readonly text: string;
  readonly mean: number | null;
  readonly meanText: string;
}

/** How many sessions of a week a learner was there for, came late to, and was away from. */
export interface ChartWeek {
  readonly title: string;
  readonly present: number;
  readonly late: number;
  readonly away: number;
}

/** What a chart shows, as it is kept with a paper. */
export type ChartData =
  | (Common & { readonly kind: 'bars' | 'course'; readonly points: readonly ChartPoint[] })
  /** Its words are those for being there, coming late, and being away. */
  | (Common & { readonly kind: 'weeks'; readonly weeks: readonly ChartWeek[] })
  | (Common & {
      readonly kind: 'place';
      /** How many have a value in each of equal steps between `least` and `most`, lowest first. */
      readonly counts: readonly number[];
      readonly value: number;
      readonly text: string;
    });

/** Millimetres. */
export interface ChartSize {
  readonly width: number;
  readonly height?: number | undefined;
}
