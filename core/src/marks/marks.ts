import { phrase, say } from '../sentences/index.js';
import type { Entry, Roll } from '../roll/index.js';
import type { Column, Worked } from '../column/index.js';
import { RollCells, inputsAmong, type TableShape } from './roll-cells.js';
import { cellText, error, givenCell, sameCell, type Cell } from './cell.js';
import type { Explanation, Step } from './explanation.js';
import { workingOrder } from './order.js';
import { TooLong } from '../ratio/index.js';
import { makeReckoner } from './make-reckoner.js';
import { notice, type Notice, type Reckoner } from './reckoner.js';

/** Which cells of worked columns came out otherwise than before, by column: the places of the entries. */
export type Changes = ReadonlyMap<string, readonly number[]>;

/** What is worth a look, with the column that it is about. */
export interface ColumnNotice extends Notice {
  readonly columnId: string;
}

/**
 * The worked columns of a roll, worked out and kept up to date: after a change only what depends on it is worked out anew.
 * It holds on to the roll that it was given last; rolls are values and never change.
 */
export class Marks {
  private readonly rollCells: RollCells;
  private order: string[] = [];
  private circular = new Map<string, string[]>();
  private reckoners = new Map<string, Reckoner>();
  private readonly noticed = new Map<string, Notice[]>();
  /** Columns whose reckoner has looked at all entries since it was made. */
  private readonly begun = new Set<string>();
  /** Columns that could not be worked out at all, with why. */
  private readonly broken = new Map<string, Cell>();

  /**
   * @param tables the joined sheets whose rows are entries' own small tables.
   * @param today ISO 8601, for TODAY().
   */
  constructor(roll: Roll, tables: readonly TableShape[], today: string) {
    this.rollCells = new RollCells(roll, tables, today);
    this.prepare();
    this.work(new Map(this.order.map((id) => [id, 'all'])), new Set(), false);
  }

  get roll(): Roll {
    return this.rollCells.roll;
  }

  /** Takes the roll as it is now, and works out anew what has changed. */
  update(roll: Roll): Changes {
    const before = this.rollCells.roll;
    if (before === roll) return new Map();
    const sameEntries =
      before.entries.length === roll.entries.length &&
      before.entries.every((entry, at) => entry.id === roll.entries[at]!.id);
    const columnsBefore = new Map(before.columns.map((column) => [column.id, column]));
    this.rollCells.roll = roll;
    const dirty = new Map<string, 'all' | Set<number>>();
    const membership = new Set<number>();
    if (!sameEntries) {
      this.rollCells.forget();
      this.rollCells.worked.clear();
      this.prepare();
      for (const id of this.order) dirty.set(id, 'all');
    } else {
      if (before.columns !== roll.columns) this.takeColumns(columnsBefore, dirty);
      this.takeEntries(before.entries, dirty, membership);
    }
    return this.work(dirty, membership, true);
  }

  /** Columns that are new or read otherwise make all their cells new; a new title changes nothing but the words. */
  private takeColumns(before: ReadonlyMap<string, Column>, dirty: Map<string, 'all' | Set<number>>): void {
    const meaning = ({ type, format, worked, title }: Column, all: readonly Column[]): string =>
      JSON.stringify([type, format, worked, title, worked ? inputsAmong(worked, all) : null]);
    const old = [...before.values()];
    for (const column of this.rollCells.roll.columns) {
      const known = before.get(column.id);
      if (!known || meaning(known, old) !== meaning(column, this.rollCells.roll.columns))
        dirty.set(column.id, 'all');
    }
    const now = new Set(this.rollCells.roll.columns.map(({ id }) => id));
    for (const id of before.keys()) {
      if (now.has(id)) continue;
      dirty.set(id, 'all');
      this.rollCells.worked.delete(id);
    }
    this.rollCells.forget();
    this.prepare();
  }

