import { CdkMenu, CdkMenuItem, CdkMenuTrigger } from '@angular/cdk/menu';
import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { PressKind } from '@scriptum/core/contract';
import { deskFeature } from '../state/desk';
import { selectShown } from '../state/findings';
import { selectPressCounts } from '../state/press-counts';
import { registerActions } from '../state/register';
import { Icon } from '../ui/icon';

const KINDS: readonly { readonly kind: PressKind; readonly name: string }[] = [
  { kind: 'new', name: 'new' },
  { kind: 'old', name: 'out of date' },
  { kind: 'failed', name: 'that failed' },
];

/** Presses what is due, or a part of it; says how many are new, out of date and up to date. */
@Component({
  selector: 'sc-press-menu',
  imports: [CdkMenu, CdkMenuItem, CdkMenuTrigger, DecimalPipe, Icon],
  template: `
    <button
      type="button"
      class="btn primary rounded-r-none!"
      [disabled]="!may() || total() === 0"
      [title]="sum()"
      (click)="press()"
    >
      @if (total() === 0 && counts().all > 0) {
        All up to date
      } @else {
        Press {{ total() === 1 ? '1 paper' : (isAll() ? 'all ' : '') + (total() | number) + ' papers' }}
      }
    </button>
    <button
      type="button"
      class="btn primary rounded-l-none! border-l-leaf! px-1.5!"
      aria-label="What is pressed"
      title="What is pressed"
      [disabled]="counts().all === 0"
      [cdkMenuTriggerFor]="menu"
    >
      <sc-icon name="lucideChevronUp" [size]="16" />
    </button>
    <ng-template #menu>
      <div cdkMenu class="panel flex min-w-64 flex-col py-1 text-small" aria-label="What is pressed">
        <p class="px-3 py-1 text-slate" role="presentation">{{ sum() }}</p>
        <button
          cdkMenuItem
          type="button"
          class="menu-line"
          [cdkMenuItemDisabled]="!may() || picked() === null"
          (cdkMenuItemTriggered)="pressPicked()"
        >
          Press the one of {{ picked()?.name ?? 'the picked learner' }}
        </button>
        <button cdkMenuItem type="button" class="menu-line" (cdkMenuItemTriggered)="tried.emit()">
          Try some on yourself …
        </button>
        @for (one of parts(); track one.kind) {
          <button
            cdkMenuItem
            type="button"
            class="menu-line"
            [cdkMenuItemDisabled]="!may() || one.count === 0"
            (cdkMenuItemTriggered)="press([one.kind])"
          >
            Press {{ one.count | number }} {{ one.name }}
          </button>
        }
        @if (shown().count < total()) {
          <button
            cdkMenuItem
            type="button"
            class="menu-line"
            [cdkMenuItemDisabled]="!may() || shown().count === 0"
            (cdkMenuItemTriggered)="pressShown()"
          >
            Press {{ shown().count | number }} of those that the strip shows
          </button>
        }
      </div>
    </ng-template>
  `,
  styles: `
    .menu-line {
      min-height: 32px;
      padding: 4px 12px;
      text-align: left;
    }
    .menu-line:hover,
    .menu-line:focus-visible {
      background: var(--wash);
    }
    .menu-line[aria-disabled='true'] {
      color: var(--slate);
      opacity: 0.7;
    }
  `,
  host: { class: 'inline-flex' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PressMenu {
  /** False while nothing can be pressed. */
  readonly may = input.required<boolean>();
  readonly tried = output();

  private readonly store = inject(Store);
  protected readonly counts = this.store.selectSignal(selectPressCounts);
  private readonly lines = this.store.selectSignal(selectShown);
  private readonly entry = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly picked = computed(() => {
    const id = this.entry()?.id;
    return id === undefined ? null : { id, name: this.names().get(id) || 'the picked learner' };
  });
  private readonly filter = this.store.selectSignal(deskFeature.selectFilter);
  protected readonly total = computed(() => {
    const { due } = this.counts();
    return due.new + due.old + due.failed;
  });
  protected readonly isAll = computed(() => this.total() === this.counts().all);
  protected readonly parts = computed(() =>
    KINDS.map((one) => ({ ...one, count: this.counts().due[one.kind] })).filter(
      ({ kind, count }) => count > 0 || kind !== 'failed',
    ),
  );
  /** Those that the strip shows, where it does not show all. */
  protected readonly shown = computed(() => {
    const { dueOf } = this.counts();
    const entryIds = this.lines()
      .map(({ entry }) => entry.id)
      .filter((id) => dueOf.has(id));
    return { entryIds, count: entryIds.reduce((sum, id) => sum + dueOf.get(id)!, 0), filter: this.filter() };
  });
  protected readonly sum = computed(() => {
    const { due, upToDate } = this.counts();
    const parts = [
      `${due.new} new`,
      `${due.old} out of date`,
      ...(due.failed > 0 ? [`${due.failed} failed`] : []),
      `${upToDate} up to date`,
    ];
    return parts.join(' · ');
  });

  protected press(only?: PressKind[]): void {
    this.store.dispatch(registerActions.press({ entryIds: null, ...(only ? { only } : {}) }));
  }

  protected pressPicked(): void {
    const picked = this.picked();
    if (picked) this.store.dispatch(registerActions.press({ entryIds: [picked.id] }));
  }

  protected pressShown(): void {
    this.store.dispatch(registerActions.press({ entryIds: [...this.shown().entryIds] }));
  }
}
