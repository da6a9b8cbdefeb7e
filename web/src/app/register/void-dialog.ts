import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';

/** Which paper is to be voided. */
export interface VoidData {
  readonly learner: string;
  readonly letter: string;
  readonly sent: boolean;
}

/** Asks why a paper is voided. */
@Component({
  selector: 'sc-void-dialog',
  template: `
    <h2 id="void-title" class="text-title">Void “{{ data.letter }}” of {{ data.learner }}?</h2>
    <p class="text-small">
      It counts no more, is not sent or printed, and stays in the register with your reason. A new one can be
      pressed.
      {{ data.sent ? 'It was sent already: tell the family.' : '' }}
    </p>
    <label class="flex flex-col gap-1">
      <span class="label">Why</span>
      <input
        #reason
        class="input min-h-9"
        maxlength="1000"
        [attr.aria-invalid]="lacking()"
        [attr.aria-describedby]="lacking() ? 'void-lacking' : null"
        (input)="lacking.set(false)"
        (keydown.enter)="give(reason.value)"
      />
    </label>
    @if (lacking()) {
      <p id="void-lacking" class="text-small text-madder" role="alert">
        A reason is lacking, so that others know why.
      </p>
    }
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">Cancel</button>
      <button type="button" class="btn grave" (click)="give(reason.value)">Void the paper</button>
    </div>
  `,
  host: { class: 'panel flex w-110 max-w-[90vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VoidDialog {
  protected readonly dialog = inject<DialogRef<string>>(DialogRef);
  protected readonly data = inject<VoidData>(DIALOG_DATA);
  protected readonly lacking = signal(false);

  protected give(text: string): void {
    const reason = text.trim();
    if (reason) this.dialog.close(reason);
    else this.lacking.set(true);
  }
}
