import { Dialog } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { rollActions, rollFeature, type ContestedChange } from '../state/roll';
import { writingActions, writingFeature } from '../state/writing';
import { Icon } from '../ui/icon';
import { BothDialog, WHAT, whenOf, type BothAnswer } from './both-dialog';

/** Says that somebody else changed the same text or column, and lets people choose. */
@Component({
  selector: 'sc-overtaken-bar',
  imports: [Icon],
  template: `
    @if (conflict()) {
      <div role="alert" class="flex items-center gap-3 border-t-2 border-ochre bg-leaf px-4 py-2">
        <sc-icon name="lucideCircleAlert" [size]="18" class="shrink-0 text-ochre" />
        <p class="min-w-0">{{ sentence() }}</p>
        <button type="button" class="btn shrink-0" (click)="look()">Look at both</button>
      </div>
    }
    @if (contested(); as c) {
      <div role="alert" class="flex items-center gap-3 border-t-2 border-ochre bg-leaf px-4 py-2">
        <sc-icon name="lucideCircleAlert" [size]="18" class="shrink-0 text-ochre" />
        <p class="min-w-0">{{ c.message }} The roll shows theirs.</p>
        <button type="button" class="btn shrink-0" (click)="insist(c)">Use mine instead</button>
        <button type="button" class="btn shrink-0" (click)="yield()">Leave theirs</button>
      </div>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OvertakenBar {
  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  protected readonly conflict = this.store.selectSignal(writingFeature.selectConflict);
  private readonly change = this.store.selectSignal(rollFeature.selectContested);
  private readonly folioId = this.store.selectSignal(writingFeature.selectFolioId);
  protected readonly contested = computed(() => {
    const change = this.change();
    return change?.folioId === this.folioId() ? change : null;
  });
  protected readonly sentence = computed(() => {
    const draft = this.conflict();
    if (!draft?.theirs) return '';
    const { changedBy, changedAt } = draft.theirs;
    return `${changedBy ?? 'Somebody else'} changed the ${WHAT[draft.kind]} ${whenOf(changedAt)}, in the same place as you. Yours is not saved yet.`;
  });

  protected insist(contested: ContestedChange): void {
    this.store.dispatch(rollActions.insist({ contested }));
  }

  protected yield(): void {
    this.store.dispatch(rollActions.yield());
  }

  protected look(): void {
    const draft = this.conflict();
    if (!draft) return;
    this.dialog
      .open<BothAnswer>(BothDialog, { data: draft, ariaLabelledBy: 'both-title' })
      .closed.subscribe((take) => {
        if (take) this.store.dispatch(writingActions.settle({ id: draft.id, take }));
      });
  }
}
