import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { Icon } from './icon';

export type Mark =
  'done' | 'mailed' | 'waiting' | 'going' | 'held' | 'failed' | 'refused' | 'unsure' | 'old' | 'paper';

const TONE: Readonly<Record<Mark, string>> = {
  done: 'text-verdigris',
  mailed: 'text-verdigris',
  paper: 'text-ink',
  waiting: 'text-slate',
  going: 'text-woad',
  held: 'text-ochre',
  failed: 'text-madder',
  refused: 'text-madder',
  unsure: 'text-ochre',
  old: 'text-slate',
};

/** A state as a shape and a word. */
@Component({
  selector: 'sc-state-mark',
  imports: [Icon],
  template: `
    @switch (mark()) {
      @case ('done') {
        <sc-icon name="lucideCheck" [size]="15" />
      }
      @case ('mailed') {
        <sc-icon name="lucideMailCheck" [size]="15" />
      }
      @case ('paper') {
        <sc-icon name="lucideFileCheck" [size]="15" />
      }
      @case ('waiting') {
        <sc-icon name="lucideClock" [size]="15" />
      }
      @case ('going') {
        <sc-icon name="lucideLoader" [size]="15" />
      }
      @case ('held') {
        <sc-icon name="lucideHand" [size]="15" />
      }
      @case ('failed') {
        <sc-icon name="lucideX" [size]="15" />
      }
      @case ('refused') {
        <sc-icon name="lucideMailX" [size]="15" />
      }
      @case ('unsure') {
        <sc-icon name="lucideCircleHelp" [size]="15" />
      }
      @case ('old') {
        <sc-icon name="lucideCircleDashed" [size]="15" />
      }
    }
    <span>{{ word() }}</span>
  `,
  host: { '[class]': 'tone()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StateMark {
  readonly mark = input.required<Mark>();
  readonly word = input.required<string>();
  protected readonly tone = computed(
    () => `inline-flex items-center gap-1 align-middle whitespace-nowrap ${TONE[this.mark()]}`,
  );
}
