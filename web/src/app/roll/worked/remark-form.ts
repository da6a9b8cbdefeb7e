import type { FlowText, LineText } from '@scriptum/core/text';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
  type Signal,
} from '@angular/core';
import { guessScale, isRemarkWord, WORD_LABELS } from '@scriptum/core/marks';
import type { Roll } from '@scriptum/core/roll';
import {
  type Column,
  REMARK_WORDS,
  type Remark,
  type RemarkColumn,
  type RemarkPart,
} from '@scriptum/core/column';
import type { Field } from '@scriptum/core/template';
import { newId } from '../../api/new-id';
import { TextEditor } from '../../editor/text-editor';
import { Icon } from '../../ui/icon';
import { NumberBox } from '../../ui/number-box';
import { ColumnPick, OutOfPick, pointsOfKey, numberText, type WorkedChange } from './fields';
import { WithinPick } from './within-pick';

const WORD_FIELDS: readonly Field[] = REMARK_WORDS.map((word) => ({
  id: word,
  name: WORD_LABELS[word],
  columnId: null,
}));

/** The comment bank, and which of its remarks a column takes. */
@Component({
  selector: 'sc-remark-form',
  imports: [ColumnPick, Icon, OutOfPick, TextEditor, WithinPick, NumberBox],
  templateUrl: './remark-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RemarkForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<RemarkColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly roll = input.required<Roll>();
  protected readonly columns = computed<readonly Column[]>(() => this.roll().columns);
  protected readonly keyPoints = computed(() => pointsOfKey(this.columns(), this.worked().of));
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<RemarkColumn>>();
  protected readonly editor = viewChild(TextEditor);
  protected readonly words = REMARK_WORDS.map((word) => ({ word, label: WORD_LABELS[word] }));
  protected readonly fields = WORD_FIELDS;
  protected readonly noColumns: readonly Column[] = [];
  /** The remark that is being written. */
  protected readonly writing = signal<string | null>(null);
  protected readonly line = linkedSignal<string | null, LineText>({
    source: () => this.writing(),
    computation: (id) => lineOf(this.bank().find((remark) => remark.id === id)?.parts ?? []),
  });
  private written: RemarkPart[] | null = null;
  /** Other remark columns with a bank of their own. */
  protected readonly lenders = computed(() =>
    this.columns().filter(
      ({ id, worked }) => id !== this.columnId() && worked?.kind === 'remark' && !worked.bankOf,
    ),
  );
  protected readonly borrowed = computed(() => this.lenders().find(({ id }) => id === this.worked().bankOf));
  protected readonly bank = computed(() => {
    const { worked } = this.borrowed() ?? {};
    return worked?.kind === 'remark' ? worked.bank : this.worked().bank;
  });
  protected readonly tones = computed(() => this.distinct((remark) => remark.tone));
  protected readonly subjects = computed(() => this.distinct((remark) => remark.subject));
  protected readonly languages = computed(() => this.distinct((remark) => remark.language));

  private distinct(of: (remark: Remark) => string): string[] {
    return [...new Set(this.bank().map((remark) => of(remark).trim()))].filter(Boolean).sort();
  }

  protected partsShown(remark: Remark): { text: string; word: boolean }[] {
    return remark.parts.map((part) =>
      'text' in part
        ? { text: part.text, word: false }
        : { text: WORD_LABELS[part.word].split(' / ').find((form) => form !== '–')!, word: true },
    );
  }

  /** Another column is out of something else, most likely. */
  protected setOf(of: string): void {
    this.set({ of, outOf: guessScale(of, this.roll()) }, 'the mark');
  }

  protected readonly text = numberText;

  protected set(change: Partial<RemarkColumn>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }

  protected setRemark(id: string, change: Partial<Remark>, what = 'a remark'): void {
    this.set(
      { bank: this.worked().bank.map((remark) => (remark.id === id ? { ...remark, ...change } : remark)) },
      what,
    );
  }

  protected add(): void {
    const id = newId();
    const remark: Remark = {
      id,
      parts: [{ word: 'name' }, { text: ' ' }],
      from: null,
      to: null,
      subject: '',
      tone: '',
      language: 'en',
    };
    this.set({ bank: [...this.worked().bank, remark] }, 'a new remark');
    this.writing.set(id);
  }

  protected remove(id: string): void {
    this.set({ bank: this.worked().bank.filter((remark) => remark.id !== id) }, 'taking a remark out');
  }

  protected take(value: FlowText | LineText): void {
    if (!('content' in value)) this.written = partsOf(value);
  }

  protected done(): void {
    const id = this.writing();
    const parts = this.written;
    this.written = null;
    this.writing.set(null);
    if (id && parts && parts.length > 0) this.setRemark(id, { parts });
  }

  protected put(word: string): void {
    if (word) this.editor()?.insertField(word);
  }

  protected borrow(columnId: string | null): void {
    this.set({ bankOf: columnId ?? undefined }, 'the comment bank');
  }
}

const lineOf = (parts: readonly RemarkPart[]): LineText =>
  parts.map((part) =>
    'text' in part ? { type: 'text', text: part.text } : { type: 'field', attrs: { fieldId: part.word } },
  );

const partsOf = (line: LineText): RemarkPart[] =>
  line.flatMap((part): RemarkPart[] => {
    if (part.type === 'text') return [{ text: part.text }];
    const { fieldId } = part.attrs;
    return isRemarkWord(fieldId) ? [{ word: fieldId }] : [];
  });
