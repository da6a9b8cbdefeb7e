import {
  changesNothing,
  guessJoinKey,
  planJoin,
  planRefresh,
  readingLike,
  WHOLE_NAME,
  type CellDifference,
  type ColumnPair,
  type JoinSpec,
  type NearMatch,
  type RefreshDecisions,
} from '@scriptum/core/sources';
import { nameColumns, type Entry, type Roll } from '@scriptum/core/roll';
import { tidyOffers, type Offer } from '@scriptum/core/tidying';
import { refuse, succeed, type Reading, type Result, type Sheet, type SheetNote } from '@scriptum/core/table';
import type { Column } from '@scriptum/core/column';
import { openSheetFile, type OpenedFile, type SheetFileKind, type SheetLine } from '@scriptum/core/workbook';

/** A file that the thread has open. */
export interface OpenedView {
  readonly kind: SheetFileKind;
  readonly sheets: readonly SheetLine[];
}

/** What the screen shows of a sheet that was laid out. */
export interface LaidOutView {
  readonly reading: Reading;
  readonly columns: readonly Column[];
  readonly rows: number;
  readonly notes: readonly SheetNote[];
  /** The first rows as they stand in the file, those above the header too. */
  readonly top: readonly { readonly line: number; readonly cells: readonly string[] }[];
}

/** How a newer version differs, as the screen shows it. */
export interface Comparison {
  readonly nothing: boolean;
  readonly columns: readonly (ColumnPair & { readonly title: string | null })[];
  readonly paired: number;
  readonly added: readonly string[];
  readonly missing: readonly string[];
  readonly changes: readonly CellDifference[];
  readonly conflicts: readonly (CellDifference & { readonly mine: string })[];
}

/** What a join would do. */
export interface JoinView {
  readonly matched: number;
  readonly near: readonly NearMatch[];
  readonly loneEntries: readonly string[];
  readonly loneRows: readonly string[];
  /** Entries that more than one row belongs to. */
  readonly several: number;
}

/** Rows that the screen can show at the top of a file. */
const TOP = 30;

/** What the worker thread does: reads files and compares them with the roll, so that the screen never waits for it. */
export class SheetDesk {
  private opened: OpenedFile | null = null;
  private sheet: Sheet | null = null;
  private columns: Column[] = [];
  private key: string[] | undefined;
  private entries: Entry[] = [];
  private ids = 0;

  open(bytes: ArrayBuffer): Result<OpenedView> {
    return this.keep(openSheetFile(new Uint8Array(bytes)));
  }

  /** How the open file is read, if it is a newer version of one that was read so. */
  readingLike(before: Reading, titles: readonly string[]): Reading {
    return this.opened ? readingLike(this.opened, before, titles) : {};
  }

  layOut(reading: Reading): Result<LaidOutView> {
    if (!this.opened) return nothingOpen();
    const laidOut = this.opened.layOut(reading, () => `n${++this.ids}`);
    if (!laidOut.ok) return laidOut;
    const { sheet } = laidOut.value;
    this.sheet = sheet;
    return succeed({
      reading: laidOut.value.reading,
      columns: sheet.columns,
      rows: sheet.rows.length,
      notes: sheet.notes,
      top: this.top(laidOut.value.reading),
    });
  }

  /** The first rows of the file alone, where it cannot be laid out under a reading. */
  top(reading: Reading): LaidOutView['top'] {
    const grid = this.opened?.grid(reading);
    if (!grid?.ok) return [];
    const rows: { line: number; cells: readonly string[] }[] = [];
    const from = Math.max(0, (reading.header?.row ?? 1) - 11);
    for (let at = from; at < grid.value.rows.length && rows.length < TOP; at++) {
      rows.push({ line: at + 1, cells: grid.value.rows[at] ?? [] });
    }
    return rows;
  }

  /** Takes the roll in chunks, so that no chunk holds the screen up. */
  takeRoll(columns: Column[], key: string[] | undefined): void {
    this.columns = columns;
    this.key = key;
    this.entries = [];
  }

  takeEntries(entries: Entry[]): void {
    for (const entry of entries) this.entries.push(entry);
  }

  compare(sourceId: string, columns: RefreshDecisions['columns']): Result<Comparison> {
    const { sheet } = this;
    if (!sheet) return nothingOpen();
    const plan = planRefresh(this.roll, sheet, sourceId, columns);
    const first = sheet.columns.findIndex(({ title }) => /name/i.test(title));
    const say = (row: number): string =>
      [sheet.rows[row]![Math.max(0, first)], sheet.rows[row]![Math.max(0, first) + 1]]
        .filter(Boolean)
        .join(' ') || `Row ${sheet.lines[row]}`;
    return succeed({
      nothing: changesNothing(plan),
      columns: plan.columns.map((pair) => ({
        ...pair,
        title: pair.at === null ? null : sheet.columns[pair.at]!.title,
      })),
      paired: plan.rows.size,
      added: plan.added.map(say),
      missing: plan.missing,
      changes: plan.changes,
      conflicts: plan.conflicts,
    });
  }

  guessKey(): { left: string; right: string } | null {
    return this.sheet && guessJoinKey(this.roll, this.sheet);
  }

  join(spec: JoinSpec): Result<JoinView> {
    const { sheet } = this;
    if (!sheet) return nothingOpen();
    const plan = planJoin(this.roll, sheet, spec);
    const at = spec.right.flatMap((title) =>
      title === WHOLE_NAME
        ? nameColumns(sheet.columns).map((column) => sheet.columns.indexOf(column))
        : [sheet.columns.findIndex((column) => column.title === title)],
    );
    return succeed({
      matched: plan.rows.size,
      near: plan.near,
      loneEntries: plan.loneEntries,
      loneRows: plan.loneRows.map(
        (row) =>
          at
            .map((j) => sheet.rows[row]![j] ?? '')
            .join(', ')
            .replace(/^[, ]+$/, '') || `Row ${sheet.lines[row]} (blank)`,
      ),
      several: plan.several.length,
    });
  }

  /** Identities of columns that an offer would add are the caller's to give. */
  offers(ids: string[]): Offer[] {
    const left = [...ids];
    return tidyOffers(this.roll, () => left.pop() ?? `x${++this.ids}`);
  }

  private get roll(): Roll {
    return { columns: this.columns, entries: this.entries, ...(this.key ? { key: this.key } : {}) };
  }

  private keep(opened: Result<OpenedFile>): Result<OpenedView> {
    this.sheet = null;
    this.opened = opened.ok ? opened.value : null;
    return opened.ok ? succeed({ kind: opened.value.kind, sheets: opened.value.sheets }) : opened;
  }
}

const nothingOpen = (): Result<never> => refuse('nothing-open');
