import {
  BandReckoner,
  KeyReckoner,
  Marks,
  plainRatio,
  RemarkReckoner,
  type Cell,
  type Explanation,
  type TableShape,
} from '@scriptum/core/marks';
import { marksFindings, type Finding } from '@scriptum/core/preflight';
import { applyPatch, type Entry, type Roll, type RollPatch } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import type { WorkedTexts } from '../../state/worked-cells';

/** How one question did, as the screen shows it. */
export interface ItemView {
  readonly questionId: string;
  readonly marked: number;
  /** Percent of 100. */
  readonly facility: string | null;
  /** From -1 to 1, with two places. */
  readonly discrimination: string | null;
  readonly commonWrong: { readonly text: string; readonly count: number } | null;
}

/** What a worked column comes to over all who are in. */
export interface ColumnOverview {
  /** The numbers, as doubles, for a picture of their distribution. */
  readonly numbers: readonly number[];
  /** Texts with how often each comes, the most frequent first. */
  readonly counts: readonly { readonly text: string; readonly count: number }[];
  readonly blank: number;
  readonly items: readonly ItemView[];
  /** Those just below the next band: `0.4 below B`. */
  readonly borderline: readonly { readonly entryId: string; readonly text: string }[];
}

/** Who would get something else in a worked column. */
export interface ColumnPreview {
  readonly columnId: string;
  readonly count: number;
  /** The first of them. */
  readonly lines: readonly { readonly entryId: string; readonly before: string; readonly after: string }[];
}

/** Learners that a preview names. */
const NAMED = 60;

/** What the marks thread does: it keeps the worked columns of the roll up to date, so that the screen never waits for it. */
export class MarksDesk {
  private marks: Marks | null = null;
  private columns: Column[] = [];
  private key: string[] | undefined;
  private entries: Entry[] = [];

  takeRoll(columns: Column[], key: string[] | undefined): void {
    this.marks = null;
    this.columns = columns;
    this.key = key;
    this.entries = [];
  }

  takeEntries(entries: Entry[]): void {
    for (const entry of entries) this.entries.push(entry);
  }

  /** Works everything out, once the roll is here. */
  begin(tables: readonly TableShape[], today: string): WorkedTexts[] {
    const roll: Roll = {
      columns: this.columns,
      entries: this.entries,
      ...(this.key ? { key: this.key } : {}),
    };
    this.marks = new Marks(roll, tables, today);
    return this.marks.columnIds.map((columnId) => ({
      columnId,
      places: null,
      texts: this.marks!.texts(columnId),
    }));
  }

  /** Makes the same change as the screen did. Null where it cannot, and the roll has to be sent anew. */
  change(patch: RollPatch): WorkedTexts[] | null {
    if (!this.marks) return null;
    const patched = applyPatch(this.marks.roll, patch);
    if (!patched.ok) return null;
    const changes = this.marks.update(patched.value.roll);
    return [...changes].map(([columnId, places]) => {
      const texts = this.marks!.texts(columnId);
      return { columnId, places, texts: places.map((at) => texts[at]!) };
    });
  }

  /** Whose cells a change would change, column by column; those who had nothing before do not count. */
  preview(patch: RollPatch): ColumnPreview[] {
    const { marks } = this;
    if (!marks) return [];
    const { roll } = marks;
    const patched = applyPatch(roll, patch);
    if (!patched.ok) return [];
    const before = new Map(marks.columnIds.map((id) => [id, marks.texts(id)]));
    const changes = marks.update(patched.value.roll);
    const previews = [...changes].flatMap(([columnId, places]): ColumnPreview[] => {
      const texts = marks.texts(columnId);
      const old = before.get(columnId) ?? [];
      const changed = places.filter(
        (at) => old[at] && old[at] !== texts[at] && roll.entries[at]!.leftOut === undefined,
      );
      const lines = changed
        .slice(0, NAMED)
        .map((at) => ({ entryId: roll.entries[at]!.id, before: old[at]!, after: texts[at]! }));
      return changed.length > 0 ? [{ columnId, count: changed.length, lines }] : [];
    });
    marks.update(roll);
    return previews;
  }

  findings(): Finding[] {
    return this.marks ? marksFindings(this.marks) : [];
  }

  explain(columnId: string, entryId: string): Explanation | null {
    return this.marks?.explain(columnId, entryId) ?? null;
  }

  /** Remarks that fit an entry, written for it. */
  suggestions(columnId: string, entryId: string): { id: string; text: string }[] {
    const reckoner = this.marks?.reckoner(columnId);
    return reckoner instanceof RemarkReckoner ? reckoner.suggestions(this.marks!.placeOf(entryId)) : [];
  }

  overview(columnId: string): ColumnOverview {
    const cells = this.cellsIn(columnId);
    const counts = new Map<string, number>();
    const numbers: number[] = [];
    let blank = 0;
    for (const cell of cells) {
      if (cell.kind === 'number') numbers.push(Number(cell.shown));
      else if (cell.kind === 'text') counts.set(cell.text, (counts.get(cell.text) ?? 0) + 1);
      else blank++;
    }
    const reckoner = this.marks?.reckoner(columnId);
    return {
      numbers,
      counts: [...counts]
        .map(([text, count]) => ({ text, count }))
        .sort((a, b) => b.count - a.count)
        .slice(0, 40),
      blank,
      items: reckoner instanceof KeyReckoner ? itemViews(reckoner) : [],
      borderline:
        reckoner instanceof BandReckoner
          ? reckoner.borderline().map(({ at, missing, next }) => ({
              entryId: this.marks!.roll.entries[at]!.id,
              text: `${plainRatio(missing, 2).replace('≈', '')} below ${next.label}`,
            }))
          : [],
    };
  }

  private cellsIn(columnId: string): Cell[] {
    const { marks } = this;
    if (!marks) return [];
    return marks.roll.entries.flatMap((entry, at) =>
      entry.leftOut === undefined ? [marks.cell(columnId, at)] : [],
    );
  }
}

const itemViews = (key: KeyReckoner): ItemView[] =>
  key.statistics().map(({ question, marked, facility, discrimination, commonWrong }) => ({
    questionId: question.id,
    marked,
    facility: facility && plainRatio(facility.mul(100), 0).replace('≈', ''),
    discrimination: discrimination && plainRatio(discrimination, 2).replace('≈', ''),
    commonWrong,
  }));
