import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { LIKELY, type Blank, type BlankReason } from '@scriptum/core/blanks';
import type { Placed } from '@scriptum/core/template';
import { forkJoin } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { deskActions, deskFeature } from '../../state/desk';
import { Ticked } from '../../ui/bound';
import { offersOf, type Offer } from './blank-boxes';

const REASONS: Readonly<Record<BlankReason, string>> = {
  field: 'form field',
  leaders: 'dots or underscores',
  line: 'line to write on',
  box: 'box',
  square: 'square to tick',
  cells: 'cells for letters',
  table: 'empty cell of a table',
};

/** Where the form under the pages has blanks: offered with why, likely ones chosen, to be put in as places. */
@Component({
  selector: 'sc-blanks-panel',
  imports: [Ticked],
  template: `
    @if (!asked()) {
      <button type="button" class="btn" (click)="look()">Look for blanks in the form</button>
    } @else if (offers().length === 0) {
      <p class="text-small text-slate" role="status">
        {{
          busy()
            ? 'Looking …'
            : 'No blanks are found on which no place stands yet. Put places on the form by hand.'
        }}
      </p>
    } @else {
      <p class="label mb-1" role="status">
        {{ offers().length === 1 ? 'One blank is found' : offers().length + ' blanks are found' }}
      </p>
      <ul class="-mx-1 max-h-60 overflow-y-auto" aria-label="Blanks of the form" tabindex="-1">
        @for (offer of offers(); track offer.id) {
          <li class="px-1 hover:bg-wash" (mouseenter)="pointed.emit(offer)" (mouseleave)="pointed.emit(null)">
            <label class="flex min-h-6 items-start gap-1.5 text-small">
              <input
                type="checkbox"
                class="mt-1"
                [checked]="chosen().has(offer.id)"
                (scTicked)="choose(offer.id, $event)"
                (focus)="pointed.emit(offer)"
                (blur)="pointed.emit(null)"
              />
              <span class="min-w-0 grow">
                <bdi class="block truncate">{{ offer.blank.label || 'without a label' }}</bdi>
                <span class="block truncate text-[12px] text-slate">
                  {{ reasons[offer.blank.reason] }}
                  @if (offer.column; as column) {
                    ·
                    <bdi class="font-semibold text-verdigris">{{ column.title }}</bdi>
                  }
                </span>
              </span>
            </label>
          </li>
        }
      </ul>
      <p class="mt-1 flex flex-wrap items-center gap-3">
        <button type="button" class="btn" [disabled]="chosen().size === 0" (click)="take()">
          Put in {{ chosen().size === 1 ? 'one place' : chosen().size + ' places' }}
        </button>
        <button type="button" class="link min-h-6 text-small" (click)="all()">
          {{ chosen().size === offers().length ? 'None' : 'All' }}
        </button>
      </p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlanksPanel {
  readonly template = input.required<Placed>();
  readonly taken = output<readonly Offer[]>();
  /** The one that is pointed at, to be shown on the paper. */
  readonly pointed = output<Offer | null>();

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  protected readonly reasons = REASONS;
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  private readonly blanks = signal<ReadonlyMap<string, readonly (readonly Blank[])[]>>(new Map());
  /** What was said of single ones; the others are chosen where they are likely. */
  private readonly said = signal<ReadonlyMap<string, boolean>>(new Map());
  protected readonly offers = computed(() =>
    offersOf(this.template(), this.blanks(), this.roll().columns, this.roll().entries),
  );
  protected readonly chosen = computed(
    () =>
      new Set(
        this.offers()
          .filter((offer) => this.said().get(offer.id) ?? isLikely(offer))
          .map(({ id }) => id),
      ),
  );
  /** The PDFs under the pages. */
  private readonly grounds = computed(() =>
    [...new Set(this.template().pages.flatMap(({ ground }) => ground?.asset ?? []))].join(' '),
  );

  constructor() {
    effect(() => {
      this.grounds();
      this.asked.set(false);
      this.blanks.set(new Map());
      this.said.set(new Map());
    });
  }

  protected look(): void {
    const folio = this.folio();
    const ids = this.grounds().split(' ').filter(Boolean);
    if (!folio || ids.length === 0) return;
    this.asked.set(true);
    this.busy.set(true);
    forkJoin(ids.map((id) => this.api.ground(folio.id, id))).subscribe({
      next: (grounds) => {
        this.busy.set(false);
        this.blanks.set(new Map(grounds.map(({ id, about }) => [id, about.blanks ?? []])));
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.asked.set(false);
        this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
      },
    });
  }

  protected choose(id: string, yes: boolean): void {
    this.said.update((said) => new Map(said).set(id, yes));
  }

  protected all(): void {
    const yes = this.chosen().size < this.offers().length;
    this.said.set(new Map(this.offers().map(({ id }) => [id, yes])));
  }

  protected take(): void {
    const chosen = this.chosen();
    this.pointed.emit(null);
    this.taken.emit(this.offers().filter(({ id }) => chosen.has(id)));
  }
}

/** A mark that no cell speaks of would stand for nobody: somebody has to say for whom first. */
const isLikely = ({ blank, column }: Offer): boolean =>
  blank.score >= LIKELY && (blank.kind !== 'tick' || column !== null);
