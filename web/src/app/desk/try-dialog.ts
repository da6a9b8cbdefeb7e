import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { difficultEntries } from '@scriptum/core/preflight';
import { say } from '@scriptum/core/sentences';
import { Api, troubleOf } from '../api/api';
import { deskFeature } from '../state/desk';
import { selectFindings, selectGetsPaper, selectShown } from '../state/findings';
import { sessionFeature } from '../state/session';
import { selectSorter } from '../state/sorting';
import { whenSaved } from '../state/when-saved';
import { Ticked } from '../ui/bound';

/** Learners of one try. */
const MOST = 40;

type Choice = 'picked' | 'difficult' | 'shown' | 'range';

/** Papers as they would come out, mailed to oneself: of one, of some, or of those that are difficult. */
@Component({
  selector: 'sc-try-dialog',
  imports: [Ticked],
  template: `
    <h2 id="try-title" class="text-title">Try it on yourself</h2>
    <p class="text-small">
      The papers as they would come out now go to
      <b>{{ email() }}</b>
      and to nobody else. No family gets anything, and nothing is kept.
    </p>
    <fieldset class="flex flex-col gap-1.5">
      <legend class="label mb-1">Whose papers</legend>
      @for (one of choices(); track one.value) {
        <label class="flex items-center gap-2">
          <input
            type="radio"
            name="try-who"
            [checked]="choice() === one.value"
            [disabled]="one.count === 0"
            (change)="choice.set(one.value)"
          />
          {{ one.name }}
          <span class="text-small text-slate">{{ one.count }}</span>
        </label>
      }
      @if (choice() === 'range') {
        <span class="flex items-center gap-2 pl-6 text-small">
          from
          <input
            #from
            type="number"
            class="input w-20"
            min="1"
            aria-label="From number"
            [value]="range()[0]"
            (input)="setRange(0, from.value)"
          />
          to
          <input
            #to
            type="number"
            class="input w-20"
            min="1"
            aria-label="To number"
            [value]="range()[1]"
            (input)="setRange(1, to.value)"
          />
          of the roll
        </span>
      }
    </fieldset>
    <ul
      class="min-h-0 overflow-y-auto rounded border border-rule text-small"
      tabindex="0"
      aria-label="Who is tried"
    >
      @for (line of lines(); track line.id) {
        <li class="flex items-baseline gap-2 border-b border-rule px-2 py-1 last:border-b-0">
          <label class="flex min-w-0 items-baseline gap-2">
            <input type="checkbox" [checked]="!without().has(line.id)" (scTicked)="tick(line.id, $event)" />
            <bdi class="truncate">{{ line.name }}</bdi>
          </label>
          <span class="min-w-0 grow truncate text-right text-slate" [title]="line.why">{{ line.why }}</span>
        </li>
      } @empty {
        <li class="px-2 py-1 text-slate">Nobody of these gets a paper.</li>
      }
    </ul>
    <label class="flex items-start gap-2 text-small">
      <input type="checkbox" class="mt-0.5" [checked]="messages()" (scTicked)="messages.set($event)" />
      <span>With the cover note, as each family would get it, marked as a try</span>
    </label>
    @if (chosen().length > most) {
      <p class="text-small text-ochre" role="status">
        A try takes {{ most }} learners at most; the first {{ most }} of these are tried.
      </p>
    }
    @if (trouble(); as message) {
      <p class="text-small text-madder" role="alert">{{ message }}</p>
    }
    @if (done(); as message) {
      <p class="text-small" role="status">{{ message }}</p>
    }
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">{{ done() ? 'Close' : 'Cancel' }}</button>
      <button type="button" class="btn primary" [disabled]="busy() || chosen().length === 0" (click)="send()">
        {{ busy() ? 'Setting them …' : 'Send the try to yourself' }}
      </button>
    </div>
  `,
  host: { class: 'panel flex max-h-[92vh] w-[560px] max-w-[95vw] flex-col gap-3 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TryDialog {
  protected readonly dialog = inject<DialogRef<void>>(DialogRef);
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly gets = this.store.selectSignal(selectGetsPaper);
  private readonly shown = this.store.selectSignal(selectShown);
  private readonly findings = this.store.selectSignal(selectFindings);
  private readonly sorter = this.store.selectSignal(selectSorter);
  private readonly me = this.store.selectSignal(sessionFeature.selectMe);
  protected readonly email = computed(() => this.me()?.staff?.email ?? 'yourself');
  protected readonly most = MOST;
  protected readonly choice = signal<Choice>('difficult');
  protected readonly range = signal<readonly [number, number]>([1, 5]);
  protected readonly without = signal<ReadonlySet<string>>(new Set());
  /** True for the messages, else the papers alone: what the station is about. */
  protected readonly messages = signal(/\/(note|register)/.test(inject(Router).url));
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  protected readonly done = signal('');

  private readonly there = computed(() => {
    const { columns, entries } = this.roll();
    const gets = this.gets();
    const sorter = this.sorter();
    return { columns, entries: entries.filter((entry) => gets(entry) && sorter(entry).templates.length > 0) };
  });
  private readonly difficult = computed(() =>
    difficultEntries(this.there(), this.findings(), this.sorter()).map(({ entry, why }) => ({
      id: entry.id,
      why: why.map((one) => say(one)).join(', '),
    })),
  );
  private readonly ids = computed((): Readonly<Record<Choice, readonly { id: string; why: string }[]>> => {
    const there = new Set(this.there().entries.map(({ id }) => id));
    const plain = (ids: readonly string[]) =>
      ids.filter((id) => there.has(id)).map((id) => ({ id, why: '' }));
    const [from, to] = this.range();
    return {
      picked: plain(this.picked() ? [this.picked()!.id] : []),
      difficult: this.difficult(),
      shown: plain(this.shown().map(({ entry }) => entry.id)),
      range: plain(
        this.roll()
          .entries.filter(({ position }) => position + 1 >= from && position + 1 <= to)
          .map(({ id }) => id),
      ),
    };
  });
  protected readonly choices = computed(() => {
    const ids = this.ids();
    const name = this.names().get(this.picked()?.id ?? '') || 'the picked learner';
    return [
      { value: 'difficult' as const, name: 'The difficult ones', count: ids.difficult.length },
      { value: 'picked' as const, name, count: ids.picked.length },
      { value: 'shown' as const, name: 'All that the strip shows', count: ids.shown.length },
      { value: 'range' as const, name: 'Some numbers of the roll', count: this.roll().entries.length },
    ];
  });
  protected readonly lines = computed(() =>
    this.ids()
      [this.choice()].slice(0, 200)
      .map(({ id, why }) => ({ id, why, name: this.names().get(id) || 'no name' })),
  );
  protected readonly chosen = computed(() =>
    this.ids()
      [this.choice()].map(({ id }) => id)
      .filter((id) => !this.without().has(id)),
  );

  protected setRange(at: 0 | 1, text: string): void {
    const number = Math.max(1, Math.floor(Number(text)) || 1);
    this.range.update(([from, to]) => (at === 0 ? [number, to] : [from, number]));
  }

  protected tick(id: string, ticked: boolean): void {
    this.without.update((without) => {
      const next = new Set(without);
      if (ticked) next.delete(id);
      else next.add(id);
      return next;
    });
  }

  protected send(): void {
    this.busy.set(true);
    this.trouble.set('');
    this.done.set('');
    // What is on screen is tried.
    whenSaved(this.store).subscribe(({ unsaved }) => {
      if (unsaved) {
        this.failed(`${unsaved.message} Nothing was sent.`);
        return;
      }
      this.api.tryPapers(this.folio()!.id, this.chosen().slice(0, MOST), this.messages()).subscribe({
        next: ({ to, papers, messages }) => {
          this.busy.set(false);
          const what = papers === 1 ? '1 paper' : `${papers} papers`;
          this.done.set(`${what} went to ${to}${messages > 1 ? ` in ${messages} messages` : ''}.`);
        },
        error: (error: unknown) => this.failed(troubleOf(error).message),
      });
    });
  }

  private failed(message: string): void {
    this.busy.set(false);
    this.trouble.set(message);
  }
}
