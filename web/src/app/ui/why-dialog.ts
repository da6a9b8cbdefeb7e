import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';

/** What is to be done, and wants a reason that stays. */
export interface WhyData {
  readonly title: string;
  readonly text: string;
  readonly yes: string;
  readonly grave?: boolean;
}

/** Asks why something is done to papers. */
@Component({
  selector: 'sc-why-dialog',
  template: `
    <h2 id="why-title" class="text-title [overflow-wrap:anywhere]">{{ data.title }}</h2>
    <p class="text-small">{{ data.text }}</p>
    <label class="flex flex-col gap-1">
      <span class="label">Why</span>
      <input
        #reason
        class="input min-h-9"
        maxlength="1000"
        [attr.aria-invalid]="lacking()"
        [attr.aria-describedby]="lacking() ? 'why-lacking' : null"
        (input)="lacking.set(false)"
        (keydown.enter)="give(reason.value)"
      />
    </label>
    @if (lacking()) {
      <p id="why-lacking" class="text-small text-madder" role="alert">
        A reason is lacking, so that others know why.
      </p>
    }
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">Cancel</button>
      <button
        type="button"
        class="btn"
        [class]="data.grave ? 'grave' : 'primary'"
        (click)="give(reason.value)"
      >
        {{ data.yes }}
      </button>
    </div>
  `,
  host: { class: 'panel flex w-110 max-w-[90vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhyDialog {
  protected readonly dialog = inject<DialogRef<string>>(DialogRef);
  protected readonly data = inject<WhyData>(DIALOG_DATA);
  protected readonly lacking = signal(false);

  protected give(text: string): void {
    const reason = text.trim();
    if (reason) this.dialog.close(reason);
    else this.lacking.set(true);
  }
}

/** What is asked before papers are voided. */
export const voiding = (what: string, sent: boolean): WhyData => ({
  title: `Void ${what}?`,
  text: `It counts no more, is not sent or printed, and stays in the register with your reason. A new one can be pressed.${sent ? ' It was sent already: tell the family.' : ''}`,
  yes: 'Void it',
  grave: true,
});

/** What is asked before papers are issued again. */
export const issuing = (what: string, number: string | null, sent: boolean): WhyData => ({
  title: `Issue ${what} again?`,
  text: `A new one is pressed now and takes the place of this one, which stays in the register with your reason.${number === null ? '' : ` The new one gets a number of its own, and can say that it replaces no. ${number}.`}${sent ? ' It has to be sent anew.' : ''}`,
  yes: 'Issue it again',
});
