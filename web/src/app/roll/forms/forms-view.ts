import { CdkMenu, CdkMenuItem, CdkMenuTrigger } from '@angular/cdk/menu';
import {
  CdkDrag,
  CdkDragHandle,
  CdkDropList,
  moveItemInArray,
  type CdkDragDrop,
} from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { DeletedWritings } from '@scriptum/core/contract';
import {
  columnIdsOf,
  emptyForm,
  pagesOf,
  wordsIn,
  type Form,
  type FormItem,
  type ItemKind,
} from '@scriptum/core/form';
import { nameColumns } from '@scriptum/core/roll';
import { Api, troubleOf } from '../../api/api';
import { newId } from '../../api/new-id';
import { deskActions, deskFeature } from '../../state/desk';
import { writingActions, writingFeature } from '../../state/writing';
import { Icon } from '../../ui/icon';
import { formsActions, formsFeature } from '../state/forms';
import { RollViews } from '../roll-views';
import { AnswersSummary } from './answers-summary';
import { DoorPanel } from './door-panel';
import { FormMargin } from './form-margin';
import { FormPreview } from './form-preview';
import { FormsHistory } from './forms-history';
import { ASKED, BETWEEN, kindName, newItem } from './item-kinds';
import { ItemMargin } from './item-margin';

