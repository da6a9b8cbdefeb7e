import { meaningOf, valueOf, type Entry } from '../roll/index.js';
import { printValue, type Column, type FillFormat, type Value } from '../column/index.js';
import type { FillContext, Filled } from './filled.js';
import { printable } from './printable.js';

/** An entry's cell as it is printed. */
export function cellOf(
  columnId: string,
  format: FillFormat | undefined,
  entry: Entry,
  { columns, language, cohort }: FillContext,
): Filled {
  const chosen = format ?? cohort?.formatOf(columnId, language) ?? undefined;
  const one = new FilledCell(printable(valueOf(entry, columnId)), entry, columnId, columns);
  const printed = chosen && printValue(one.value, chosen, language, one.column?.type === 'percentage');
  return printed == null ? one : { text: printable(printed), value: one.value };
}

/** A cell that is printed as it stands. What it means is read when first asked for: most are never asked. */
class FilledCell implements Filled {
  private read: Value | undefined;

  constructor(
    readonly text: string,
    private readonly entry: Entry,
    private readonly columnId: string,
    private readonly columns: readonly Column[],
  ) {}

  get column(): Column | undefined {
    return this.columns.find(({ id }) => id === this.columnId);
  }

  get value(): Value {
    if (this.read) return this.read;
    const { column, text } = this;
    if (column) return (this.read = meaningOf(this.entry, column));
    return (this.read = text === '' ? { kind: 'blank' } : { kind: 'text', text });
  }
}
