import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { ICONS, type IconName } from './icons';

export type { IconName } from './icons';

/** An icon beside a word, or in a button that has a name of its own; never read out by itself. */
@Component({
  selector: 'sc-icon',
  template: '',
  host: {
    'aria-hidden': 'true',
    class: 'inline-block shrink-0',
    '[style.width.px]': 'size()',
    '[style.height.px]': 'size()',
    '[innerHTML]': 'svg()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Icon {
  readonly name = input.required<IconName>();
  /** Pixels. */
  readonly size = input(16);
  private readonly sanitizer = inject(DomSanitizer);
  /** The shipped drawing without its style attributes, which the content security policy does not let through. */
  protected readonly svg = computed(() =>
    this.sanitizer.bypassSecurityTrustHtml(
      ICONS[this.name()]
        .replace(/ style="[^"]*"/g, '')
        .replace('<svg', '<svg width="100%" height="100%" stroke-width="2"'),
    ),
  );
}
