import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Outage } from '../api/outage';
import { Icon } from './icon';

/** Says that the server or its database does not answer, for as long as it does not. */
@Component({
  selector: 'sc-outage-bar',
  imports: [Icon],
  template: `
    @if (outage.sentence(); as sentence) {
      <p
        class="fixed bottom-14 left-1/2 z-50 flex w-max max-w-[90vw] -translate-x-1/2 items-center gap-2 rounded border border-ochre bg-leaf px-3 py-2"
      >
        <sc-icon name="lucideClock" [size]="18" class="shrink-0 text-ochre" />
        {{ sentence }}
      </p>
    }
  `,
  host: { role: 'status' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutageBar {
  protected readonly outage = inject(Outage);
}
