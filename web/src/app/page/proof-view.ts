import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  type OnDestroy,
  signal,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { writingActions, writingFeature } from '../state/writing';

/** The picked learner's paper, as the typesetter made it, page by page. */
@Component({
  selector: 'sc-proof-view',
  template: `
    @if (trouble(); as t) {
      <p
        class="mx-auto mb-3 w-[476px] max-w-full border-l-[3px] border-madder bg-leaf px-3 py-2 text-small"
        role="alert"
      >
        {{ t.message }}
      </p>
    }
    @for (page of pages(); track $index) {
      <figure class="mx-auto mb-3 w-[476px] max-w-full">
        <img
          [src]="page.url"
          class="paper block w-full"
          [style.aspect-ratio]="page.ratio"
          [alt]="'Page ' + ($index + 1) + ' of the paper for ' + learner()"
          (load)="shown.set($index)"
        />
        @if (pages().length > 1) {
          <figcaption class="pt-1 text-center text-small text-slate">
            Page {{ $index + 1 }} of {{ pages().length }}
          </figcaption>
        }
      </figure>
    } @empty {
      <p class="p-6 text-center text-slate">Typesetting …</p>
    }
  `,
  host: {
    class: 'block overflow-y-auto bg-ground px-3 pt-3',
    role: 'region',
    'aria-label': 'Proof',
    tabindex: '0',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofView implements OnDestroy {
  private readonly store = inject(Store);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly proof = this.store.selectSignal(writingFeature.selectProof);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  private urls: string[] = [];
  private stale: string[] = [];
  protected readonly trouble = this.store.selectSignal(writingFeature.selectProofTrouble);
  protected readonly learner = computed(() => this.names().get(this.pickedId() ?? '') ?? 'nobody yet');
  protected readonly pages = signal<{ url: SafeUrl; ratio: string }[]>([]);
  protected readonly shown = signal(0);

  constructor() {
    this.store.dispatch(writingActions.proofShown());
    effect(() => {
      const proof = this.proof();
      if (!proof) {
        this.pages.set([]);
        return;
      }
      // The pictures before the last are gone from the screen by now.
      this.stale.forEach((url) => URL.revokeObjectURL(url));
      this.stale = this.urls;
      this.urls = proof.pages.map(({ svg }) =>
        URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })),
      );
      // Our own blob: URLs of our own server's picture, shown as an image: nothing in it can run.
      this.pages.set(
        this.urls.map((url, n) => {
          const { width, height } = proof.pages[n]!;
          return { url: this.sanitizer.bypassSecurityTrustUrl(url), ratio: `${width} / ${height}` };
        }),
      );
    });
  }

  ngOnDestroy(): void {
    this.store.dispatch(writingActions.proofHidden());
    [...this.urls, ...this.stale].forEach((url) => URL.revokeObjectURL(url));
  }
}
