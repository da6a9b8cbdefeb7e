import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import type { DispatchTiming, MailAccount } from '@scriptum/core/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { sessionFeature } from '../state/session';
import { Entered, Ticked } from '../ui/bound';
import { timingOf, type TimingDraft } from './timing-draft';

/** What a dispatch is sent with besides the messages; a sentence where it cannot be. */
export type TimingChoice = (DispatchTiming & { readonly accountId?: string }) | string;

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** When messages leave, how fast, and through what. */
@Component({
  selector: 'sc-dispatch-timing',
  imports: [Entered, Ticked],
  template: `
    @let d = draft();
    <details class="rounded border border-rule text-small" (toggle)="look()">
      <summary class="cursor-pointer px-3 py-1.5">
        <span class="font-semibold">When they leave:</span>
        {{ says() }}
      </summary>
      <div class="flex flex-col gap-2 border-t border-rule px-3 py-2">
        <label class="flex min-h-6 flex-wrap items-center gap-2">
          <input type="checkbox" [checked]="d.later" (scTicked)="set({ later: $event })" />
          Not before
          <input
            #at
            type="datetime-local"
            class="input min-h-8"
            aria-label="The moment before which none leaves"
            [value]="d.at"
            (change)="set({ at: at.value, later: true })"
          />
        </label>
        <div class="flex min-h-6 flex-wrap items-center gap-2">
          <label class="flex items-center gap-2">
            <input type="checkbox" [checked]="d.hours" (scTicked)="set({ hours: $event })" />
            Only from
          </label>
          <input
            #from
            type="time"
            class="input min-h-8"
            aria-label="From this time on"
            [value]="d.from"
            (change)="set({ from: from.value, hours: true })"
          />
          to
          <input
            #to
            type="time"
            class="input min-h-8"
            aria-label="Up to this time"
            [value]="d.to"
            (change)="set({ to: to.value, hours: true })"
          />
          <span class="text-slate">{{ zone() }}</span>
        </div>
        @if (d.hours) {
          <div class="flex flex-wrap gap-x-3 gap-y-1 pl-6" role="group" aria-label="On which days">
            @for (day of days; track day; let n = $index) {
              <label class="flex min-h-6 items-center gap-1">
                <input
                  type="checkbox"
                  [checked]="d.days.includes(n + 1)"
                  (scTicked)="setDay(n + 1, $event)"
                />
                {{ day }}
              </label>
            }
          </div>
        }
        <label class="flex min-h-6 flex-wrap items-center gap-2">
          <input type="checkbox" [checked]="d.paced" (scTicked)="set({ paced: $event })" />
          At most
          <input
            #pace
            inputmode="numeric"
            maxlength="3"
            class="input min-h-8 w-16"
            aria-label="Messages a minute"
            [value]="d.perMinute"
            (change)="set({ perMinute: pace.value, paced: true })"
          />
          a minute
        </label>
        @if (own().length > 0) {
          <label class="flex min-h-6 flex-wrap items-center gap-2">
            Through
            <select class="input min-h-8 max-w-full" (scEntered)="setAccount($event)">
              <option value="">{{ me()?.post?.name }}</option>
              @for (account of own(); track account.id) {
                <option [value]="account.id">{{ account.name }} ({{ account.address }})</option>
              }
            </select>
          </label>
        }
        @if (wrong()) {
          <p class="text-madder" role="alert">{{ wrong() }}</p>
        }
      </div>
    </details>
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DispatchTimingForm {
  readonly changed = output<TimingChoice>();

  private readonly api = inject(Api);
  protected readonly me = inject(Store).selectSignal(sessionFeature.selectMe);
  protected readonly days = DAYS;
  protected readonly draft = signal<TimingDraft>({
    later: false,
    at: '',
    hours: false,
    from: '08:00',
    to: '17:00',
    days: [1, 2, 3, 4, 5],
    paced: false,
    perMinute: '30',
  });
  private readonly accountId = signal<string | null>(null);
  /** Accounts that are one's own; they can be chosen where mail leaves at all. */
  protected readonly own = signal<readonly MailAccount[]>([]);
  private asked = false;
  private readonly choice = computed(() => timingOf(this.draft(), new Date()));
  protected readonly wrong = computed(() => {
    const choice = this.choice();
    return typeof choice === 'string' ? choice : '';
  });
  /** Where the screen's own clock is another one, whose clock the hours go by. */
  protected readonly zone = computed(() => {
    const zone = this.me()?.staff?.timeZone;
    return zone && zone !== new Intl.DateTimeFormat().resolvedOptions().timeZone
      ? `by the clock of ${zone}`
      : '';
  });
  protected readonly says = computed(() => {
    const { later, at, hours, from, to, paced, perMinute } = this.draft();
    const parts = [
      later && at
        ? `not before ${new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`
        : '',
      hours ? `only from ${from} to ${to}` : '',
      paced ? `${perMinute} a minute` : '',
    ].filter(Boolean);
    return parts.length > 0 ? parts.join(', ') : 'at once';
  });

  /** One's own accounts are asked for once somebody looks. */
  protected look(): void {
    if (this.asked || this.me()?.post?.kind !== 'account') return;
    this.asked = true;
    this.api.postRoom().subscribe({
      next: ({ accounts }) => this.own.set(accounts.filter(({ owner, mine }) => owner !== null && mine)),
      error: () => undefined,
    });
  }

  protected set(part: Partial<TimingDraft>): void {
    this.draft.update((draft) => ({ ...draft, ...part }));
    this.tell();
  }

  protected setDay(day: number, on: boolean): void {
    const days = this.draft().days.filter((one) => one !== day);
    this.set({ days: (on ? [...days, day] : days).sort((a, b) => a - b) });
  }

  protected setAccount(id: string): void {
    this.accountId.set(id || null);
    this.tell();
  }

  private tell(): void {
    const [choice, accountId] = [this.choice(), this.accountId()];
    this.changed.emit(typeof choice === 'string' || !accountId ? choice : { ...choice, accountId });
  }
}
