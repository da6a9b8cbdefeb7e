import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Column } from '@scriptum/core/column';
import { canBeMarked, type Form, type FormItem, type Words } from '@scriptum/core/form';
import { newId } from '../../api/new-id';
import { languageName } from '../../desk/paper-languages';
import { deskFeature } from '../../state/desk';
import { Entered } from '../../ui/bound';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { changeItem, itemSentence, shownSentence } from './item-sentence';
import { kindName } from './item-kinds';
import { MarkForm } from './mark-form';

/** A list of things with words, each with an identity that stays. */
type Listed = 'choices' | 'rows';

/** One item of a form: its words in each language, what can be picked, and the sentences that say how it is answered. */
@Component({
  selector: 'sc-item-margin',
  imports: [Entered, Icon, MarkForm, Sentence],
  templateUrl: './item-margin.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemMargin {
  readonly form = input.required<Form>();
  readonly item = input.required<FormItem>();
  readonly others = input.required<readonly Column[]>();
  readonly changed = output<FormItem>();

  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly columns = computed(() => this.roll().columns);
  private readonly around = computed(() => ({ form: this.form(), item: this.item(), others: this.others() }));
  protected readonly kind = computed(() => kindName(this.item().kind));
  protected readonly how = computed(() => itemSentence(this.around()));
  protected readonly when = computed(() => shownSentence(this.around()));
  /** The question, where it can have a right answer. */
  protected readonly marked = computed(() => {
    const item = this.item();
    return canBeMarked(item) ? item : null;
  });
  protected readonly languages = computed(() =>
    this.form().languages.map((tag, n) => ({
      tag,
      name: this.form().languages.length > 1 ? languageName(tag) : '',
      isFirst: n === 0,
    })),
  );
  protected readonly pictures = computed(() =>
    (this.folio()?.assets ?? []).filter(({ mime }) => mime.startsWith('image/')),
  );
  protected readonly hiddenName = computed(() => {
    const item = this.item();
    return item.kind === 'hidden' ? item.name : '';
  });
  protected readonly assetId = computed(() => {
    const item = this.item();
    return item.kind === 'picture' ? item.assetId : null;
  });
  /** Which words an item has, by what they are called here. */
  protected readonly texts = computed((): { key: string; title: string; long: boolean }[] => {
    const item = this.item();
    switch (item.kind) {
      case 'hidden':
        return [];
      case 'section':
        return [
          { key: 'title', title: 'Heading', long: false },
          { key: 'words', title: 'Text below it', long: true },
        ];
      case 'page':
        return [{ key: 'title', title: 'Heading of the page', long: false }];
      case 'words':
        return [{ key: 'words', title: 'Text', long: true }];
      case 'picture':
        return [{ key: 'alt', title: 'What it shows, in words', long: false }];
      default:
        return [
          {
            key: 'label',
            title: item.kind === 'consent' ? 'What people agree to' : 'What it asks',
            long: false,
          },
          { key: 'help', title: 'Help, below the question', long: true },
          ...(item.kind === 'number' ? [{ key: 'unit', title: 'Unit, behind the number', long: false }] : []),
          ...(item.kind === 'scale'
            ? [
                { key: 'low', title: `What ${item.from} means`, long: false },
                { key: 'high', title: `What ${item.to} means`, long: false },
              ]
            : []),
        ];
    }
  });
  protected readonly lists = computed((): { key: Listed; title: string; add: string }[] => {
    const item = this.item();
    if (item.kind === 'grid')
      return [
        { key: 'rows', title: 'Rows', add: 'Add a row' },
        { key: 'choices', title: 'Answers', add: 'Add an answer' },
      ];
    return item.kind === 'one' || item.kind === 'several'
      ? [{ key: 'choices', title: 'Answers', add: 'Add an answer' }]
      : [];
  });

  protected words(key: string, language: string): string {
    const words = (this.item() as unknown as Record<string, Words | undefined>)[key];
    return words?.[language] ?? '';
  }

  protected write(key: string, language: string, text: string): void {
    const item = this.item() as unknown as Record<string, Words | undefined>;
    this.changed.emit({ ...this.item(), [key]: { ...item[key], [language]: text } } as FormItem);
  }

  protected listed(key: Listed): readonly { id: string; label: Words }[] {
    const item = this.item();
    if (key === 'rows') return item.kind === 'grid' ? item.rows : [];
    return 'choices' in item ? item.choices : [];
  }

  /** Several lines that are pasted are several answers. */
  protected rename(key: Listed, id: string, language: string, text: string): void {
    const lines = text.split(/\r?\n/).map((line) => line.trim());
    const [first = '', ...more] = lines.length > 1 ? lines.filter(Boolean) : [text];
    this.setList(
      key,
      this.listed(key).flatMap((one) =>
        one.id === id
          ? [
              { ...one, label: { ...one.label, [language]: first } },
              ...more.map((words) => ({ id: newId(), label: { [language]: words } })),
            ]
          : [one],
      ),
    );
  }

  protected paste(event: ClipboardEvent, key: Listed, id: string, language: string): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!text.trim().includes('\n')) return;
    event.preventDefault();
    this.rename(key, id, language, text);
  }

  protected addTo(key: Listed): void {
    const id = newId();
    this.setList(key, [...this.listed(key), { id, label: { [this.form().languages[0]!]: '' } }]);
    setTimeout(() => document.getElementById(`words-${id}`)?.focus());
  }

  protected takeFrom(key: Listed, id: string): void {
    this.setList(
      key,
      this.listed(key).filter((one) => one.id !== id),
    );
  }

  protected moveIn(key: Listed, at: number, by: 1 | -1): void {
    const list = [...this.listed(key)];
    const [one] = list.splice(at, 1);
    list.splice(at + by, 0, one!);
    this.setList(key, list);
  }

  protected say(change: SentenceChange): void {
    this.changed.emit(changeItem(this.around(), change));
  }

  protected nameHidden(name: string): void {
    this.changed.emit({ ...this.item(), name: name.trim() || 'Value' } as FormItem);
  }

  protected pickPicture(assetId: string): void {
    this.changed.emit({ ...this.item(), assetId: assetId || null } as FormItem);
  }

  private setList(key: Listed, list: readonly { id: string; label: Words }[]): void {
    this.changed.emit({ ...this.item(), [key]: list } as FormItem);
  }
}
