import { phrase } from '../sentences/index.js';
import type { Worked } from '../column/index.js';

/** What a worked column is, in two or three words, for the head of the table: `mark scheme`, `rank`. */
export function describeWorked(worked: Worked): string {
  switch (worked.kind) {
    case 'scheme':
      return phrase('a-scheme');
    case 'band':
      return phrase(worked.give === 'distance' ? 'a-distance' : 'a-band');
    case 'cohort':
      return phrase('a-comparison', { measure: worked.measure });
    case 'attendance':
      return phrase('an-attendance');
    case 'key':
      return phrase('a-key');
    case 'remark':
      return phrase('a-remark');
    case 'expression':
      return phrase('a-formula');
    case 'part':
      return phrase(worked.part === 'steps' ? 'some-steps' : 'a-part');
    case 'personal':
      return phrase(worked.give === 'link' ? 'a-personal-link' : 'a-personal-code');
  }
}
