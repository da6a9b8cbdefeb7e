import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { marksOf, type Finding, type FindingPlace } from '@scriptum/core/preflight';
import { presentRoll } from '@scriptum/core/roll';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { checksActions } from '../state/checks';
import { deskActions, deskFeature } from '../state/desk';
import { selectFindings } from '../state/findings';
import { Mend } from './mend';

/** The findings that belong here, as notes in the margin; those about the picked learner first among the lesser ones. */
@Component({
  selector: 'sc-findings-list',
  imports: [Icon, RouterLink],
  template: `
    @for (kind of kinds(); track kind.key) {
      @let finding = kind.first;
      <div
        class="mb-2 border-l-[3px] py-0.5 pl-2 text-small"
        [class]="finding.severity === 'blocking' ? 'border-madder' : 'border-ochre'"
      >
        <p
          class="flex items-center gap-1 font-semibold"
          [class]="finding.severity === 'blocking' ? 'text-madder' : 'text-ochre'"
        >
          @if (finding.severity === 'blocking') {
            <sc-icon name="lucideCircleAlert" [size]="14" />
            {{ finding.blocks === 'press' ? 'Blocks the press' : 'Blocks the dispatch' }}
          } @else {
            <sc-icon name="lucideTriangleAlert" [size]="14" />
            Worth a look
          }
        </p>
        <p>{{ finding.message }}</p>
        <p class="flex flex-wrap gap-x-3">
          @if (target(finding); as entryId) {
            <button type="button" class="link min-h-6" (click)="pick(entryId)">
              {{ finding.entryIds.length === 1 ? 'Go there' : 'Go to the next' }}
            </button>
          }
          @if (!places().includes(finding.place)) {
            <button type="button" class="link min-h-6" (click)="mend.go(finding)">
              {{ mend.nameOf(finding) }}
            </button>
          }
          @if (isPicked(finding)) {
            <button type="button" class="link min-h-6" (click)="right(finding)">It is right</button>
          }
        </p>
        @if (kind.others.length > 0) {
          <details>
            <summary class="link w-fit">{{ kind.others.length }} more of this kind</summary>
            @for (other of kind.others; track $index) {
              <p class="mt-1.5">
                {{ other.message }}
                @if (target(other); as entryId) {
                  <button type="button" class="link min-h-6" (click)="pick(entryId)">
                    {{ other.entryIds.length === 1 ? 'Go there' : 'Go to the next' }}
                  </button>
                }
              </p>
            }
          </details>
        }
      </div>
    } @empty {
      <p class="text-small text-slate">{{ none() }}</p>
    }
    @if (others(); as count) {
      <p class="text-small text-slate">
        Elsewhere
        <a class="link" [routerLink]="checks()">
          {{ count }} more {{ count === 1 ? 'finding' : 'findings' }}
        </a>
      </p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindingsList {
  /** `table` is all that a learner’s line is marked for, wherever it can be mended. */
  readonly places = input.required<readonly (FindingPlace | 'table')[]>();
  /** Only those about this column; all where none is named. */
  readonly columnId = input<string | null>(null);
  readonly none = input('Nothing to mend here.');

  private readonly store = inject(Store);
  protected readonly mend = inject(Mend);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly findings = this.store.selectSignal(selectFindings);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);

  /** Findings of one kind stand together. */
  protected readonly kinds = computed(() => {
    const kinds = new Map<string, { key: string; first: Finding; others: Finding[] }>();
    for (const finding of this.shown()) {
      const key = `${finding.code} ${finding.severity} ${finding.blocks}`;
      const known = kinds.get(key);
      if (known) known.others.push(finding);
      else kinds.set(key, { key, first: finding, others: [] });
    }
    return [...kinds.values()];
  });
  /** Findings that stand beside something else. A mark in the strip may come from one of these. */
  protected readonly others = computed(() =>
    this.columnId() === null ? this.findings().length - this.shown().length : 0,
  );
  protected readonly checks = computed(() => ['/folio', this.folio()?.id ?? '', 'press', 'checks']);
  private readonly shown = computed(() => {
    const rank = (finding: Finding): number =>
      finding.severity === 'blocking' ? 0 : finding.entryIds.includes(this.pickedId() ?? '') ? 1 : 2;
    return this.findings()
      .filter(
        (finding) =>
          this.belongs(finding) && (this.columnId() === null || finding.columnId === this.columnId()),
      )
      .sort((a, b) => rank(a) - rank(b));
  });

  /** The next learner of the finding after the picked one; none where the picked one is the only one. */
  protected target(finding: Finding): string | null {
    const at = finding.entryIds.indexOf(this.pickedId() ?? '');
    const next = finding.entryIds[(at + 1) % finding.entryIds.length];
    return next && next !== this.pickedId() ? next : null;
  }

  private belongs({ place, entryIds, code }: Finding): boolean {
    const places = this.places();
    // What is out of date needs no look, but a press.
    return (
      places.includes(place) || (places.includes('table') && entryIds.length > 0 && code !== 'papers-old')
    );
  }

  /** True where it is about the picked learner alone, so that it can be found right with one click. */
  protected isPicked({ severity, entryIds }: Finding): boolean {
    return severity === 'look' && entryIds.length === 1 && entryIds[0] === this.pickedId();
  }

  protected right(finding: Finding): void {
    const marks = marksOf(finding, presentRoll(this.roll()));
    this.store.dispatch(checksActions.see({ marks, right: true }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }
}
