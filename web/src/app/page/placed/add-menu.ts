import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { Column } from '@scriptum/core/column';
import { FIRST_ORNAMENTS, type OrnamentKind } from '@scriptum/core/ornament';
import type { Letterhead } from '@scriptum/core/template';
import { ORNAMENT_NAMES } from './ornament-sentence';
import type { Adding } from './new-box';

/** A verb whose things are still to be chosen. */
type Open = 'ornament' | 'code' | 'signOff' | 'ownPicture' | null;

/** What can be put on the page, as verbs. */
@Component({
  selector: 'sc-add-menu',
  template: `
    <p class="flex flex-wrap gap-x-2.5 gap-y-0.5 text-small" role="group" aria-label="Put on the page">
      @for (one of plain; track one[0]) {
        <button type="button" class="link min-h-6" (click)="add({ what: one[0] })">{{ one[1] }}</button>
      }
      <button type="button" class="link min-h-6" (click)="file.click()">picture</button>
      @for (one of choosing(); track one[0]) {
        <button
          type="button"
          class="link min-h-6"
          [attr.aria-expanded]="open() === one[0]"
          (click)="open.set(open() === one[0] ? null : one[0])"
        >
          {{ one[1] }}
        </button>
      }
    </p>
    @if (choices(); as all) {
      <ul
        class="mt-1 flex max-h-40 flex-wrap gap-x-2.5 gap-y-0.5 overflow-y-auto border-l-[3px] border-verdigris pl-2 text-small"
        tabindex="-1"
      >
        @for (one of all; track $index) {
          <li>
            <button type="button" class="link min-h-6 text-left" (click)="add(one.adding)">
              {{ one.label }}
            </button>
          </li>
        } @empty {
          <li class="text-slate">{{ none() }}</li>
        }
      </ul>
    }
    <input
      #file
      type="file"
      class="hidden"
      accept="image/*"
      aria-label="Picture to put on the page"
      (change)="bring(file)"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AddMenu {
  readonly letterhead = input<Letterhead | null>(null);
  readonly columns = input.required<readonly Column[]>();
  readonly added = output<Adding>();
  /** A column of the learners' pictures, for which a field is to be made. */
  readonly pictured = output<Column>();
  readonly picture = output<File>();

  protected readonly plain = [
    ['text', 'text'],
    ['date', 'date'],
    ['line', 'line'],
    ['shape', 'shape'],
    ['tick', 'mark'],
    ['comb', 'cells'],
    ['letterhead', 'letterhead'],
  ] as const;
  protected readonly open = signal<Open>(null);
  private readonly pictures = computed(() => this.columns().filter(({ type }) => type === 'picture'));
  protected readonly choosing = computed((): readonly (readonly [Exclude<Open, null>, string])[] => [
    ['ornament', 'ornament'],
    ['code', 'code'],
    ['signOff', 'sign-off'],
    ['ownPicture', 'learner’s picture'],
  ]);
  protected readonly choices = computed(
    (): { readonly label: string; readonly adding: Adding | Column }[] | null => {
      switch (this.open()) {
        case 'ornament':
          return (Object.keys(FIRST_ORNAMENTS) as OrnamentKind[]).map((kind) => ({
            label: ORNAMENT_NAMES[kind],
            adding: { what: 'ornament', kind },
          }));
        case 'code':
          return [
            { label: 'QR code', adding: { what: 'code', code: 'qr' } },
            { label: 'bar code', adding: { what: 'code', code: 'code128' } },
          ];
        case 'signOff':
          return (this.letterhead()?.signOffs ?? []).map(({ id, name }) => ({
            label: name,
            adding: { what: 'signOff', signOffId: id },
          }));
        case 'ownPicture':
          return this.pictures().map((column) => ({ label: column.title, adding: column }));
        case null:
          return null;
      }
    },
  );
  protected readonly none = computed(() =>
    this.open() === 'signOff'
      ? 'Say in the letterhead who signs papers of the school.'
      : 'Bring pictures of the learners at the station Roll first.',
  );

  protected add(adding: Adding | Column): void {
    this.open.set(null);
    if ('what' in adding) this.added.emit(adding);
    else this.pictured.emit(adding);
  }

  protected bring(box: HTMLInputElement): void {
    const file = box.files?.[0];
    box.value = '';
    if (file) this.picture.emit(file);
  }
}
