import { readMoment, type Column } from '../column/index.js';
import { meaningOf, valueOf, type Entry } from '../roll/index.js';
import type { OrderWhen } from './order.js';

/**
 * The day on which an order acts for an entry: the one that stands in its row, and so many days after.
 *
 * @returns ISO 8601; null where no day can be read there.
 */
export function dayOf(
  { columnId, after }: Extract<OrderWhen, { kind: 'day' }>,
  entry: Entry,
  columns: readonly Column[],
): string | null {
  const column = columns.find(({ id }) => id === columnId);
  if (!column) return null;
  const value = meaningOf(entry, column);
  const iso =
    value.kind === 'date'
      ? value.iso
      : value.kind === 'text'
        ? readMoment(valueOf(entry, columnId), column.format?.dateOrder)?.iso
        : undefined;
  if (!iso) return null;
  const day = new Date(`${iso.slice(0, 10)}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() + after);
  return day.toISOString().slice(0, 10);
}
