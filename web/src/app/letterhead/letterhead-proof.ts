import { ChangeDetectionStrategy, Component, inject, input, type OnDestroy, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { Letterhead } from '@scriptum/core/template';
import { catchError, debounceTime, EMPTY, filter, switchMap } from 'rxjs';
import { Api } from '../api/api';

/** What is asked for: a letterhead, and whether it is printed. */
export interface Asked {
  readonly letterhead: Letterhead | null;
  readonly print: 'printed' | 'room';
}

/** Milliseconds without a change after which the sample is set anew. */
const AFTER = 150;

/** A sample letter on the letterhead as it stands on screen. */
@Component({
  selector: 'sc-letterhead-proof',
  template: `
    @for (page of pages(); track $index) {
      <img
        class="paper mx-auto mb-3 block w-[560px] max-w-full"
        [src]="page"
        [alt]="'Page ' + ($index + 1) + ' of a sample letter'"
      />
    } @empty {
      <p class="p-6 text-center text-slate">Typesetting …</p>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetterheadProofView implements OnDestroy {
  readonly asked = input.required<Asked>();
  private readonly api = inject(Api);
  private readonly sanitizer = inject(DomSanitizer);
  protected readonly pages = signal<SafeUrl[]>([]);
  private urls: string[] = [];

  constructor() {
    toObservable(this.asked)
      .pipe(
        debounceTime(AFTER),
        // While something is missing the last picture stays.
        filter(({ letterhead }) => Letterhead.safeParse(letterhead).success),
        switchMap(({ letterhead, print }) =>
          this.api.letterheadProof({ letterhead: letterhead!, print }).pipe(catchError(() => EMPTY)),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ pages }) => this.show(pages.map(({ svg }) => svg)));
  }

  ngOnDestroy(): void {
    this.show([]);
  }

  private show(svgs: readonly string[]): void {
    this.urls.forEach((url) => URL.revokeObjectURL(url));
    this.urls = svgs.map((svg) => URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })));
    // Our own blob: URLs of our own server's picture, shown as an image: nothing in it can run.
    this.pages.set(this.urls.map((url) => this.sanitizer.bypassSecurityTrustUrl(url)));
  }
}
