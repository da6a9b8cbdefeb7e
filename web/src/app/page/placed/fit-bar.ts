import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Fits } from '@scriptum/core/contract';
import { deskActions } from '../../state/desk';

/** The states in the order in which they are told, with words for the number of learners that have them. */
const STATES = [
  ['fits', 'fits', 'bg-verdigris'],
  ['shrinks', 'set smaller', 'bg-woad'],
  ['goes-on', 'goes on', 'bg-woad'],
  ['long', 'too long', 'bg-madder'],
  ['too-long', 'too long for a code', 'bg-madder'],
  ['letters', 'letters without a bar', 'bg-madder'],
  ['blank', 'blank', 'bg-rule'],
] as const;

/** How the text of a place fits for everybody: a thin bar, or in words that show who it is. */
@Component({
  selector: 'sc-fit-bar',
  template: `
    @if (words()) {
      <p class="flex flex-wrap items-baseline gap-x-2 text-small" role="status">
        @for (part of parts(); track part.state) {
          <button
            type="button"
            class="link min-h-6"
            [class]="part.bad ? 'link min-h-6 font-semibold text-madder!' : 'link min-h-6'"
            (click)="show(part)"
          >
            {{ part.label }} {{ part.ids.length }}
          </button>
        }
        @if (fits().least > 0 && smaller()) {
          <span class="text-slate">the smallest at {{ least() }} pt</span>
        }
      </p>
    } @else {
      <span class="flex h-[3px] w-full overflow-hidden rounded-full" aria-hidden="true">
        @for (part of parts(); track part.state) {
          <span [class]="'basis-0 ' + part.colour" [style.flex-grow]="part.ids.length"></span>
        }
      </span>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FitBar {
  readonly fits = input.required<Fits['boxes'][number]>();
  readonly name = input('');
  /** In words, each of which shows its learners; else as a bar. */
  readonly words = input(false);
  private readonly store = inject(Store);
  protected readonly parts = computed(() =>
    STATES.flatMap(([state, label, colour]) => {
      const ids = this.fits().who[state] ?? [];
      return ids.length > 0 ? [{ state, label, colour, ids, bad: colour === 'bg-madder' }] : [];
    }),
  );
  protected readonly smaller = computed(() => (this.fits().who.shrinks?.length ?? 0) > 0);
  protected readonly least = computed(() => (Math.round(this.fits().least * 10) / 10).toLocaleString());

  protected show({ label, ids }: { label: string; ids: readonly string[] }): void {
    this.store.dispatch(
      deskActions.showSome({ some: { label: `${this.name()}: ${label}`, entryIds: [...ids] } }),
    );
  }
}
