import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Placed } from '@scriptum/core/template';
import { newId } from '../../api/new-id';
import { coloursWith } from '../../editor/colours';
import { deskFeature } from '../../state/desk';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { PAPER_LANGUAGES } from '../../desk/paper-languages';
import { Forms, groundsOf } from './forms';
import { changePages, pagesLines } from './pages-sentence';
import { withoutPage, withPage } from './placed-edits';

/** The pages of a certificate: how large, what lies under everything, and how many. */
@Component({
  selector: 'sc-pages-form',
  imports: [Sentence],
  template: `
    @for (line of lines(); track line.id) {
      <div class="mb-2 border-l-[3px] border-rule pl-2">
        <sc-sentence [label]="line.label" [pieces]="line.pieces" (changed)="change($event)" />
      </div>
    }
    <p class="flex flex-wrap gap-x-3 text-small">
      <button type="button" class="link min-h-6" (click)="add(false)">Another page</button>
      <button type="button" class="link min-h-6" (click)="add(true)">Copy page {{ page() + 1 }}</button>
      @if (template().pages.length > 1) {
        <button type="button" class="link min-h-6" (click)="remove()">Delete page {{ page() + 1 }}</button>
      }
      @if (!template().pages[page()]?.ground) {
        <button type="button" class="link min-h-6" (click)="file.click()">Picture for the ground …</button>
      }
    </p>
    <input
      #file
      type="file"
      class="hidden"
      accept="image/png,image/jpeg,image/webp,image/svg+xml"
      aria-label="Picture for the ground"
      tabindex="-1"
      (change)="bring(file)"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PagesForm {
  readonly template = input.required<Placed>();
  /** Whether they stand behind the text of a letter. */
  readonly behind = input(false);
  /** The page that is looked at. */
  readonly page = input.required<number>();
  readonly changed = output<Partial<Placed>>();
  readonly looked = output<number>();
  /** A picture is to be brought in and to lie under the page. */
  readonly picture = output<File>();
  private readonly folio = inject(Store).selectSignal(deskFeature.selectFolio);
  protected readonly lines = computed(() =>
    pagesLines(
      this.template(),
      this.page(),
      coloursWith(this.folio()?.letterhead ?? null),
      PAPER_LANGUAGES,
      this.pictures(),
      this.fillable(),
      // A letter goes to no print shop.
    ).filter(({ id }) => id !== 'print' || !this.behind()),
  );
  private readonly forms = inject(Forms);
  private readonly fillable = computed(() =>
    groundsOf(this.template()).some((asset) => this.forms.about().get(asset)?.fillable),
  );
  private readonly pictures = computed(() =>
    (this.folio()?.assets ?? []).flatMap(({ id, name, mime }) =>
      mime.startsWith('image/') ? [[id, name] as const] : [],
    ),
  );

  protected change(change: SentenceChange): void {
    this.changed.emit(changePages(this.template(), this.page(), change));
  }

  protected bring(box: HTMLInputElement): void {
    const file = box.files?.[0];
    box.value = '';
    if (file) this.picture.emit(file);
  }

  protected add(copy: boolean): void {
    const at = this.page();
    this.changed.emit(withPage(this.template(), at, copy, newId));
    this.looked.emit(at + 1);
  }

  protected remove(): void {
    const at = this.page();
    this.changed.emit(withoutPage(this.template(), at));
    this.looked.emit(Math.max(0, at - 1));
  }
}
