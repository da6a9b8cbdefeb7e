import type { Worked } from '../column/index.js';

const MEASURES = {
  rank: 'rank',
  percentile: 'percentile',
  quarter: 'quarter',
  quantile: 'quantile',
  mean: 'mean',
  median: 'median',
  deviation: 'standard deviation',
  lowest: 'lowest',
  highest: 'highest',
  count: 'count',
  'z-score': 'z-score',
  'from mean': 'from the mean',
  change: 'change',
} as const;

/** What a worked column is, in two or three words, for the head of the table: `mark scheme`, `rank`. */
export function describeWorked(worked: Worked): string {
  switch (worked.kind) {
    case 'scheme':
      return 'mark scheme';
    case 'band':
      return worked.give === 'distance' ? 'to the next band' : 'bands';
    case 'cohort':
      return MEASURES[worked.measure];
    case 'attendance':
      return 'attendance';
    case 'key':
      return 'marking key';
    case 'remark':
      return 'remark';
    case 'expression':
      return 'formula';
    case 'part':
      return worked.part === 'steps' ? 'steps' : 'part';
  }
}
