import { Chosen, Ticked } from '../../ui/bound';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  type Signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { nearMisses, plainAnswer, plainQuestion } from '@scriptum/core/marks';
import { isIn, learnerName, nameColumns, valueOf, type Roll } from '@scriptum/core/roll';
import { splitChoices, type MarkingKey, type Question } from '@scriptum/core/column';
import { newId } from '../../api/new-id';
import { rollActions } from '../../state/roll';
import { Icon } from '../../ui/icon';
import { NumberBox } from '../../ui/number-box';
import type { ItemView } from '../thread/marks-desk';
import { ColumnPick, RoundingPick, type WorkedChange } from './fields';
import { handColumn } from './hand-column';

/** Answers that are offered to be the right one. */
const OFFERED = 8;

/** The marking key: questions, right answers, points, and how each did over the class. */
@Component({
  selector: 'sc-key-form',
  imports: [Chosen, Ticked, ColumnPick, Icon, RoundingPick, NumberBox],
  templateUrl: './key-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeyForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<MarkingKey>>();
  protected readonly worked = computed(() => this.definition()());
  readonly roll = input.required<Roll>();
  readonly columnId = input.required<string>();
  readonly items = input<readonly ItemView[]>([]);
  readonly changed = output<WorkedChange<MarkingKey>>();
  private readonly store = inject(Store);
  protected readonly columns = computed(() => this.roll().columns);
  protected readonly free = computed(() => {
    const taken = new Set(this.worked().questions.flatMap(({ columnId, handId }) => [columnId, handId]));
    return this.columns().filter(({ id, worked }) => !worked && !taken.has(id));
  });
  protected readonly total = computed(
    () =>
      Math.round(this.worked().questions.reduce((sum, { points }) => sum + Number(points), 0) * 1000) / 1000,
  );
  protected readonly people = computed(() => {
    const columns = nameColumns(this.columns());
    return this.roll().entries.map((entry) => ({ id: entry.id, name: learnerName(entry, columns) }));
  });
  /** What learners answered most often, question by question, to choose the right ones from. */
  protected readonly offered = computed(
    () => new Map(this.worked().questions.map((question) => [question.id, this.answersOf(question)])),
  );

  /** Answers that are nearly right, question by question. */
  protected readonly near = computed(
    () =>
      new Map(
        this.worked().questions.map((question) => [
          question.id,
          nearMisses(
            question,
            this.roll()
              .entries.filter(isIn)
              .map((entry) => valueOf(entry, question.columnId)),
          ),
        ]),
      ),
  );

  protected refuse(question: Question, text: string): void {
    this.setQuestion(
      question.id,
      { refused: [...(question.refused ?? []), text].slice(-200) },
      'an answer that is not right',
    );
  }

  private answersOf(question: Question): string[] {
    const column = this.columns().find(({ id }) => id === question.columnId);
    if (!column || question.mode === 'hand') return [];
    const counts = new Map<string, number>();
    for (const entry of this.roll().entries) {
      const text = valueOf(entry, column.id).trim();
      const items =
        question.mode === 'several' ? splitChoices(text, column.format?.separator ?? ',') : [text];
      for (const item of items) if (item && item.length < 80) counts.set(item, (counts.get(item) ?? 0) + 1);
    }
    const plain = (text: string): string => (question.mode === 'number' ? text : plainAnswer(text, question));
    const known = new Set(
      [...question.answers, ...(this.near().get(question.id) ?? [])].map(({ text }) => plain(text)),
    );
    return [...counts]
      .filter(([text]) => !known.has(plain(text)))
      .sort((a, b) => b[1] - a[1])
      .slice(0, OFFERED)
      .map(([text]) => text);
  }

  protected item(id: string): ItemView | undefined {
    return this.items().find(({ questionId }) => questionId === id);
  }

  protected title(columnId: string): string {
    return this.columns().find(({ id }) => id === columnId)?.title ?? 'column is gone';
  }

  protected set(change: Partial<MarkingKey>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }

  protected setQuestion(id: string, change: Partial<Question>, what = 'a question of the key'): void {
    this.set(
      {
        questions: this.worked().questions.map((question) =>
          question.id === id ? { ...question, ...change } : question,
        ),
      },
      what,
    );
  }

  protected setMode(question: Question, mode: Question['mode']): void {
    this.setQuestion(question.id, { mode }, 'how a question is marked');
  }

  protected addAnswer(question: Question, text: string): void {
    const plain = text.trim();
    if (plain && !question.answers.some((answer) => answer.text === plain))
      this.setQuestion(
        question.id,
        { answers: [...question.answers, { text: plain.slice(0, 2000) }] },
        'a right answer',
      );
  }

  protected setAnswerPoints(question: Question, at: number, points: string | null): void {
    const answers = question.answers.map((answer, n) =>
      n === at ? (points === null ? { text: answer.text } : { ...answer, points }) : answer,
    );
    this.setQuestion(question.id, { answers }, 'points of an answer');
  }

  protected removeAnswer(question: Question, at: number): void {
    this.setQuestion(
      question.id,
      { answers: question.answers.filter((_, n) => n !== at) },
      'taking an answer out',
    );
  }

  /** Makes the answers of one row of the roll the right ones, as where somebody filled the form in to be the key. */
  protected takeRow(entryId: string): void {
    const entry = this.roll().entries.find(({ id }) => id === entryId);
    if (entry)
      this.takeAnswers(
        this.worked().questions.map(({ columnId }) => valueOf(entry, columnId)),
        `the answers of ${learnerName(entry, nameColumns(this.columns()))} as the key`,
      );
  }

  /** Right answers in the order of the questions: a line, or a cell of a spreadsheet, for each. */
  protected paste(text: string): void {
    const lines = text.trim().split(/\r?\n/);
    const cells = lines.length === 1 ? lines[0]!.split('\t') : lines.map((line) => line.split('\t').at(-1)!);
    if (text.trim()) this.takeAnswers(cells, 'a key that was pasted');
  }

  private takeAnswers(answers: readonly string[], what: string): void {
    const questions = this.worked().questions.map((question, n): Question => {
      const right = (answers[n] ?? '').trim();
      if (right === '' || question.mode === 'hand') return question;
      const separator = this.columns().find(({ id }) => id === question.columnId)?.format?.separator ?? ',';
      const texts = question.mode === 'several' ? splitChoices(right, separator) : [right];
      return { ...question, answers: texts.slice(0, 60).map((text) => ({ text: text.slice(0, 2000) })) };
    });
    this.set({ questions }, what);
  }

  protected ticked(list: HTMLElement): string[] {
    return Array.from(list.querySelectorAll<HTMLInputElement>('input:checked'), ({ value }) => value);
  }

  /** Adds the columns that are ticked as questions, in the order of the roll. */
  protected addQuestions(columnIds: readonly string[]): void {
    const chosen = this.free().filter(({ id }) => columnIds.includes(id));
    const questions = chosen.map((column) => plainQuestion(column, newId()));
    if (questions.length > 0)
      this.set(
        { questions: [...this.worked().questions, ...questions].slice(0, 200) },
        questions.length === 1 ? 'a question' : `${questions.length} questions`,
      );
  }

  protected removeQuestion(id: string): void {
    this.set(
      { questions: this.worked().questions.filter((question) => question.id !== id) },
      'taking a question out',
    );
  }

  /** Opens the pass by hand; the column for the points is made when there is none yet. */
  protected markByHand(question: Question): void {
    const made = handColumn(this.columns(), this.columnId(), this.worked(), question);
    if (made) this.store.dispatch(rollActions.change(made));
    this.store.dispatch(rollActions.openQuestion({ questionId: question.id }));
  }
}
