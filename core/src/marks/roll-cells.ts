import { phrase } from '../sentences/index.js';
import { nameColumns, valueOf, type Entry, type Roll } from '../roll/index.js';
import { type Column, inputsOf, type Worked } from '../column/index.js';
import { cellText, error, givenCell, type Cell } from './cell.js';

/** A joined sheet whose rows are the entries' own small tables. */
export interface TableShape {
  readonly id: string;
  readonly name: string;
  readonly columns: readonly Column[];
}

/** The column out of which names are put into remarks: the one that was chosen, else the first of the roll's own. */
export const remarkNameId = (
  { nameId }: Extract<Worked, { kind: 'remark' }>,
  columns: readonly Column[],
): string | undefined => nameId ?? nameColumns(columns)[0]?.id;

/** The columns that a worked column is worked out from, also where it does not name them itself. */
export function inputsAmong(worked: Worked, columns: readonly Column[]): string[] {
  const named = inputsOf(worked);
  const nameId = worked.kind === 'remark' ? remarkNameId(worked, columns) : undefined;
  return nameId === undefined || named.includes(nameId) ? named : [...named, nameId];
}

/** What a reckoning stands on: the roll, its cells by place, and what has been worked out so far. */
export class RollCells {
  readonly columns = new Map<string, Column>();
  /** Cells of worked columns, by column and place. */
  readonly worked = new Map<string, Cell[]>();
  private readonly given = new Map<string, (Cell | undefined)[]>();
  /** What entries have in common in some columns, as far as it was asked for. */
  private readonly groups = new Map<string, (string | undefined)[]>();

  constructor(
    public roll: Roll,
    readonly tables: readonly TableShape[],
    /** ISO 8601. */
    readonly today: string,
  ) {
    this.setColumns();
  }

  get entries(): readonly Entry[] {
    return this.roll.entries;
  }

  setColumns(): void {
    this.columns.clear();
    for (const column of this.roll.columns) this.columns.set(column.id, column);
  }

  /** Forgets what was read out of some entries, or out of all. */
  forget(places?: readonly number[]): void {
    if (!places) {
      this.given.clear();
      this.groups.clear();
      return;
    }
    for (const kept of [...this.given.values(), ...this.groups.values()])
      for (const at of places) kept[at] = undefined;
  }

  title(columnId: string): string {
    return this.columns.get(columnId)?.title ?? phrase('gone-column');
  }

  decimal(columnId: string): '.' | ',' {
    return this.columns.get(columnId)?.format?.decimal ?? '.';
  }

  cell(columnId: string, at: number): Cell {
    const column = this.columns.get(columnId);
    if (!column) return error('#REF!', 'column-gone');
    if (column.worked) return this.worked.get(columnId)?.[at] ?? { kind: 'blank' };
    let cells = this.given.get(columnId);
    if (!cells) this.given.set(columnId, (cells = new Array<Cell | undefined>(this.entries.length)));
    return (cells[at] ??= givenCell(this.entries[at]!, column));
  }

  /** The cell as it is written, worked out or not. */
  written(columnId: string | undefined, at: number): string {
    if (columnId === undefined) return '';
    if (!this.columns.get(columnId)?.worked) return valueOf(this.entries[at], columnId);
    return cellText(this.cell(columnId, at), this.decimal(columnId));
  }

  isIn(at: number): boolean {
    return this.entries[at]!.leftOut === undefined;
  }

  /** What entries that are compared with each other have in common: their cells in some columns. */
  group(columnIds: readonly string[], at: number): string {
    if (columnIds.length === 0) return '';
    const read = (): string => columnIds.map((id) => this.textAt(id, at).trim().toLowerCase()).join('\u0000');
    if (columnIds.some((id) => this.columns.get(id)?.worked)) return read();
    const key = columnIds.join(' ');
    let known = this.groups.get(key);
    if (!known) this.groups.set(key, (known = []));
    return (known[at] ??= read());
  }

  /** The same, as people read it. */
  groupName(columnIds: readonly string[], at: number): string {
    return columnIds
      .map((id) => this.textAt(id, at).trim())
      .filter(Boolean)
      .join(', ');
  }

  private textAt(columnId: string, at: number): string {
    const cell = this.columns.get(columnId)?.worked ? this.cell(columnId, at) : null;
    if (!cell) return this.written(columnId, at);
    return cell.kind === 'number' ? cell.shown : cell.kind === 'text' ? cell.text : '';
  }
}
