import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import type { Letter, WritingContent } from '@scriptum/core/template';
import { FirstPage } from './first-page';

/** A version that was kept, and the text as it is now. */
export interface VersionsBeside {
  readonly then: { readonly name: string; readonly when: string; readonly content: WritingContent };
  readonly now: WritingContent;
}

/** Two versions of a letter beside each other, as the picked learner would have them. Closes with true to take the earlier up. */
@Component({
  selector: 'sc-version-dialog',
  imports: [FirstPage],
  template: `
    <h2 id="version-title" class="text-title">{{ data.then.name }}</h2>
    <div class="grid min-h-0 grow grid-cols-2 gap-4 overflow-y-auto">
      <figure>
        <figcaption class="label mb-1">Then, {{ data.then.when }}</figcaption>
        <sc-first-page class="w-full!" [letter]="then" />
      </figure>
      <figure>
        <figcaption class="label mb-1">Now</figcaption>
        <sc-first-page class="w-full!" [letter]="now" />
      </figure>
    </div>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close(false)">Leave the text as it is now</button>
      <button type="button" class="btn primary" (click)="dialog.close(true)">Have it as it was then</button>
    </div>
  `,
  host: { class: 'panel flex max-h-[92vh] w-[900px] max-w-[95vw] flex-col gap-3 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VersionDialog {
  protected readonly dialog = inject<DialogRef<boolean>>(DialogRef);
  protected readonly data = inject<VersionsBeside>(DIALOG_DATA);
  /** Only letters have first pages. */
  protected readonly then = this.data.then.content as Letter;
  protected readonly now = this.data.now as Letter;
}
