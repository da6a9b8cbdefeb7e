import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { FormItem } from '@scriptum/core/form';
import { Answering } from '../answering';

type FileItem = Extract<FormItem, { kind: 'file' }>;

const TAKES = {
  pictures: 'image/png,image/jpeg,image/webp,image/gif',
  pdf: 'application/pdf,.pdf',
  papers: '.pdf,.docx,.xlsx,.odt,.ods,image/png,image/jpeg',
} as const;

/** Files that are brought along: taken at once, so that nothing waits when the answers are sent. */
@Component({
  selector: 'sf-file-question',
  template: `
    <fieldset class="question" [attr.data-wrong]="wrong() || null" [attr.aria-describedby]="described()">
      <legend class="asked">
        {{ answering.say(item().label) }}
        @if (item().required) {
          <span class="needed">{{ words().required }}</span>
        }
      </legend>
      @if (answering.say(item().help); as help) {
        <p class="help" [id]="'help-' + item().id">{{ help }}</p>
      }
      @if (there().length > 0) {
        <ul class="files">
          @for (file of there(); track file.id) {
            <li>
              <bdi>{{ file.name }}</bdi>
              <button
                type="button"
                class="plain"
                [attr.aria-label]="words().takeOut(file.name)"
                (click)="takeOut(file.id)"
              >
                ✕
              </button>
            </li>
          }
        </ul>
      }
      @if (there().length < item().most) {
        <label class="add">
          <input
            type="file"
            class="unseen"
            [accept]="accept()"
            [multiple]="item().most > 1"
            (change)="bring($event)"
          />
          <span>{{ words().addFile }}</span>
        </label>
      }
      @if (bringing(); as name) {
        <p class="quiet" role="status">{{ words().bringing(name) }}</p>
      }
      @if (wrong(); as says) {
        <p class="wrong" role="alert" [id]="'wrong-' + item().id">{{ says }}</p>
      }
    </fieldset>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileQuestion {
  readonly item = input.required<FileItem>();
  protected readonly answering = inject(Answering);
  protected readonly words = this.answering.words;
  protected readonly bringing = signal('');
  private readonly refused = signal('');
  private readonly columnId = computed(() => this.item().columnId ?? this.item().id);
  protected readonly accept = computed(() => TAKES[this.item().takes]);
  protected readonly there = computed(() => {
    const names = this.answering.files();
    return this.answering.all(this.columnId()).map((id) => ({ id, name: names[id] ?? '' }));
  });
  protected readonly wrong = computed(() => this.refused() || this.answering.problem(this.columnId()));

  protected described(): string | null {
    const ids = [
      this.item().help ? `help-${this.item().id}` : '',
      this.wrong() ? `wrong-${this.item().id}` : '',
    ];
    return ids.filter(Boolean).join(' ') || null;
  }

  protected async bring(event: Event): Promise<void> {
    const box = event.target as HTMLInputElement;
    const files = [...(box.files ?? [])];
    // The same file can be chosen once more after it was refused.
    box.value = '';
    this.refused.set('');
    for (const file of files.slice(0, this.item().most - this.there().length)) {
      if (file.size > this.item().megabytes * 1024 * 1024) {
        this.refused.set(`${file.name}: ${this.words().large}`);
        continue;
      }
      this.bringing.set(file.name);
      const { id, most } = this.item();
      const why = await this.answering.bring(id, this.columnId(), file, file.name, most);
      if (why) this.refused.set(`${file.name}: ${why}`);
    }
    this.bringing.set('');
  }

  protected takeOut(id: string): void {
    this.refused.set('');
    this.answering.takeOut(this.columnId(), id);
  }
}