  private takeEntries(
    before: readonly Entry[],
    dirty: Map<string, 'all' | Set<number>>,
    membership: Set<number>,
  ): void {
    const places: number[] = [];
    this.rollCells.entries.forEach((entry, at) => {
      const old = before[at]!;
      if (old === entry) return;
      places.push(at);
      if (old.leftOut !== entry.leftOut) membership.add(at);
      const tables = old.tables !== entry.tables;
      for (const id of this.rollCells.columns.keys()) {
        const changed =
          old.values[id] !== entry.values[id] ||
          old.exact?.[id] !== entry.exact?.[id] ||
          (tables && this.usesTables(id));
        const known = dirty.get(id);
        if (!changed || known === 'all') continue;
        if (known) known.add(at);
        else dirty.set(id, new Set([at]));
      }
    });
    this.rollCells.forget(places);
  }

  private usesTables(columnId: string): boolean {
    const worked = this.rollCells.columns.get(columnId)?.worked;
    return worked?.kind === 'expression' || (worked?.kind === 'attendance' && worked.from.kind === 'table');
  }

  private prepare(): void {
    this.rollCells.setColumns();
    this.begun.clear();
    const worked = this.rollCells.roll.columns.filter((column) => column.worked);
    ({ order: this.order, circular: this.circular } = workingOrder(worked, (one) =>
      inputsAmong(one, this.rollCells.roll.columns),
    ));
    this.reckoners = new Map(worked.map((column) => [column.id, this.reckonerOf(column)]));
  }

  private reckonerOf(column: Column): Reckoner {
    const input = {
      rollCells: this.rollCells,
      column,
      worked: column.worked!,
      other: (id: string) => this.reckoner(id),
      stepsOf: (id: string, at: number) => this.steps(id, at),
    };
    return makeReckoner(input);
  }

  private work(
    dirty: Map<string, 'all' | Set<number>>,
    membership: ReadonlySet<number>,
    compare: boolean,
  ): Changes {
    const changes = new Map<string, number[]>();
    const count = this.rollCells.entries.length;
    for (const id of this.order) {
      const column = this.rollCells.columns.get(id)!;
      const reckoner = this.reckoners.get(id)!;
      const old = this.rollCells.worked.get(id);
      let places = this.placesOf(id, column.worked!, dirty);
      if (membership.size > 0 && places !== 'all')
        places = reckoner.together ? 'all' : new Set([...places, ...membership]);
      if (!old || (places !== 'all' && places.size > 0 && reckoner.together)) places = 'all';
      if (places !== 'all' && places.size === 0) continue;
      this.noticed.delete(id);
      const cells: Cell[] = old && places !== 'all' ? old : new Array<Cell>(count);
      if (places === 'all') this.beginAt(id, reckoner);
      const changed: number[] = [];
      const each = (at: number): void => {
        const cell = this.cellOf(column, reckoner, at);
        if (!compare || !sameCell(old?.[at], cell)) changed.push(at);
        cells[at] = cell;
      };
      if (places === 'all') for (let at = 0; at < count; at++) each(at);
      else for (const at of places) each(at);
      this.rollCells.worked.set(id, cells);
      if (changed.length === 0) continue;
      changes.set(id, changed);
      const known = dirty.get(id);
      if (known !== 'all') dirty.set(id, changed.length === count ? 'all' : new Set(changed));
    }
    return changes;
  }

  /** The places where a column has to be worked out anew: where one of its inputs changed, or what it stands on. */
  private placesOf(
    id: string,
    worked: Worked,
    dirty: ReadonlyMap<string, 'all' | Set<number>>,
  ): 'all' | Set<number> {
    const places = new Set<number>();
    for (const input of [id, ...this.standsOn(worked)]) {
      const known = dirty.get(input);
      if (known === 'all') return 'all';
      if (known) for (const at of known) places.add(at);
    }
    return places;
  }

  /** A part tells more of another column than its value, so it stands on all that this one stands on. */
  private standsOn(worked: Worked): Set<string> {
    const seen = new Set<string>();
    const look = (one: Worked): void => {
      for (const id of inputsAmong(one, this.rollCells.roll.columns)) {
        if (seen.has(id)) continue;
        seen.add(id);
        const below = this.rollCells.columns.get(id)?.worked;
        if (below && worked.kind === 'part') look(below);
      }
    };
    look(worked);
    return seen;
  }

