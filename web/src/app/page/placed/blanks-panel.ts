import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { BlankReason } from '@scriptum/core/blanks';
import type { Placed } from '@scriptum/core/template';
import { deskFeature } from '../../state/desk';
import { Ticked } from '../../ui/bound';
import { isLikely, offersOf, tablesOf, type Offer } from './blank-boxes';
import { Forms, groundsOf } from './forms';

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
                  @for (name of offer.names; track name.id) {
                    ·
                    <bdi class="font-semibold text-verdigris">{{ name.title }}</bdi>
                  }
                </span>
              </span>
            </label>
            @if (tableAt().get(offer.id); as table) {
              <button type="button" class="link ml-5 min-h-6 text-small" (click)="chooseAll(table)">
                {{ isChosen(table) ? 'None' : 'All' }} of the {{ table.length }} cells of this table
              </button>
            }
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

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  protected readonly reasons = REASONS;
  private readonly blanks = inject(Forms).blanks;
  /** The PDFs under the pages. With other ones all begins anew. */
  private readonly grounds = computed(() => groundsOf(this.template()).join(' '));
  protected readonly asked = linkedSignal({ source: this.grounds, computation: () => false });
  protected readonly busy = computed(() => groundsOf(this.template()).some((id) => !this.blanks().has(id)));
  /** What was said of single ones; the others are chosen where they are likely. */
  private readonly said = linkedSignal({
    source: this.grounds,
    computation: (): ReadonlyMap<string, boolean> => new Map(),
  });
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
  /** The cells of each table, at the first of them. */
  protected readonly tableAt = computed(
    () => new Map(tablesOf(this.offers()).map((table) => [table[0]!.id, table])),
  );

  protected look(): void {
    this.asked.set(true);
  }

  protected choose(id: string, yes: boolean): void {
    this.said.update((said) => new Map(said).set(id, yes));
  }

  protected all(): void {
    this.chooseAll(this.offers());
  }

  protected isChosen(offers: readonly Offer[]): boolean {
    return offers.every(({ id }) => this.chosen().has(id));
  }

  protected chooseAll(offers: readonly Offer[]): void {
    const yes = !this.isChosen(offers);
    this.said.update((said) => new Map([...said, ...offers.map(({ id }) => [id, yes] as const)]));
  }

  protected take(): void {
    const chosen = this.chosen();
    this.pointed.emit(null);
    this.taken.emit(this.offers().filter(({ id }) => chosen.has(id)));
  }
}
