import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  signal,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { Store } from '@ngrx/store';
import type { Template } from '@scriptum/core/template';
import { Api } from '../api/api';
import { deskFeature } from '../state/desk';

/** The first page of a letter or certificate as the picked learner has it, small. */
@Component({
  selector: 'sc-first-page',
  template: `
    @if (url(); as shown) {
      <img class="paper block w-full" alt="" [src]="shown" />
    } @else {
      <span class="paper block w-full bg-leaf" [style.aspect-ratio]="ratio()"></span>
    }
  `,
  host: { class: 'block w-16' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirstPage implements OnDestroy {
  readonly letter = input.required<Template>();

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  protected readonly url = signal<SafeUrl | null>(null);
  protected readonly ratio = computed(() => `${this.letter().page.width} / ${this.letter().page.height}`);
  private blob: string | null = null;

  constructor() {
    effect((onCleanup) => {
      const folioId = this.folio()?.id;
      if (!folioId) return;
      const asked = this.api.proof(folioId, this.pickedId(), this.letter()).subscribe({
        next: ({ pages }) => this.show(pages[0]?.svg),
        // The place stays white: what is wrong is told beside the proof.
        error: () => this.show(undefined),
      });
      onCleanup(() => asked.unsubscribe());
    });
  }

  ngOnDestroy(): void {
    this.show(undefined);
  }

  private show(svg: string | undefined): void {
    if (this.blob) URL.revokeObjectURL(this.blob);
    this.blob = svg === undefined ? null : URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    // Our own blob: URL of our own server's picture, shown as an image: nothing in it can run.
    this.url.set(this.blob && this.sanitizer.bypassSecurityTrustUrl(this.blob));
  }
}
