import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import type { Axis, Side } from '@scriptum/core/placing';
import { Icon } from '../../ui/icon';
import type { IconName } from '../../ui/icons';
import { NumberBox } from '../../ui/number-box';

/** What can be done with the boxes that are picked, besides changing one. */
export type Arranging =
  | { readonly do: 'align'; readonly side: Side }
  | { readonly do: 'distribute'; readonly axis: Axis }
  | { readonly do: 'order'; readonly to: 'first' | 'earlier' | 'later' | 'last' }
  | { readonly do: 'group' | 'ungroup' | 'lock' | 'unlock' | 'delete' }
  | { readonly do: 'copy' }
  | { readonly do: 'steps'; readonly times: number; readonly x: number; readonly y: number };

const ALIGN: readonly (readonly [Side, string, IconName])[] = [
  ['left', 'Left edges in line', 'lucideAlignStartVertical'],
  ['centre', 'Middles in line, one below the other', 'lucideAlignCenterVertical'],
  ['right', 'Right edges in line', 'lucideAlignEndVertical'],
  ['top', 'Upper edges in line', 'lucideAlignStartHorizontal'],
  ['middle', 'Middles in line, side by side', 'lucideAlignCenterHorizontal'],
  ['bottom', 'Lower edges in line', 'lucideAlignEndHorizontal'],
];

/** Puts the picked boxes in line, in an order, into groups; copies and deletes them. */
@Component({
  selector: 'sc-arrange-bar',
  imports: [Icon, NumberBox],
  templateUrl: './arrange-bar.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangeBar {
  /** How many boxes are picked. */
  readonly count = input.required<number>();
  readonly grouped = input(false);
  readonly locked = input(false);
  readonly arranged = output<Arranging>();
  protected readonly align = ALIGN;
  protected readonly stepping = signal(false);
  protected readonly times = signal('3');
  protected readonly x = signal('0');
  protected readonly y = signal('10');

  /** On their own page they stand in line with the page. */
  protected hint(name: string): string {
    return this.count() > 1 ? name : `${name.replace(' in line', '')} of the page`;
  }

  protected step(): void {
    this.stepping.set(false);
    this.arranged.emit({
      do: 'steps',
      times: Number(this.times()),
      x: Number(this.x()),
      y: Number(this.y()),
    });
  }
}
