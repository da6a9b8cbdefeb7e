import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { Icon } from './icon';

/** One sentence about what went wrong, that stays until it is read. */
@Component({
  selector: 'sc-trouble-bar',
  imports: [Icon],
  template: `
    <sc-icon name="lucideCircleAlert" [size]="18" class="mt-0.5 shrink-0 text-madder" />
    <p class="grow">{{ message() }}</p>
    @if (closable()) {
      <button type="button" class="tool shrink-0" aria-label="Close this message" (click)="closed.emit()">
        <sc-icon name="lucideX" [size]="16" />
      </button>
    }
  `,
  host: { role: 'alert', class: 'flex items-start gap-2 rounded border border-madder bg-leaf px-3 py-2' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TroubleBar {
  readonly message = input.required<string>();
  readonly closable = input(true);
  readonly closed = output<void>();
}
