import { readMoment, readNumber } from '../../column/index.js';
import { cellText, type Cell } from '../cell.js';
import { ratio } from '../../ratio/index.js';

/** How late a piece came, or why that cannot be said. */
export interface Lateness {
  /** Whole days, begun ones counted; 0 for in time, and where there is a problem. */
  readonly days: number;
  readonly problem?: 'unread' | 'no due date';
  readonly written: string;
}

/**
 * Reads how late a piece came: a number of days, or the date on which it came, held against the one on which it was due.
 * Columns without a type are read too, where they leave no doubt.
 *
 * @param due ISO 8601.
 * @returns null for a blank.
 */
export function daysLate(cell: Cell, due: string | undefined): Lateness | null {
  const written = cellText(cell);
  switch (cell.kind) {
    case 'blank':
      return null;
    case 'number':
      return { days: Math.max(0, Number(cell.exact.ceil())), written };
    case 'date':
      return since(cell.iso, due, written);
    case 'text': {
      const moment = readMoment(written);
      if (moment && !moment.ambiguous) return since(moment.iso, due, written);
      const days = moment ? null : readNumber(written);
      if (days !== null) return { days: Math.max(0, Number(ratio(days).ceil())), written };
    }
  }
  return { days: 0, problem: 'unread', written };
}

function since(iso: string, due: string | undefined, written: string): Lateness {
  if (!due) return { days: 0, problem: 'no due date', written };
  const day = (text: string): number => Date.parse(`${text.slice(0, 10)}T00:00:00Z`) / 86_400_000;
  return { days: Math.max(0, day(iso) - day(due)), written };
}
