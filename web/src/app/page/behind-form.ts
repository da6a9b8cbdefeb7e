import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { withFirstBehind, withPagesBehind, type Letter } from '@scriptum/core/template';
import { newId } from '../api/new-id';
import { writingFeature } from '../state/writing';
import { BehindPages } from './behind-pages';

/** The pages with boxes that stand behind a letter's text in the same paper. */
@Component({
  selector: 'sc-behind-form',
  template: `
    @if (count(); as n) {
      <p class="mb-1 text-small">
        {{ n === 1 ? 'One page with boxes stands' : n + ' pages with boxes stand' }} behind the text, in the
        same paper.
      </p>
      <p class="flex flex-wrap gap-x-3 text-small">
        <button type="button" class="link min-h-6" (click)="pages.show(of())">
          Arrange {{ n === 1 ? 'it' : 'them' }}
        </button>
        <button type="button" class="link min-h-6" (click)="changed.emit({ behind: undefined })">
          Take {{ n === 1 ? 'it' : 'them' }} away
        </button>
      </p>
    } @else {
      <p class="mb-1 text-small text-slate">
        Pages with boxes, such as a certificate or a form, can stand behind the text in the same paper.
      </p>
      <p class="flex flex-wrap gap-x-3 gap-y-1 text-small">
        <button type="button" class="link min-h-6" (click)="add()">An empty page</button>
        @if (certificates().length > 0) {
          <select
            class="field h-7 max-w-full py-0"
            aria-label="The pages of a certificate"
            #box
            (change)="addFrom(box)"
          >
            <option value="">The pages of …</option>
            @for (one of certificates(); track one.id) {
              <option [value]="one.id">{{ one.content.name }}</option>
            }
          </select>
        }
      </p>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BehindForm {
  readonly letter = input.required<Letter>();
  /** The letter's identity. */
  readonly of = input.required<string>();
  readonly changed = output<Partial<Letter>>();
  protected readonly pages = inject(BehindPages);
  private readonly templates = inject(Store).selectSignal(writingFeature.selectAllTemplates);
  protected readonly count = computed(() => this.letter().behind?.pages.length ?? 0);
  protected readonly certificates = computed(() =>
    this.templates().flatMap((one) => (one.kind === 'placed' ? [one] : [])),
  );

  protected add(): void {
    this.changed.emit(withFirstBehind(this.letter()));
    this.pages.show(this.of());
  }

  protected addFrom(box: HTMLSelectElement): void {
    const from = this.certificates().find(({ id }) => id === box.value);
    box.value = '';
    if (from) this.changed.emit(withPagesBehind(this.letter(), from.content, newId));
  }
}
