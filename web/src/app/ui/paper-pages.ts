import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  input,
  type OnDestroy,
  signal,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import type { Proof } from '@scriptum/core/contract';

interface ShownPage {
  readonly url: SafeUrl;
  readonly ratio: string;
}

/** The pages of a paper, one below the other, as large as there is room. */
@Component({
  selector: 'sc-paper-pages',
  template: `
    @for (page of pages(); track $index) {
      <figure class="mx-auto mb-3 max-w-[820px]">
        <img
          [src]="page.url"
          class="paper block w-full"
          [style.aspect-ratio]="page.ratio"
          [alt]="'Page ' + ($index + 1) + ' of ' + what()"
        />
        @if (pages().length > 1) {
          <figcaption class="pt-1 text-center text-small text-slate">
            Page {{ $index + 1 }} of {{ pages().length }}
          </figcaption>
        }
      </figure>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaperPages implements OnDestroy {
  readonly proof = input.required<Proof>();
  /** Whose paper it is. */
  readonly what = input.required<string>();

  private readonly sanitizer = inject(DomSanitizer);
  private urls: string[] = [];
  private stale: string[] = [];
  protected readonly pages = signal<ShownPage[]>([]);

  constructor() {
    effect(() => {
      const proof = this.proof();
      // The pictures before the last are gone from the screen by now.
      this.stale.forEach((url) => URL.revokeObjectURL(url));
      this.stale = this.urls;
      this.urls = proof.pages.map(({ svg }) =>
        URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })),
      );
      // Our own blob: URLs of our own server's picture, shown as an image: nothing in it can run.
      this.pages.set(
        this.urls.map((url, n) => ({
          url: this.sanitizer.bypassSecurityTrustUrl(url),
          ratio: `${proof.pages[n]!.width} / ${proof.pages[n]!.height}`,
        })),
      );
    });
  }

  ngOnDestroy(): void {
    [...this.urls, ...this.stale].forEach((url) => URL.revokeObjectURL(url));
  }
}
