import { Dialog } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store, type Action } from '@ngrx/store';
import { rollActions, rollFeature, type ContestedChange } from '../state/roll';
import { writingActions, writingFeature, type Draft } from '../state/writing';
import { Icon } from '../ui/icon';
import { BothDialog, WHAT, whenOf, type BothAnswer } from './both-dialog';

/** Something that two changed, and what can be done about it. */
interface Matter {
  readonly sentence: string;
  readonly ways: readonly { readonly name: string; take(): void }[];
}

/** Says that somebody else changed the same text or column, and lets people choose. */
@Component({
  selector: 'sc-overtaken-bar',
  imports: [Icon],
  template: `
    @for (matter of matters(); track matter.sentence) {
      <div
        role="alert"
        class="flex flex-wrap items-center gap-x-3 gap-y-2 border-t-2 border-ochre bg-leaf px-4 py-2"
      >
        <sc-icon name="lucideCircleAlert" [size]="18" class="shrink-0 text-ochre" />
        <p class="min-w-0 grow basis-60">{{ matter.sentence }}</p>
        <span class="flex flex-wrap gap-2">
          @for (way of matter.ways; track way.name) {
            <button type="button" class="btn" (click)="way.take()">{{ way.name }}</button>
          }
        </span>
      </div>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OvertakenBar {
  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  private readonly conflict = this.store.selectSignal(writingFeature.selectConflict);
  private readonly contested = this.store.selectSignal(rollFeature.selectContested);
  private readonly folioId = this.store.selectSignal(writingFeature.selectFolioId);
  protected readonly matters = computed((): Matter[] => {
    const [draft, change] = [this.conflict(), this.contested()];
    return [
      ...(draft?.theirs ? [this.aboutText(draft, draft.theirs)] : []),
      ...(change && change.folioId === this.folioId() ? [this.aboutColumn(change)] : []),
    ];
  });

  private aboutText({ kind }: Draft, { changedBy, changedAt }: NonNullable<Draft['theirs']>): Matter {
    return {
      sentence: `${changedBy ?? 'Somebody else'} changed the ${WHAT[kind]} ${whenOf(changedAt)}, in the same place as you. Yours is not saved yet.`,
      ways: [{ name: 'Look at both', take: () => this.look() }],
    };
  }

  private aboutColumn(contested: ContestedChange): Matter {
    return {
      sentence: `${contested.message} The roll shows theirs.`,
      ways: [
        { name: 'Use mine instead', take: () => this.settle(rollActions.insist({ contested })) },
        { name: 'Leave theirs', take: () => this.settle(rollActions.yield()) },
      ],
    };
  }

  /** The bar goes with the button that was pressed; the focus goes on in the table. */
  private settle(action: Action): void {
    this.store.dispatch(action);
    document.querySelector<HTMLElement>('main [role=grid]')?.focus();
  }

  private look(): void {
    const draft = this.conflict();
    if (!draft) return;
    this.dialog
      .open<BothAnswer>(BothDialog, { data: draft, ariaLabelledBy: 'both-title' })
      .closed.subscribe((take) => {
        if (take) this.store.dispatch(writingActions.settle({ id: draft.id, take }));
      });
  }
}
