import { CdkMenu, CdkMenuItem, CdkMenuItemCheckbox, CdkMenuTrigger } from '@angular/cdk/menu';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { describeWorked } from '@scriptum/core/marks';
import { valueOf, type ColumnFilter, type View } from '@scriptum/core/roll';
import { TYPE_NAMES, type Column } from '@scriptum/core/column';
import { Icon } from '../../ui/icon';
import { deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';

/** Texts that a menu lists at the most. */
const CHOICES = 12;

const QUICK: readonly { readonly filter: ColumnFilter; readonly label: string }[] = [
  { filter: { kind: 'blank' }, label: 'Only blank cells' },
  { filter: { kind: 'filled' }, label: 'Only filled cells' },
  { filter: { kind: 'mended' }, label: 'Only mended cells' },
  { filter: { kind: 'wrong' }, label: 'Only cells that do not fit the type' },
];

/** A column's title with its menu. */
@Component({
  selector: 'sc-column-head',
  imports: [CdkMenu, CdkMenuItem, CdkMenuItemCheckbox, CdkMenuTrigger, Icon],
  templateUrl: './column-head.html',
  host: {
    role: 'columnheader',
    class: 'group flex min-w-0 items-center gap-1 border-r border-rule pl-2 pr-0.5 font-semibold',
    '[attr.aria-sort]': 'sorted()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColumnHead {
  readonly column = input.required<Column>();
  readonly view = input.required<View>();
  readonly inKey = input(false);
  /** Whether it only tells something: nobody changes it. */
  readonly fixed = input(false);

  private readonly store = inject(Store);
  private readonly injector = inject(Injector);
  private readonly all = this.store.selectSignal(deskFeature.selectColumns);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly box = viewChild<ElementRef<HTMLInputElement>>('box');
  private readonly findBox = viewChild<ElementRef<HTMLInputElement>>('findBox');
  protected readonly renaming = signal(false);
  /** True while the text to narrow the column by is being written. */
  protected readonly finding = signal(false);
  protected readonly quick = QUICK;
  /** The few texts of a column of choices, to narrow it to one of them. Worked out when the menu opens. */
  protected readonly choices = signal<readonly string[]>([]);
  protected readonly typeName = computed(() => {
    const { type, worked } = this.column();
    if (this.fixed()) return 'register';
    return worked ? `= ${describeWorked(worked)}` : TYPE_NAMES[type ?? 'text'];
  });
  protected readonly filtered = computed(() => this.view().filters[this.column().id]);
  protected readonly sorted = computed(() => {
    const { sort } = this.view();
    if (sort?.columnId !== this.column().id) return null;
    return sort.down ? 'descending' : 'ascending';
  });

  protected menuOpened(): void {
    const { id, type } = this.column();
    const texts = new Set<string>();
    if (type === 'choice' || type === 'yes/no') {
      for (const entry of this.roll().entries) {
        const text = valueOf(entry, id).trim();
        if (text) texts.add(text);
        if (texts.size > CHOICES) break;
      }
    }
    this.choices.set(
      texts.size > CHOICES ? [] : [...texts].sort((a, b) => a.localeCompare(b, undefined, { numeric: true })),
    );
  }

  protected isChosen(text: string): boolean {
    const filter = this.filtered();
    return filter?.kind === 'is' && filter.texts.includes(text);
  }

  protected toggleChoice(text: string): void {
    const filter = this.filtered();
    const texts = filter?.kind === 'is' ? filter.texts : [];
    const next = texts.includes(text) ? texts.filter((one) => one !== text) : [...texts, text];
    this.narrow(next.length > 0 ? { kind: 'is', texts: next } : null);
  }

  protected findHere(): void {
    this.finding.set(true);
    afterNextRender(() => this.findBox()?.nativeElement.focus(), { injector: this.injector });
  }

  protected narrowTo(text: string): void {
    if (!this.finding()) return;
    this.finding.set(false);
    if (text.trim()) this.narrow({ kind: 'has', text: text.trim() });
  }

  protected sort(down: boolean | null): void {
    const columnId = this.column().id;
    this.store.dispatch(
      rollActions.lookDifferent({ view: { sort: down === null ? null : { columnId, down } } }),
    );
  }

  protected narrow(filter: ColumnFilter | null): void {
    this.store.dispatch(rollActions.filter({ columnId: this.column().id, filter }));
  }

  protected set(change: Partial<Column>, what: string): void {
    const { id, title } = this.column();
    const columns = this.all().map((column) => (column.id === id ? { ...column, ...change } : column));
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `${what} “${title}”` }));
  }

  protected move(step: 1 | -1): void {
    const { id, title } = this.column();
    const columns = [...this.all()];
    const from = columns.findIndex((column) => column.id === id);
    let to = from + step;
    while (columns[to]?.hidden) to += step;
    if (to < 0 || to >= columns.length) return;
    columns.splice(to, 0, ...columns.splice(from, 1));
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `moving “${title}”` }));
  }

  protected takeOut(): void {
    const { id, title } = this.column();
    const columns = this.all().filter((column) => column.id !== id);
    this.store.dispatch(rollActions.change({ patch: { columns }, what: `taking out “${title}”` }));
  }

  protected toggleKey(): void {
    const { id, title } = this.column();
    const key = this.roll().key ?? [];
    const next = key.includes(id) ? key.filter((one) => one !== id) : [...key, id];
    this.store.dispatch(rollActions.change({ patch: { key: next }, what: `“${title}” in the key` }));
  }

  protected openWorked(): void {
    this.store.dispatch(rollActions.openWorked({ columnId: this.column().id }));
  }

  protected startRename(): void {
    this.renaming.set(true);
    afterNextRender(() => this.box()?.nativeElement.select(), { injector: this.injector });
  }

  protected rename(text: string): void {
    if (!this.renaming()) return;
    this.renaming.set(false);
    const title = text.trim();
    if (title && title !== this.column().title) this.set({ title }, 'the title of');
  }

  protected renameKey(event: KeyboardEvent, element: HTMLInputElement): void {
    event.stopPropagation();
    if (event.key === 'Escape') element.value = this.column().title;
    if (event.key === 'Escape' || event.key === 'Enter') element.blur();
  }

  protected findKey(event: KeyboardEvent, element: HTMLInputElement): void {
    event.stopPropagation();
    if (event.key === 'Escape') element.value = '';
    if (event.key === 'Escape' || event.key === 'Enter') element.blur();
  }
}
