import {
  afterNextRender,
  ApplicationRef,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  Injector,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { meaningOf, valueOf, type CellChange, type Entry, type View } from '@scriptum/core/roll';
import { type Column, markWords } from '@scriptum/core/column';
import { Icon } from '../../ui/icon';
import { ColumnHead } from './column-head';
import { columnsInSight, columnWidths, HEADER, NUMBER, ROW, rowsInSight } from './geometry';
import { stepOf } from './keys';
import { boxOf, moved, one, wholeRows, type Box, type Place, type Range } from './range';
import { clearedCells, copiedText, filledDown, pastedCells } from './range-cells';

/** A cell as it is drawn. */
interface DrawnCell {
  readonly column: number;
  readonly text: string;
  readonly width: number;
  /** Where it sticks, for a column that is kept in view. */
  readonly left: number | null;
  /** The room of columns that are out of sight before it. */
  readonly gap: number;
  readonly look: string;
  /** What a screen reader adds to the text. */
  readonly said: string;
}

interface DrawnRow {
  readonly at: number;
  readonly entry: Entry;
  /** The columns that it was drawn for. */
  readonly drawn: unknown;
  readonly cells: readonly DrawnCell[];
}

/** The cell that is written in. */
interface Editing {
  readonly entryId: string;
  readonly columnId: string;
  /** What the box began with: left as it was, it changes nothing. Null where a typed sign began it. */
  readonly before: string | null;
}

/** What the grid asks for. */
export type GridWish =
  | { readonly kind: 'cells'; readonly cells: CellChange[] }
  | { readonly kind: 'undo' | 'redo' }
  | { readonly kind: 'notice'; readonly text: string };

/** The roll as a table that can be worked in by keyboard alone. Draws only what is in sight, rows and columns. */
@Component({
  selector: 'sc-roll-grid',
  imports: [Icon, ColumnHead],
  templateUrl: './roll-grid.html',
  styleUrl: './roll-grid.css',
  host: { class: 'block min-h-0 min-w-0' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RollGrid implements OnDestroy {
  readonly columns = input.required<readonly Column[]>();
  readonly entries = input.required<readonly Entry[]>();
  readonly view = input.required<View>();
  readonly keyIds = input<readonly string[]>([]);
  /** Columns that nobody writes in. */
  readonly isFixed = input<(columnId: string) => boolean>(() => false);
  readonly pickedId = input<string | null>(null);
  readonly picked = output<string>();
  readonly wish = output<GridWish>();
  readonly activeColumn = output<string | null>();
  /** The cells that are chosen, by their places on screen. */
  readonly choice = output<Box>();

  private readonly application = inject(ApplicationRef);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly injector = inject(Injector);
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  private readonly box = viewChild<ElementRef<HTMLTextAreaElement>>('box');
  private readonly scrolled = signal({ top: 0, left: 0, height: 600, width: 900 });
  protected readonly range = signal<Range>(one({ row: 0, column: 0 }));
  protected readonly editing = signal<Editing | null>(null);
  /** What stands in the box, also once its row is not drawn any more. */
  protected typed: string | null = null;
  /** The rows that were drawn last, to be drawn again where nothing changed. */
  private kept = new Map<number, DrawnRow>();
  private readonly observer = new ResizeObserver(() => this.measure());

  protected readonly ROW = ROW;
  protected readonly HEADER = HEADER;
  protected readonly NUMBER = NUMBER;
  protected readonly active = computed(() => this.range().from);
  protected readonly shape = computed(() => boxOf(this.range()));
  protected readonly size = computed(() => ({ rows: this.entries().length, columns: this.columns().length }));
  /** The columns decide the widths, not every change of a cell. */
  protected readonly widths = computed(() => {
    const columns = this.columns();
    return columnWidths(columns, untracked(this.entries));
  });
  private readonly frozen = computed(() => {
    const widths = this.widths();
    let left = NUMBER;
    const places: (number | null)[] = [];
    for (const [n, column] of this.columns().entries()) {
      places.push(column.frozen ? left : null);
      if (column.frozen) left += widths[n]!;
    }
    return places;
  });
  private readonly sight = computed(() => {
    const { left, width } = this.scrolled();
    return columnsInSight(left, width, this.widths());
  });
  /** Indexes of the columns to draw, the frozen ones always; and the gaps between them. */
  protected readonly drawn = computed(() => {
    const { first, last, before } = this.sight();
    const widths = this.widths();
    const frozen = this.frozen().flatMap((left, n) => (left === null ? [] : [n]));
    const early = frozen.filter((n) => n < first);
    const gap = before - early.reduce((sum, n) => sum + widths[n]!, 0);
    const inSight = Array.from({ length: last - first }, (_, n) => first + n);
    return { columns: [...early, ...inSight], gapBefore: first, gap: early.length < first ? gap : 0 };
  });
  protected readonly width = computed(() => NUMBER + this.widths().reduce((sum, one) => sum + one, 0));
  /**
   * The rows to draw. Each keeps its place in the document while it is in sight, so that scrolling by a line changes a
   * line: row 40 of 37 drawn ones takes the place that row 3 had.
   */
  protected readonly rows = computed(() => {
    const { top, height } = this.scrolled();
    const entries = this.entries();
    const drawn = this.drawn();
    const [first, last] = rowsInSight(top, height, entries.length);
    const places: DrawnRow[] = new Array<DrawnRow>(last - first);
    for (let at = first; at < last; at++) {
      const before = this.kept.get(at);
      const entry = entries[at]!;
      const row =
        before?.entry === entry && before.drawn === drawn
          ? before
          : {
              at,
              entry,
              drawn,
              cells: drawn.columns.map((column) =>
                this.cell(entry, column, column === drawn.gapBefore ? drawn.gap : 0),
              ),
            };
      places[at % places.length] = row;
    }
    this.kept = new Map(places.map((row) => [row.at, row]));
    return places;
  });
  protected readonly activeId = computed(() => {
    const { row, column } = this.active();
    return this.entries()[row] ? `cell-${row}-${column}` : null;
  });

  /** Words that a mark scheme takes in the place of a number. */
  private readonly words = computed(() => markWords(this.columns()));

  constructor() {
    afterNextRender(() => {
      this.observer.observe(this.scroller().nativeElement);
      this.measure();
    });
    // The learner who is picked elsewhere is the active row here.
    effect(() => {
      const id = this.pickedId();
      untracked(() => {
        const entries = this.entries();
        if (!id || entries[this.active().row]?.id === id) return;
        const row = entries.findIndex((entry) => entry.id === id);
        if (row < 0) return;
        this.range.set(
          one({ row, column: Math.min(this.active().column, Math.max(0, this.size().columns - 1)) }),
        );
        // A row that is new has no room yet.
        afterNextRender({ read: () => this.reveal(this.active()) }, { injector: this.injector });
      });
    });
    effect(() => {
      const column = this.columns()[this.active().column];
      this.activeColumn.emit(column?.id ?? null);
    });
    effect(() => this.choice.emit(this.shape()));
    // Somebody else may take the entry or the column away that is written in.
    effect(() => {
      const [entries, columns] = [this.entries(), this.columns()];
      untracked(() => {
        const editing = this.editing();
        if (!editing) return;
        const there =
          entries.some(({ id }) => id === editing.entryId) &&
          columns.some(({ id }) => id === editing.columnId);
        if (!there) this.commit();
      });
    });
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
  }

  /** The table with what was taken a moment ago, which has not been drawn yet where keys come faster than frames. */
  private table(): { entries: readonly Entry[]; columns: readonly Column[] } {
    this.application.tick();
    return { entries: this.entries(), columns: this.columns() };
  }

  private cell(entry: Entry, n: number, gap: number): DrawnCell {
    const column = this.columns()[n]!;
    const text = valueOf(entry, column.id);
    const typed = column.type !== undefined && column.type !== 'text' && column.type !== 'choice';
    // A column that was added here has no source that says something else.
    const mended = entry.mends?.[column.id] !== undefined && (column.sourceId ?? column.worked) !== undefined;
    const wrong =
      typed &&
      text !== '' &&
      meaningOf(entry, column).kind === 'wrong' &&
      !this.words().get(column.id)?.has(text.trim().toLowerCase());
    const left = this.frozen()[n]!;
    const look = [
      'cell',
      left === null ? '' : 'frozen',
      mended ? 'mended' : '',
      column.worked && !mended ? 'worked' : '',
      wrong ? 'wrong' : '',
      column.type === 'number' || column.type === 'percentage' ? 'number-cell' : '',
    ];
    return {
      column: n,
      text: text.length > 300 ? text.slice(0, 300) : text,
      width: this.widths()[n]!,
      left,
      gap,
      look: look.filter(Boolean).join(' '),
      said: `${mended ? (column.worked ? ', written by hand' : ', mended') : ''}${wrong ? ', not of the column’s type' : ''}`,
    };
  }

  /** True for the cell whose box is open. Rows and columns may move under it, so it is known by what it is. */
  protected isWritten(row: number, column: number): boolean {
    const editing = this.editing();
    return (
      editing !== null &&
      editing.entryId === this.entries()[row]?.id &&
      editing.columnId === this.columns()[column]?.id
    );
  }

  protected isIn(row: number, column: number): boolean {
    const { top, bottom, left, right } = this.shape();
    return row >= top && row <= bottom && column >= left && column <= right;
  }

  protected frozenLeft(column: number): number | null {
    return this.frozen()[column] ?? null;
  }

  protected measure(): void {
    const element = this.scroller().nativeElement;
    this.scrolled.set({
      top: element.scrollTop,
      left: element.scrollLeft,
      height: element.clientHeight - HEADER,
      width: element.clientWidth - NUMBER,
    });
  }

  protected down(event: MouseEvent, row: number, column: number): void {
    if (this.isWritten(row, column)) return;
    if (event.button === 2) this.go({ row, column });
    if (event.button !== 0) return;
    this.commit();
    if (event.shiftKey) this.range.update(({ from }) => ({ from, to: { row, column } }));
    else this.go({ row, column });
    event.preventDefault();
    this.focus();
  }

  /** A row's number chooses the row; with Shift, or by drawing over more, all up to there. */
  protected numberDown(event: MouseEvent, row: number): void {
    if (event.button !== 0) return this.down(event, row, 0);
    this.commit();
    this.chooseRows(event.shiftKey ? this.active().row : row, row);
    event.preventDefault();
    this.focus();
  }

  protected numberOver(event: MouseEvent, row: number): void {
    if (event.buttons === 1 && !this.editing()) this.chooseRows(this.active().row, row);
  }

  private chooseRows(from: number, to: number): void {
    this.range.set(wholeRows(from, to, this.size()));
    const entry = this.entries()[from];
    if (entry && entry.id !== this.pickedId()) this.picked.emit(entry.id);
  }

  /** Back to the keys of the table. */
  focus(): void {
    this.scroller().nativeElement.focus({ preventScroll: true });
  }

  protected over(event: MouseEvent, row: number, column: number): void {
    if (event.buttons === 1 && !this.editing())
      this.range.update(({ from }) => ({ from, to: { row, column } }));
  }

  private go(place: Place): void {
    this.range.set(one(place));
    this.reveal(place);
    const entry = this.entries()[place.row];
    if (entry && entry.id !== this.pickedId()) this.picked.emit(entry.id);
  }

  private reveal({ row, column }: Place): void {
    const element = this.scroller().nativeElement;
    const top = row * ROW;
    const height = element.clientHeight - HEADER;
    if (top < element.scrollTop) element.scrollTop = top;
    else if (top + ROW > element.scrollTop + height) element.scrollTop = top + ROW - height;
    const widths = this.widths();
    if (this.frozen()[column] !== null) return;
    const left = widths.slice(0, column).reduce((sum, one) => sum + one, 0);
    const kept = this.frozen().reduce<number>((sum, at, n) => (at === null ? sum : sum + widths[n]!), 0);
    const width = element.clientWidth - NUMBER;
    if (left - kept < element.scrollLeft) element.scrollLeft = left - kept;
    else if (left + (widths[column] ?? 0) > element.scrollLeft + width)
      element.scrollLeft = left + (widths[column] ?? 0) - width;
  }

  protected key(event: KeyboardEvent): void {
    if (this.editing()) return;
    const command = event.ctrlKey || event.metaKey;
    const step = stepOf(event, Math.max(1, Math.floor(this.scrolled().height / ROW) - 1));
    if (step) {
      event.preventDefault();
      const place = moved(event.shiftKey ? this.range().to : this.active(), step[0], step[1], this.size());
      if (!event.shiftKey || event.key === 'Tab') this.go(place);
      else {
        const { left, right } = this.shape();
        this.range.update(({ from }) => ({ from, to: place }));
        // Whole rows are looked at where one is.
        const whole = left === 0 && right === this.size().columns - 1;
        this.reveal(whole ? { ...place, column: this.active().column } : place);
      }
      return;
    }
    if (command) {
      if (event.key === 'z' || event.key === 'Z') this.ask(event, { kind: event.shiftKey ? 'redo' : 'undo' });
      else if (event.key === 'y') this.ask(event, { kind: 'redo' });
      else if (event.key === 'd') {
        event.preventDefault();
        this.fillDown();
      } else if (event.key === 'a') {
        event.preventDefault();
        const { rows, columns } = this.size();
        this.range.set({ from: { row: 0, column: 0 }, to: { row: rows - 1, column: columns - 1 } });
      }
      return;
    }
    if (event.altKey) return;
    if (event.key === ' ' && event.shiftKey) {
      event.preventDefault();
      const { top, bottom } = this.shape();
      this.chooseRows(top, bottom);
    } else if (event.key === 'ContextMenu' || (event.shiftKey && event.key === 'F10')) this.openMenu(event);
    else if (event.key === 'Enter' || event.key === 'F2') this.edit(event, false);
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.clear();
    } else if (event.key === 'Escape') this.range.set(one(this.active()));
    else if ((event.key.length === 1 || event.key === 'Process') && event.key !== '?') this.edit(event, true);
  }

  /** The menu of the active cell's column. */
  protected openMenu(event: Event): void {
    event.preventDefault();
    const head = `sc-column-head[aria-colindex="${this.active().column + 2}"] button`;
    this.scroller().nativeElement.querySelector<HTMLElement>(head)?.click();
  }

  private ask(event: Event, wish: GridWish): void {
    event.preventDefault();
    this.wish.emit(wish);
  }

  protected edit(event: Event, typing: boolean): void {
    const { entries, columns } = this.table();
    const { row, column } = this.active();
    const entry = entries[row];
    const about = columns[column];
    if (!entry || !about || this.isFixed()(about.id)) return;
    this.range.set(one({ row, column }));
    this.editing.set({
      entryId: entry.id,
      columnId: about.id,
      before: typing ? null : valueOf(entry, about.id),
    });
    // Drawn at once: the key that began the writing, and those right after it, go into the box by themselves.
    this.changes.detectChanges();
    const box = this.box()?.nativeElement;
    box?.focus({ preventScroll: true });
    if (typing) return;
    event.preventDefault();
    box?.select();
  }

  protected editKey(event: KeyboardEvent): void {
    event.stopPropagation();
    const step =
      event.key === 'Enter' && !event.altKey
        ? ([event.shiftKey ? -1 : 1, 0] as const)
        : event.key === 'Tab'
          ? ([0, event.shiftKey ? -1 : 1] as const)
          : null;
    if (step) {
      event.preventDefault();
      this.commit();
      this.go(moved(this.active(), step[0], step[1], this.size()));
      this.focus();
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const box = event.target as HTMLTextAreaElement;
      box.setRangeText('\n', box.selectionStart, box.selectionEnd, 'end');
    } else if (event.key === 'Escape') {
      event.preventDefault();
      this.editing.set(null);
      this.typed = null;
      this.focus();
    }
  }

  /** Takes what was typed; nothing where it is what was there, or where nothing was typed. */
  protected commit(): void {
    const editing = this.editing();
    const text = this.box()?.nativeElement.value ?? this.typed;
    this.editing.set(null);
    this.typed = null;
    if (!editing || text === null || text === editing.before) return;
    const { entryId, columnId } = editing;
    const entry = this.entries().find(({ id }) => id === entryId);
    if (entry && valueOf(entry, columnId) === text) return;
    this.wish.emit({ kind: 'cells', cells: [{ entryId, columnId, text }] });
  }

  clear(): void {
    const cells = clearedCells(this.table(), this.shape());
    if (cells.length > 0) this.wish.emit({ kind: 'cells', cells });
  }

  fillDown(): void {
    const cells = filledDown(this.table(), this.shape());
    this.wish.emit(
      cells
        ? { kind: 'cells', cells }
        : { kind: 'notice', text: 'Choose the cell to copy and those below it, then fill down.' },
    );
  }

  protected copy(event: ClipboardEvent, cut: boolean): void {
    if (this.editing()) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', copiedText(this.table(), this.shape()));
    if (cut) this.clear();
  }

  protected paste(event: ClipboardEvent): void {
    if (this.editing()) return;
    const text = event.clipboardData?.getData('text/plain');
    const pasted = text ? pastedCells(this.table(), this.shape(), text) : null;
    if (!pasted) return;
    event.preventDefault();
    const { top, left } = this.shape();
    this.wish.emit({ kind: 'cells', cells: pasted.cells });
    this.range.set({ from: { row: top, column: left }, to: pasted.to });
    if (pasted.lost) {
      this.wish.emit({
        kind: 'notice',
        text: 'Part of what was copied did not fit: the table ends before it does.',
      });
    }
  }
}
