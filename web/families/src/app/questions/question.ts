import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { OTHER, type FormPage } from '@scriptum/core/form';
import { Answering } from '../answering';
import { FileQuestion } from './file-question';
import { SignatureQuestion } from './signature-question';

type PageItem = FormPage['items'][number];

/** One item of a form: a question with its answer, or what stands between questions. */
@Component({
  selector: 'sf-question',
  imports: [FileQuestion, NgTemplateOutlet, SignatureQuestion],
  templateUrl: './question.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Question {
  readonly item = input.required<PageItem>();
  protected readonly answering = inject(Answering);
  protected readonly words = this.answering.words;
  protected readonly OTHER = OTHER;

  protected readonly columnId = computed(() => {
    const item = this.item();
    return 'columnId' in item && item.columnId ? item.columnId : item.id;
  });
  protected readonly label = computed(() => {
    const item = this.item();
    return 'label' in item ? this.answering.say(item.label) : '';
  });
  protected readonly help = computed(() => {
    const item = this.item();
    return 'help' in item ? this.answering.say(item.help) : '';
  });
  protected readonly required = computed(() => {
    const item = this.item();
    return 'required' in item && item.required;
  });
  protected readonly value = computed(() => this.answering.one(this.columnId()));
  protected readonly chosen = computed(() => new Set(this.answering.all(this.columnId())));
  /** What was written instead of the choices; null where it was not picked. */
  protected readonly other = computed(() => {
    const found = this.answering.all(this.columnId()).find((one) => one.startsWith(OTHER));
    return found === undefined ? null : found.slice(OTHER.length);
  });
  protected readonly steps = computed(() => {
    const item = this.item();
    return item.kind === 'scale'
      ? Array.from({ length: item.to - item.from + 1 }, (_, n) => String(item.from + n))
      : [];
  });
  protected readonly parts = computed(() => {
    const item = this.item();
    if (item.kind !== 'name') return [];
    return [
      { columnId: item.givenId, label: this.words().given, fill: 'given-name' },
      { columnId: item.familyId, label: this.words().family, fill: 'family-name' },
    ];
  });
  protected readonly day = computed(() => this.value().split('T')[0] ?? '');
  protected readonly time = computed(() => this.value().split('T')[1] ?? '');

  /** What describes a control: its help, and what is wrong with it. */
  protected described(columnId = this.columnId()): string | null {
    const ids = [
      this.help() ? `help-${this.item().id}` : '',
      this.answering.problem(columnId) ? `wrong-${columnId}` : '',
    ].filter(Boolean);
    return ids.length > 0 ? ids.join(' ') : null;
  }

  protected wrong(columnId = this.columnId()): string {
    return this.answering.problem(columnId);
  }

  protected checked(event: Event): boolean {
    return (event.target as HTMLInputElement).checked;
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  protected write(event: Event, columnId = this.columnId()): void {
    this.answering.set(columnId, (event.target as HTMLInputElement).value);
  }

  /** A number as people write it, with a comma for the decimal sign too. */
  protected writeNumber(event: Event): void {
    const text = (event.target as HTMLInputElement).value.trim().replace(/^\+/, '').replace(',', '.');
    this.answering.set(this.columnId(), text);
  }

  protected writeDay(day: string, time: string): void {
    const item = this.item();
    const withTime = item.kind === 'date' && item.withTime;
    this.answering.set(this.columnId(), withTime && (day || time) ? `${day}T${time}` : day);
  }

  protected pick(id: string, columnId = this.columnId()): void {
    this.answering.set(columnId, id);
  }

  protected tick(id: string, on: boolean, columnId = this.columnId()): void {
    const rest = this.answering
      .all(columnId)
      .filter((one) => one !== id && !(id === OTHER && one.startsWith(OTHER)));
    this.answering.set(columnId, on ? [...rest, id] : rest);
  }

  protected writeOther(event: Event): void {
    const said = OTHER + (event.target as HTMLInputElement).value;
    if (this.item().kind === 'one') this.answering.set(this.columnId(), said);
    else
      this.answering.set(this.columnId(), [
        ...this.answering.all(this.columnId()).filter((one) => !one.startsWith(OTHER)),
        said,
      ]);
  }

  protected isPicked(columnId: string, id: string): boolean {
    return this.answering.all(columnId).includes(id);
  }
}

export type { PageItem };
