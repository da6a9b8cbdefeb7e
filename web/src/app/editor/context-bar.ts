import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { LinkAddress } from '@scriptum/core/text';
import { Chosen, Entered, Ticked } from '../ui/bound';
import { Icon } from '../ui/icon';
import type { ICONS } from '../ui/icons';
import type { Format, Formatting, TableStep } from './formatting';

/** Grounds that ink stands out on by far (WCAG 2.2, 1.4.3). */
const GROUNDS = [
  ['#EDF1EF', 'chalk'],
  ['#DCEBE4', 'sea green'],
  ['#E3EAF4', 'sky'],
  ['#F6ECDF', 'sand'],
  ['#F6E5DE', 'brick'],
  ['#F2F0E2', 'straw'],
] as const;

const STEPS: readonly { step: TableStep; name: string; icon: keyof typeof ICONS }[] = [
  { step: 'rowAbove', name: 'Row above', icon: 'lucideBetweenHorizontalEnd' },
  { step: 'rowBelow', name: 'Row below', icon: 'lucideBetweenHorizontalStart' },
  { step: 'columnBefore', name: 'Column before', icon: 'lucideBetweenVerticalEnd' },
  { step: 'columnAfter', name: 'Column after', icon: 'lucideBetweenVerticalStart' },
];

/** Where a link leads: `www.` and a bare address to write to are understood. Null for what is no link. */
export function linkOf(typed: string): string | null {
  const text = typed.trim();
  if (text === '') return '';
  const whole = /^[a-z][a-z0-9+.-]*:/i.test(text)
    ? text
    : /^[^\s/@]+@[^\s/@]+\.[^\s/@]+$/.test(text)
      ? `mailto:${text}`
      : `https://${text}`;
  return LinkAddress.safeParse(whole).success && /[.:]/.test(whole.slice(8)) ? whole : null;
}

/** What can be said of the link, footnote, frame or table at the caret. */
@Component({
  selector: 'sc-context-bar',
  imports: [Chosen, Entered, Icon, Ticked],
  templateUrl: './context-bar.html',
  host: { class: 'contents' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContextBar {
  readonly state = input.required<Formatting>();
  /** True while a link is wanted where there is none yet. */
  readonly linking = input(false);
  readonly done = output<Format>();
  /** The box is left without a link. */
  readonly left = output<void>();
  protected readonly steps = STEPS;
  protected readonly grounds = GROUNDS;
  protected readonly wrong = signal(false);

  protected keepFocus(event: Event): void {
    event.preventDefault();
  }

  /** Enter says nothing more where nothing was typed. */
  protected enterLink(typed: string): void {
    if (typed === (this.state().link ?? '')) this.left.emit();
  }

  protected setLink(typed: string): void {
    const href = linkOf(typed);
    this.wrong.set(href === null);
    if (href === null) return;
    if (href === '' && this.state().link === null) this.left.emit();
    else this.done.emit({ link: href });
  }
}