  private cellOf(column: Column, reckoner: Reckoner, at: number): Cell {
    const entry = this.rollCells.entries[at]!;
    // What is written by hand is a mend, which few entries have.
    if (entry.mends && entry.values[column.id]) return givenCell(entry, column);
    const circle = this.circular.get(column.id);
    if (circle) return error('#CIRCULAR!', 'circular', { titles: this.titlesOf(circle) });
    const broken = this.broken.get(column.id);
    if (broken) return broken;
    try {
      return reckoner.row(at);
    } catch (caught) {
      return failure(caught);
    }
  }

  private titlesOf(columnIds: readonly string[]): string[] {
    return columnIds.map((id) => this.rollCells.title(id));
  }

  /** The cell of a worked column, by the entry's place in the roll. */
  cell(columnId: string, at: number): Cell {
    return this.rollCells.cell(columnId, at);
  }

  /** The texts of a worked column, in the order of the roll. */
  texts(columnId: string): string[] {
    const decimal = this.rollCells.decimal(columnId);
    return (this.rollCells.worked.get(columnId) ?? []).map((cell) => cellText(cell, decimal));
  }

  /** The columns that are worked out, those that others stand on first. */
  get columnIds(): readonly string[] {
    return this.order;
  }

  /** The reckoner of a column, for what only its kind knows. */
  reckoner(columnId: string): Reckoner | undefined {
    const reckoner = this.circular.has(columnId) ? undefined : this.reckoners.get(columnId);
    // One that was made anew for other columns' sake has not looked at the entries yet.
    if (reckoner && !this.begun.has(columnId)) this.beginAt(columnId, reckoner);
    return reckoner;
  }

  private beginAt(columnId: string, reckoner: Reckoner): void {
    this.begun.add(columnId);
    this.broken.delete(columnId);
    try {
      reckoner.begin?.();
    } catch (caught) {
      this.broken.set(columnId, failure(caught));
    }
  }

  placeOf(entryId: string): number {
    return this.rollCells.entries.findIndex(({ id }) => id === entryId);
  }

  /** How a cell came about; null where the column is not worked out, or the entry is not there. */
  explain(columnId: string, entryId: string): Explanation | null {
    const column = this.rollCells.columns.get(columnId);
    const at = this.placeOf(entryId);
    if (!column?.worked || at < 0) return null;
    const cell = this.rollCells.cell(columnId, at);
    const byHand = Boolean(this.rollCells.entries[at]!.mends && this.rollCells.entries[at]!.values[columnId]);
    return {
      value: cellText(cell, this.rollCells.decimal(columnId)),
      steps: this.steps(columnId, at),
      problem:
        cell.kind === 'error'
          ? say(cell.reason)
          : cell.kind === 'blank' && cell.why
            ? phrase('nothing-because', { why: cell.why })
            : null,
      byHand,
    };
  }

  private steps(columnId: string, at: number): Step[] {
    try {
      return this.reckoner(columnId)?.explain(at) ?? [];
    } catch {
      return [];
    }
  }

  /** What is worth a look, column by column. Looked for anew only where something changed. */
  notices(): ColumnNotice[] {
    return this.order.flatMap((columnId) => {
      let notices = this.noticed.get(columnId);
      if (!notices) this.noticed.set(columnId, (notices = this.look(columnId)));
      return notices.map((notice) => ({ ...notice, columnId }));
    });
  }

  private look(columnId: string): Notice[] {
    const circle = this.circular.get(columnId);
    if (circle) return [notice('circular', [], { titles: this.titlesOf(circle) })];
    try {
      return this.reckoner(columnId)!.notices();
    } catch {
      // Where it cannot be worked out, its cells say so.
      return [];
    }
  }

  /** The roll with the texts of its worked columns in its entries. */
  withWorked(): Roll {
    if (this.order.length === 0) return this.rollCells.roll;
    const texts = this.order.map((id) => [id, this.texts(id)] as const);
    return {
      ...this.rollCells.roll,
      entries: this.rollCells.entries.map((entry, at) => {
        const worked: Record<string, string> = {};
        for (const [id, column] of texts) if (column[at]) worked[id] = column[at];
        return { ...entry, worked };
      }),
    };
  }
}

/** Whatever goes wrong in working a cell out is an error in that cell; the others are worked out all the same. */
const failure = (caught: unknown): Cell =>
  caught instanceof TooLong ? error('#NUM!', 'sum-digits') : error('#VALUE!', 'not-worked');
