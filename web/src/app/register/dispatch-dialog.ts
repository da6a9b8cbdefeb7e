import { Ticked } from '../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import type { DispatchPlan } from '@scriptum/core/contract';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../state/session';
import { DispatchTimingForm, type TimingChoice } from './dispatch-timing';

export interface DispatchChoice {
  readonly again: boolean;
  readonly corrected: boolean;
  readonly timing: Exclude<TimingChoice, string>;
}

/** Says exactly who gets mail, before anything leaves. */
@Component({
  imports: [DispatchTimingForm, Ticked],
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
  protected readonly corrected = signal(false);
  private readonly timing = signal<TimingChoice>({});
  protected readonly timed = computed(() => typeof this.timing() !== 'string');
  protected readonly withoutMail = peopleWithout(this.plan.noAddress);
  private readonly messages = computed(() => [
    ...this.plan.messages,
    ...(this.again() ? this.plan.messagesAgain : []),
    ...(this.corrected() ? this.plan.messagesCorrected : []),
  ]);
  protected readonly lines = computed(() =>
    this.messages().map(({ note, learners, to, cc, bcc }, n) => ({
      key: n,
      note: note ?? '',
      learners: listed(learners),
      to: to.join(', '),
      copies: [
        cc.length > 0 ? `copy to ${cc.join(', ')}` : '',
        bcc.length > 0 ? `blind copy to ${bcc.join(', ')}` : '',
      ]
        .filter(Boolean)
        .join('; '),
    })),
  );
  protected setTiming(timing: TimingChoice): void {
    this.timing.set(timing);
  }

  protected send(): void {
    const timing = this.timing();
    if (typeof timing !== 'string')
      this.dialog.close({ again: this.again(), corrected: this.corrected(), timing });
  }

  protected readonly count = computed(() => this.messages().length);
  /** How many messages of each cover note, where there are several. */
  protected readonly notes = computed(() => {
    const counts = new Map<string, number>();
    for (const { note } of this.messages()) if (note) counts.set(note, (counts.get(note) ?? 0) + 1);
    return counts.size > 1
      ? [...counts].map(([note, n]) => `${n.toLocaleString('en')} “${note}”`).join(', ')
      : '';
  });
  /** How often each address gets a message. */
  private readonly addresses = computed(() =>
    countOf(this.messages().flatMap(({ to, cc, bcc }) => [...to, ...cc, ...bcc])),
  );
  protected readonly title = computed(() => {
    const [messages, addresses] = [this.count(), this.addresses().size];
    if (messages === 0) return 'Nobody is left to write to';
    return `${some(messages, 'message', 'messages')} to ${some(addresses, 'address', 'addresses')}`;
  });
  /** Where the addresses are: those of most first. */
  protected readonly domains = computed(() => {
    const domains = countOf([...this.addresses().keys()].map((address) => address.split('@')[1] ?? ''));
    const sorted = [...domains].sort(([, a], [, b]) => b - a);
    const shown = sorted
      .slice(0, DOMAINS_MOST)
      .map(([domain, n]) => `${n.toLocaleString('en')} at ${domain}`);
    const more = sorted.length - shown.length;
    return [
      ...shown,
      ...(more > 0 ? [`the others at ${some(more, 'more domain', 'more domains')}`] : []),
    ].join(', ');
  });
  /** Addresses to which more than one of the messages goes. */
  protected readonly shared = computed(
    () => [...countOf(this.messages().flatMap(({ to }) => to)).values()].filter((n) => n > 1).length,
  );
}

const DOMAINS_MOST = 3;
const some = (n: number, one: string, several: string): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : several}`;

/** How often each stands there, whatever the case. */
function countOf(all: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const one of all) counts.set(one.toLowerCase(), (counts.get(one.toLowerCase()) ?? 0) + 1);
  return counts;
}

/** Isolates (Unicode UAX #9) keep a right-to-left name from turning its neighbours around. */
const listed = (names: readonly string[]): string => names.map((name) => `\u2068${name}\u2069`).join(', ');

/** Names with the reason of each; many are counted. */
function peopleWithout(people: DispatchPlan['noAddress'], most = 6): string {
  // Isolates (Unicode UAX #9) keep a right-to-left name from turning its neighbours around.
  const shown = people.slice(0, most).map(({ learner, reason }) => `\u2068${learner}\u2069 (${reason})`);
  const more = people.length - shown.length;
  return more > 0 ? `${shown.join(', ')} and ${more} more` : shown.join(', ');
}
