import { AttendanceReckoner } from './columns/attendance-column.js';
import { BandedColumn } from './columns/band-column.js';
import { CohortReckoner } from './columns/cohort-column.js';
import { ExpressionReckoner } from './columns/expression-column.js';
import { KeyColumn } from './columns/key-column.js';
import { PartReckoner } from './columns/part-column.js';
import { RemarkReckoner } from './columns/remark-column.js';
import { SchemeColumn } from './columns/scheme-column.js';
import type { Ground, Reckoner } from './reckoner.js';

/** The reckoner that a definition asks for. */
export function makeReckoner(ground: Ground): Reckoner {
  switch (ground.worked.kind) {
    case 'scheme':
      return new SchemeColumn(ground as Ground<'scheme'>);
    case 'band':
      return new BandedColumn(ground as Ground<'band'>);
    case 'cohort':
      return new CohortReckoner(ground as Ground<'cohort'>);
    case 'attendance':
      return new AttendanceReckoner(ground as Ground<'attendance'>);
    case 'key':
      return new KeyColumn(ground as Ground<'key'>);
    case 'remark':
      return new RemarkReckoner(ground as Ground<'remark'>);
    case 'expression':
      return new ExpressionReckoner(ground as Ground<'expression'>);
    case 'part':
      return new PartReckoner(ground as Ground<'part'>);
  }
}
