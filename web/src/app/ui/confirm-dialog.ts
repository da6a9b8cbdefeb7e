import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';

export interface Confirmation {
  readonly title: string;
  readonly text: string;
  /** What the button does. */
  readonly yes: string;
  /** What the other button says. */
  readonly no?: string;
  readonly grave?: boolean;
}

/** Asks before what cannot be undone. */
@Component({
  selector: 'sc-confirm-dialog',
  template: `
    <h2 id="confirm-title" class="text-title">{{ data.title }}</h2>
    <p>{{ data.text }}</p>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close(false)">{{ data.no ?? 'Cancel' }}</button>
      <button
        type="button"
        class="btn"
        [class.grave]="data.grave"
        [class.primary]="!data.grave"
        (click)="dialog.close(true)"
      >
        {{ data.yes }}
      </button>
    </div>
  `,
  host: { class: 'panel flex w-110 max-w-[90vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConfirmDialog {
  protected readonly data = inject<Confirmation>(DIALOG_DATA);
  protected readonly dialog = inject<DialogRef<boolean>>(DialogRef);
}
