import { Entered } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { WHOLE_NAME, type JoinSpec, type NearMatch } from '@scriptum/core/sources';
import { bringingInActions, bringingInFeature } from '../state/bringing-in';
import { deskFeature } from '../../state/desk';

type Summary = JoinSpec['summaries'][number];

const HOWS: readonly { readonly how: Summary['how']; readonly name: string }[] = [
  { how: 'sum', name: 'Sum' },
  { how: 'mean', name: 'Mean' },
  { how: 'count', name: 'Count' },
  { how: 'latest', name: 'Latest' },
  { how: 'list', name: 'List' },
];

/** How a second sheet is matched to the roll, who was found, and what it gives. */
@Component({
  imports: [Entered],
  selector: 'sc-join-form',
  templateUrl: './join-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class JoinForm {
  readonly spec = input.required<JoinSpec>();

  private readonly store = inject(Store);
  protected readonly state = this.store.selectSignal(bringingInFeature.selectBringingInState);
  protected readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly hows = HOWS;
  protected readonly wholeName = WHOLE_NAME;
  protected readonly titles = computed(() => this.state().view?.columns.map(({ title }) => title) ?? []);
  protected readonly others = computed(() =>
    this.titles().filter((title) => !this.spec().right.includes(title)),
  );
  protected readonly lone = computed(() =>
    (this.state().join?.loneEntries ?? []).map((id) => this.names().get(id) ?? ''),
  );
  protected readonly pairs = computed(() =>
    this.spec().left.map((left, n) => ({ left, right: this.spec().right[n]!, n })),
  );

  private change(change: Partial<JoinSpec>): void {
    this.store.dispatch(bringingInActions.joinBy({ spec: { ...this.spec(), ...change } }));
  }

  protected setLeft(n: number, id: string): void {
    this.change({ left: this.spec().left.map((one, at) => (at === n ? id : one)), near: [] });
  }

  protected setRight(n: number, title: string): void {
    this.change({ right: this.spec().right.map((one, at) => (at === n ? title : one)), near: [] });
  }

  protected addPair(): void {
    const left = this.roll().columns.find(({ id }) => !this.spec().left.includes(id));
    const right = this.others()[0];
    if (left && right)
      this.change({ left: [...this.spec().left, left.id], right: [...this.spec().right, right], near: [] });
  }

  protected dropPair(n: number): void {
    const without = <T>(list: readonly T[]): T[] => list.filter((_, at) => at !== n);
    this.change({ left: without(this.spec().left), right: without(this.spec().right), near: [] });
  }

  protected answer(match: NearMatch, same: boolean): void {
    this.change({ near: [...this.spec().near, { entry: match.entryKey, row: match.rowKey, same }] });
  }

  protected answerAll(same: boolean): void {
    const near = (this.state().join?.near ?? []).map(({ entryKey, rowKey }) => ({
      entry: entryKey,
      row: rowKey,
      same,
    }));
    this.change({ near: [...this.spec().near, ...near] });
  }

  protected setShape(shape: JoinSpec['shape']): void {
    this.change({ shape });
  }

  protected takes(title: string): boolean {
    return this.spec().take?.includes(title) ?? true;
  }

  protected toggleTake(title: string): void {
    const take = this.others().filter((one) => (one === title ? !this.takes(one) : this.takes(one)));
    this.change({ take });
  }

  protected has(of: string, how: Summary['how']): boolean {
    return this.spec().summaries.some((one) => one.of === of && one.how === how);
  }

  protected toggleSummary(of: string, how: Summary['how']): void {
    const { summaries } = this.spec();
    this.change({
      summaries: this.has(of, how)
        ? summaries.filter((one) => one.of !== of || one.how !== how)
        : [...summaries, { of, how }],
    });
  }
}
