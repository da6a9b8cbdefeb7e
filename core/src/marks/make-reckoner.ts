import { AttendanceReckoner } from './reckoners/attendance-reckoner.js';
import { BandReckoner } from './reckoners/band-reckoner.js';
import { CohortReckoner } from './reckoners/cohort-reckoner.js';
import { ExpressionReckoner } from './reckoners/expression-reckoner.js';
import { KeyReckoner } from './reckoners/key-reckoner.js';
import { PartReckoner } from './reckoners/part-reckoner.js';
import { PersonalReckoner } from './reckoners/personal-reckoner.js';
import { RemarkReckoner } from './reckoners/remark-reckoner.js';
import { SchemeReckoner } from './reckoners/scheme-reckoner.js';
import type { ReckonerInput, Reckoner } from './reckoner.js';

/** The reckoner that a definition asks for. */
export function makeReckoner(input: ReckonerInput): Reckoner {
  switch (input.worked.kind) {
    case 'scheme':
      return new SchemeReckoner(input as ReckonerInput<'scheme'>);
    case 'band':
      return new BandReckoner(input as ReckonerInput<'band'>);
    case 'cohort':
      return new CohortReckoner(input as ReckonerInput<'cohort'>);
    case 'attendance':
      return new AttendanceReckoner(input as ReckonerInput<'attendance'>);
    case 'key':
      return new KeyReckoner(input as ReckonerInput<'key'>);
    case 'remark':
      return new RemarkReckoner(input as ReckonerInput<'remark'>);
    case 'expression':
      return new ExpressionReckoner(input as ReckonerInput<'expression'>);
    case 'part':
      return new PartReckoner(input as ReckonerInput<'part'>);
    case 'personal':
      return new PersonalReckoner(input as ReckonerInput<'personal'>);
  }
}
