import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import type { FolioSummary } from '@scriptum/core/contract';

/** What the copy is called, and whether the people come along. */
export interface CopyAnswer {
  readonly title: string;
  readonly people: boolean;
}

/** Asks how a folio is copied for the next term. */
@Component({
  selector: 'sc-copy-dialog',
  template: `
    <h2 id="copy-title" class="text-title">Copy “{{ folio.title }}”</h2>
    <p class="text-small">
      Letters, certificates, notes, file names and sorting come along. Papers and mail that were made stay
      where they are.
    </p>
    <label class="flex flex-col gap-1">
      <span class="label">Title of the copy</span>
      <input
        #title
        class="input min-h-9"
        maxlength="200"
        [value]="folio.title + ' (copy)'"
        (keydown.enter)="copy(title.value, people.checked)"
      />
    </label>
    <fieldset class="flex flex-col gap-1.5">
      <legend class="label mb-1">The roll</legend>
      <label class="flex items-center gap-2">
        <input type="radio" name="copy-people" checked />
        Its columns alone, for other people
      </label>
      <label class="flex items-center gap-2">
        <input #people type="radio" name="copy-people" />
        With its {{ folio.entries }} {{ folio.entries === 1 ? 'learner' : 'learners' }}
      </label>
    </fieldset>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">Cancel</button>
      <button type="button" class="btn primary" (click)="copy(title.value, people.checked)">
        Copy the folio
      </button>
    </div>
  `,
  host: { class: 'panel flex w-110 max-w-[90vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CopyDialog {
  protected readonly dialog = inject<DialogRef<CopyAnswer>>(DialogRef);
  protected readonly folio = inject<FolioSummary>(DIALOG_DATA);

  protected copy(title: string, people: boolean): void {
    this.dialog.close({ title: title.trim() || `${this.folio.title} (copy)`, people });
  }
}
