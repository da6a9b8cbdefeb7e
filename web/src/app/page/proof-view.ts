import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { Store } from '@ngrx/store';
import type { Proof } from '@scriptum/core/contract';
import { Chosen } from '../ui/bound';
import { dayIn } from '@scriptum/core/time';
import { deskActions, deskFeature } from '../state/desk';
import { extremesOf } from '../state/extremes';
import { registerFeature } from '../state/register';
import { sessionFeature } from '../state/session';
import { writingActions, writingFeature } from '../state/writing';

/** A page with the address of its picture. */
interface ShownPage {
  readonly url: SafeUrl;
  readonly ratio: string;
  /** Points that it is wide. */
  readonly points: number;
}

const ZOOMS = [
  { value: 'fit', label: 'Whole width' },
  { value: '75', label: '75 %' },
  { value: '100', label: '100 %' },
  { value: '150', label: '150 %' },
  { value: '200', label: '200 %' },
] as const;
type Zoom = (typeof ZOOMS)[number]['value'];
const KEPT = 'scriptum-proof-zoom';

/** The picked learner's paper, as the typesetter made it, page by page. */
@Component({
  selector: 'sc-proof-view',
  imports: [Chosen],
  template: `
    <div class="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-x-3 bg-ground py-1 text-small">
      <span class="flex grow flex-wrap gap-x-3">
        <button type="button" class="link min-h-6" (click)="pickExtreme('longest')">Longest</button>
        <button type="button" class="link min-h-6" (click)="pickExtreme('shortest')">Shortest</button>
        @if (mostPages(); as most) {
          <button type="button" class="link min-h-6" (click)="pick(most)">Most pages</button>
        }
      </span>
      <label class="flex items-center gap-1">
        <span class="sr-only">Size of the proof</span>
        <select class="pick" [scOf]="zoom()" (scChosen)="setZoom($event)">
          @for (size of zooms; track size.value) {
            <option [value]="size.value" [selected]="zoom() === size.value">{{ size.label }}</option>
          }
        </select>
      </label>
    </div>
    @if (trouble(); as t) {
      <p
        class="mx-auto mb-3 w-[476px] max-w-full border-l-[3px] border-madder bg-leaf px-3 py-2 text-small"
        role="alert"
      >
        {{ t.message }}
      </p>
    }
    @for (page of pages(); track $index) {
      <figure class="mx-auto mb-3" [style.width]="width(page)" [class.max-w-full]="zoom() === 'fit'">
        <img
          [src]="page.url"
          class="paper block w-full"
          [style.aspect-ratio]="page.ratio"
          [alt]="'Page ' + ($index + 1) + ' of the paper for ' + learner()"
          (load)="shown.set($index)"
          title="Click to go to this place in the text"
          (click)="go($index, $event)"
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
    class: 'block overflow-auto bg-ground px-3',
    role: 'region',
    'aria-label': 'Proof',
    tabindex: '0',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofView implements OnDestroy {
  /** Where it has the middle for itself. */
  readonly wide = input(false);
  /** Which block of the text was clicked on the paper. */
  readonly wanted = output<number>();

  private readonly store = inject(Store);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly proof = this.store.selectSignal(writingFeature.selectProof);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  private urls: string[] = [];
  private stale: string[] = [];
  private readonly letter = this.store.selectSignal(writingFeature.selectTemplateValue);
  private readonly letterDraft = this.store.selectSignal(writingFeature.selectCommonTemplate);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly timeZone = this.store.selectSignal(sessionFeature.selectTimeZone);
  private readonly papers = this.store.selectSignal(registerFeature.selectPresent);
  /** The learner whose pressed paper of this letter has most pages, where they have not all as many. */
  protected readonly mostPages = computed((): string | null => {
    const own = this.papers().filter(
      ({ templateId, pages }) => templateId === this.letterDraft()?.id && pages,
    );
    const pages = own.map((paper) => paper.pages!);
    const most = Math.max(...pages);
    return new Set(pages).size > 1 ? own.find((paper) => paper.pages === most)!.entryId : null;
  });
  protected readonly trouble = this.store.selectSignal(writingFeature.selectProofTrouble);
  protected readonly learner = computed(() => this.names().get(this.pickedId() ?? '') ?? 'nobody yet');
  protected readonly pages = signal<ShownPage[]>([]);
  protected readonly zooms = ZOOMS;
  protected readonly zoom = signal<Zoom>(
    ZOOMS.find(({ value }) => value === localStorage.getItem(KEPT))?.value ?? 'fit',
  );
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
          return {
            url: this.sanitizer.bypassSecurityTrustUrl(url),
            ratio: `${width} / ${height}`,
            points: width,
          };
        }),
      );
    });
  }

  /** The learner with the longest or the shortest text. */
  protected pickExtreme(which: 'longest' | 'shortest'): void {
    const letter = this.letter();
    const found = letter && extremesOf(letter, this.roll(), dayIn(new Date(), this.timeZone()));
    if (found) this.pick(found[which]);
  }

  /** A place on the paper was clicked: the text goes to the block that stands there. */
  protected go(page: number, { offsetY, target }: MouseEvent): void {
    const proof = this.proof();
    const shown = proof?.pages[page];
    if (!shown) return;
    const y = (offsetY / (target as HTMLElement).clientHeight) * shown.height;
    const block = blockAt(proof.blocks, page, y);
    if (block !== null) this.wanted.emit(block);
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected setZoom(zoom: string): void {
    const known = ZOOMS.find(({ value }) => value === zoom)?.value ?? 'fit';
    this.zoom.set(known);
    localStorage.setItem(KEPT, known);
  }

  /** As wide as there is room, or as many times its true size (CSS Values 3: 96 px to 72 points). */
  protected width({ points }: ShownPage): string {
    const zoom = this.zoom();
    if (zoom === 'fit') return this.wide() ? 'min(100%, 900px)' : '476px';
    return `${(points * 96 * Number(zoom)) / 72 / 100}px`;
  }

  ngOnDestroy(): void {
    this.store.dispatch(writingActions.proofHidden());
    [...this.urls, ...this.stale].forEach((url) => URL.revokeObjectURL(url));
  }
}

/** The last block that begins at or above a place; the first one for places above all. Null where there are none. */
export function blockAt(blocks: Proof['blocks'], page: number, y: number): number | null {
  const above = blocks.filter((one) => one.page < page || (one.page === page && one.y <= y));
  return (above.at(-1) ?? blocks[0])?.block ?? null;
}
