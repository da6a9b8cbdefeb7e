import { Ticked } from '../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import type { DispatchPlan } from '@scriptum/core/contract';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../state/session';

export interface DispatchChoice {
  readonly again: boolean;
}

/** Says exactly who gets mail, before anything leaves. */
@Component({
  imports: [Ticked],
  selector: 'sc-dispatch-dialog',
  templateUrl: './dispatch-dialog.html',
  host: { class: 'panel flex max-h-[88vh] w-130 max-w-[92vw] flex-col gap-3 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DispatchDialog {
  protected readonly plan = inject<DispatchPlan>(DIALOG_DATA);
  protected readonly dialog = inject<DialogRef<DispatchChoice>>(DialogRef);
  protected readonly me = inject(Store).selectSignal(sessionFeature.selectMe);
  protected readonly again = signal(false);
  protected readonly withoutMail = peopleWithout(this.plan.noAddress);
  protected readonly people = computed(() => [...this.plan.send, ...(this.again() ? this.plan.again : [])]);
  protected readonly count = computed(() => this.people().length);
  /** Addresses that get more than one of the messages. */
  protected readonly shared = computed(() => {
    const counts = new Map<string, number>();
    for (const { to } of this.people()) counts.set(to.toLowerCase(), (counts.get(to.toLowerCase()) ?? 0) + 1);
    return [...counts.values()].filter((n) => n > 1).length;
  });
}

/** Names with the reason of each; many are counted. */
function peopleWithout(people: DispatchPlan['noAddress'], most = 6): string {
  // Isolates (Unicode UAX #9) keep a right-to-left name from turning its neighbours around.
  const shown = people.slice(0, most).map(({ learner, reason }) => `\u2068${learner}\u2069 (${reason})`);
  const more = people.length - shown.length;
  return more > 0 ? `${shown.join(', ')} and ${more} more` : shown.join(', ');
}