/** The web forms of a folio: what they ask, how they look, and where they are answered. */
@Component({
  selector: 'sc-forms-view',
  imports: [
    AnswersSummary,
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    CdkMenu,
    CdkMenuItem,
    CdkMenuTrigger,
    DoorPanel,
    FormMargin,
    FormPreview,
    Icon,
    ItemMargin,
    RollViews,
  ],
  templateUrl: './forms-view.html',
  host: {
    class: 'sc-middle',
    '(window:keydown.control.z)': 'step("undo", $event)',
    '(window:keydown.meta.z)': 'step("undo", $event)',
    '(window:keydown.control.y)': 'step("redo", $event)',
    '(window:keydown.meta.shift.z)': 'step("redo", $event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormsView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly history = inject(FormsHistory);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly template = this.store.selectSignal(writingFeature.selectTemplateValue);
  protected readonly forms = this.store.selectSignal(writingFeature.selectForms);
  protected readonly state = this.store.selectSignal(formsFeature.selectFormsState);
  protected readonly draft = computed(
    () => this.forms().find(({ id }) => id === this.state().pickedId) ?? this.forms()[0] ?? null,
  );
  protected readonly form = computed(() => this.draft()?.content ?? null);
  protected readonly asked = ASKED;
  protected readonly between = BETWEEN;
  /** The item that the margin is about; null for the form as a whole. */
  protected readonly pickedId = this.store.selectSignal(formsFeature.selectItemId);
  protected readonly picked = computed(
    () => this.form()?.items.find(({ id }) => id === this.pickedId()) ?? null,
  );
  /** Columns that the roll has without this form. */
  protected readonly others = computed(() =>
    this.roll().columns.filter(({ sourceId, worked }) => sourceId !== this.draft()?.id && !worked),
  );
  protected readonly lines = computed(() => {
    const form = this.form();
    if (!form) return [];
    let n = 0;
    return form.items.map((item) => ({
      item,
      n: 'label' in item ? ++n : null,
      words: this.wordsOf(item, form),
      kind: kindName(item.kind),
    }));
  });
  protected readonly pages = computed(() => {
    const form = this.form();
    return form ? pagesOf(form, {}).length : 0;
  });
  protected readonly can = computed(() => {
    const draft = this.draft();
    return {
      undo: draft ? this.history.can(draft.id, draft.content, 'undo') : false,
      redo: draft ? this.history.can(draft.id, draft.content, 'redo') : false,
    };
  });

  /** What was answered is shown, in the place of how the form looks. */
  protected readonly summed = signal(false);
  /** Forms that were deleted, the last one first. */
  protected readonly deleted = signal<DeletedWritings['writings']>([]);

  constructor() {
    const folioId = computed(() => this.folio()?.id);
    effect(() => {
      if (folioId()) untracked(() => this.store.dispatch(formsActions.asked()));
    });
    const count = computed(() => this.forms().length);
    effect(() => {
      const id = folioId();
      count();
      if (!id) return;
      this.api.deletedWritings(id).subscribe({
        next: ({ writings }) => this.deleted.set(writings.filter(({ kind }) => kind === 'form')),
        error: () => this.deleted.set([]),
      });
    });
  }

  protected begin(): void {
    const folio = this.folio();
    if (!folio) return;
    const language = this.template()?.language ?? 'en-GB';
    const taken = new Set(this.forms().map(({ name }) => name));
    let name = folio.title;
    for (let n = 2; taken.has(name); n++) name = `${folio.title} ${n}`;
    this.api.addWriting(folio.id, { kind: 'form', name, content: emptyForm(name, language) }).subscribe({
      next: ({ id }) => {
        this.store.dispatch(deskActions.rollNews({ folioId: folio.id }));
        this.store.dispatch(formsActions.pick({ id }));
      },
      error: (error: unknown) => this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) })),
    });
  }

  protected restore(id: string): void {
    const folio = this.folio();
    if (!folio) return;
    this.api.restoreWriting(folio.id, id).subscribe({
      next: () => {
        this.store.dispatch(deskActions.rollNews({ folioId: folio.id }));
        this.store.dispatch(formsActions.pick({ id }));
      },
      error: (error: unknown) => this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) })),
    });
  }

  protected pickForm(id: string): void {
    this.store.dispatch(formsActions.pick({ id }));
  }

  protected pickItem(itemId: string | null): void {
    this.store.dispatch(formsActions.pickItem({ itemId }));
  }

  protected add(kind: ItemKind): void {
    const form = this.form();
    if (!form) return;
    const item = this.inKnownColumns(newItem(kind, form.languages[0]!, newId), form);
    const at = form.items.findIndex(({ id }) => id === this.pickedId());
    const items = [...form.items];
    items.splice(at < 0 ? items.length : at + 1, 0, item);
    this.change({ ...form, items });
    this.pickItem(item.id);
  }

  protected setItem(item: FormItem): void {
    const form = this.form();
    if (form)
      this.change({ ...form, items: form.items.map((one) => (one.id === item.id ? item : one)) }, item.id);
  }

  protected takeOut(id: string): void {
    const form = this.form();
    if (!form) return;
    this.change({ ...form, items: form.items.filter((one) => one.id !== id) });
    if (this.pickedId() === id) this.pickItem(null);
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }

  protected moveBy(at: number, by: 1 | -1): void {
    this.move(at, at + by);
  }

  /** Alt with an arrow moves the line that has the focus. */
  protected key(event: KeyboardEvent, at: number, id: string): void {
    if (event.key === 'Delete') this.takeOut(id);
    else if (event.altKey && event.key === 'ArrowUp') this.moveBy(at, -1);
    else if (event.altKey && event.key === 'ArrowDown') this.moveBy(at, 1);
    else return;
    event.preventDefault();
    setTimeout(() => document.getElementById(`form-line-${id}`)?.focus());
  }

  protected change(form: Form, reason = ''): void {
    const draft = this.draft();
    if (!draft) return;
    this.history.note(draft.id, draft.content, form, reason, performance.now());
    this.store.dispatch(writingActions.changed({ id: draft.id, content: form }));
  }

  protected step(way: 'undo' | 'redo', event?: Event): void {
    const draft = this.draft();
    const target = event?.target as HTMLElement | undefined;
    if (!draft || target?.matches('input, textarea')) return;
    const content = this.history[way](draft.id, draft.content);
    if (!content) return;
    event?.preventDefault();
    this.store.dispatch(writingActions.replaced({ id: draft.id, content }));
  }

  /** A name goes into the columns that the roll has for it, where no other question does. */
  private inKnownColumns(item: FormItem, form: Form): FormItem {
    if (item.kind !== 'name') return item;
    const used = new Set(form.items.flatMap(columnIdsOf));
    const columnOf = (role: 'given name' | 'surname'): string | undefined =>
      nameColumns(this.others()).find((column) => column.role === role && !used.has(column.id))?.id;
    return {
      ...item,
      givenId: columnOf('given name') ?? item.givenId,
      familyId: columnOf('surname') ?? item.familyId,
    };
  }

  private move(from: number, to: number): void {
    const form = this.form();
    if (!form || to < 0 || to >= form.items.length || from === to) return;
    const items = [...form.items];
    moveItemInArray(items, from, to);
    this.change({ ...form, items });
  }

  private wordsOf(item: FormItem, { languages }: Form): string {
    const first = languages[0]!;
    if ('label' in item) return wordsIn(item.label, first, first);
    if (item.kind === 'hidden') return item.name;
    if (item.kind === 'words') return wordsIn(item.words, first, first);
    if (item.kind === 'picture') return wordsIn(item.alt, first, first);
    return wordsIn(item.title, first, first);
  }
}
