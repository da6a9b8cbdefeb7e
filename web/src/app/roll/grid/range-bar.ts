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
import { blankEntry, isIn, type Entry } from '@scriptum/core/roll';
import { newId } from '../../api/new-id';
import { deskActions, deskFeature } from '../../state/desk';
import { registerFeature } from '../../state/register';
import { rollActions, rollFeature } from '../../state/roll';
import { Icon } from '../../ui/icon';
import { ReasonForm } from '../../ui/reason-form';
import type { Box } from './range';

/** Below the table: what can be done with the rows that are chosen, and a new one. */
@Component({
  selector: 'sc-range-bar',
  imports: [Icon, ReasonForm],
  templateUrl: './range-bar.html',
  host: { class: 'block border-t border-rule text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RangeBar {
  /** The entries that the table shows, in its order. */
  readonly entries = input.required<readonly Entry[]>();
  readonly choice = input.required<Box>();
  /** Asks the table to do it, since it knows the cells. */
  readonly wish = output<'fill down' | 'clear' | 'focus'>();

  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectWritten);
  private readonly papers = this.store.selectSignal(registerFeature.selectPresent);
  private readonly narrowed = this.store.selectSignal(rollFeature.selectNarrowed);
  protected readonly chosen = computed(() => {
    const { top, bottom } = this.choice();
    return this.entries().slice(top, bottom + 1);
  });
  protected readonly cells = computed(() => {
    const { left, right } = this.choice();
    return this.chosen().length * (right - left + 1);
  });
  protected readonly inside = computed(() => this.chosen().filter(isIn));
  protected readonly outside = computed(() => this.chosen().filter((entry) => !isIn(entry)));
  protected readonly asking = linkedSignal({ source: this.chosen, computation: () => false });

  protected leaveOut(reason: string): void {
    const entries = this.inside();
    this.asking.set(false);
    this.change(
      { leftOut: entries.map(({ id }) => ({ entryId: id, reason })) },
      `leaving out ${people(entries.length)}`,
    );
  }

  protected takeBack(): void {
    const entries = this.outside();
    this.change(
      { leftOut: entries.map(({ id }) => ({ entryId: id, reason: null })) },
      `taking ${people(entries.length)} back`,
    );
  }

  protected takeAway(): void {
    const entries = this.chosen();
    const made = new Set(this.papers().map(({ entryId }) => entryId));
    const kept = entries.filter(({ id }) => made.has(id)).length;
    if (kept > 0) {
      this.notice(
        `Papers were made for ${kept === entries.length ? (kept === 1 ? 'this entry' : 'these entries') : `${kept} of these`}, so nothing was taken away. Leave them out instead.`,
      );
      this.wish.emit('focus');
      return;
    }
    this.change({ taken: entries.map(({ id }) => id) }, `taking ${people(entries.length)} away`);
    if (entries.some(({ byHand }) => !byHand))
      this.notice(
        `Taken away. A newer version of the sheet would bring ${entries.length === 1 ? 'it' : 'them'} in again.`,
      );
  }

  /** Adds a blank row at the end and goes there. What narrows the table is taken away, for the row to be seen. */
  protected add(): void {
    const entry = blankEntry(this.roll(), newId());
    this.change({ added: [entry] }, 'a new entry');
    if (this.narrowed())
      this.store.dispatch(rollActions.lookDifferent({ view: { find: '', who: 'all', filters: {} } }));
    this.store.dispatch(deskActions.pick({ entryId: entry.id }));
  }

  private change(patch: Parameters<typeof rollActions.change>[0]['patch'], what: string): void {
    this.store.dispatch(rollActions.change({ patch, what }));
    this.wish.emit('focus');
  }

  private notice(text: string): void {
    this.store.dispatch(rollActions.notice({ text }));
  }

  protected cancel(): void {
    this.asking.set(false);
    this.wish.emit('focus');
  }
}

const people = (count: number): string => (count === 1 ? 'an entry' : `${count} entries`);
