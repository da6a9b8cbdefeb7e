import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { readAddresses } from '@scriptum/core/column';
import { say } from '@scriptum/core/sentences';
import { Entered } from '../ui/bound';

/** A paper that was sent, and where it would go now. */
export interface SendAgainData {
  readonly learner: string;
  /** What became of it so far, in a sentence. */
  readonly before: string;
  /** The cover notes that can go along, the likely one first. */
  readonly notes: readonly NoteNow[];
}

/** Where a paper goes with a cover note by the roll and the note as they are now. */
export interface NoteNow {
  readonly id: string;
  readonly name: string;
  /** Addresses; each line is a message. */
  readonly to: readonly string[];
  /** Whether those are other ones than before. */
  readonly changed: boolean;
}

/** To whom it is sent: those of the roll where nothing is said. */
export interface SendAgainChoice {
  readonly noteId: string;
  readonly to?: string;
}

/** Asks to whom a paper is sent once more. */
@Component({
  selector: 'sc-send-again-dialog',
  imports: [Entered],
  template: `
    <h2 id="again-title" class="text-title [overflow-wrap:anywhere]">
      Send the paper of
      <bdi>{{ data.learner }}</bdi>
      again
    </h2>
    <p class="text-small [overflow-wrap:anywhere]">{{ data.before }}</p>
    @if (data.notes.length > 1) {
      <label class="flex flex-col gap-1">
        <span class="label">With the cover note</span>
        <select class="input min-h-9" (scEntered)="choose($event)">
          @for (one of data.notes; track one.id) {
            <option [value]="one.id" [selected]="one.id === note().id">{{ one.name }}</option>
          }
        </select>
      </label>
    }
    <fieldset class="flex flex-col gap-3">
      <legend class="sr-only">To whom</legend>
      @if (note().to.length > 0) {
        <label class="flex items-start gap-2">
          <input type="radio" name="to" class="mt-1" [checked]="!other()" (change)="other.set(false)" />
          <span class="min-w-0 [overflow-wrap:anywhere]">
            As the roll says now{{ note().changed ? ', which was changed since' : '' }}
            @for (line of note().to; track line) {
              <span class="block text-small text-slate">{{ line }}</span>
            }
          </span>
        </label>
      }
      <label class="flex items-start gap-2">
        <input type="radio" name="to" class="mt-1" [checked]="other()" (change)="other.set(true)" />
        <span>To another address, and to nobody else</span>
      </label>
      @if (other()) {
        <label class="ml-6 flex flex-col gap-1">
          <span class="label">Address</span>
          <input
            #address
            type="email"
            class="input min-h-9"
            maxlength="320"
            autocomplete="off"
            [value]="typed()"
            [attr.aria-invalid]="wrong() !== ''"
            [attr.aria-describedby]="wrong() ? 'again-wrong' : null"
            (input)="typed.set(address.value); wrong.set('')"
            (keydown.enter)="send()"
          />
        </label>
        @if (wrong()) {
          <p id="again-wrong" class="ml-6 text-small text-madder" role="alert">{{ wrong() }}</p>
        }
      }
    </fieldset>
    <p class="text-small text-slate">The cover note goes along as it is now.</p>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn" (click)="dialog.close()">Cancel</button>
      <button type="button" class="btn primary" (click)="send()">Send it again</button>
    </div>
  `,
  host: { class: 'panel flex w-120 max-w-[92vw] flex-col gap-4 p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SendAgainDialog {
  protected readonly dialog = inject<DialogRef<SendAgainChoice>>(DialogRef);
  protected readonly data = inject<SendAgainData>(DIALOG_DATA);
  protected readonly note = signal(this.data.notes[0]!);
  protected readonly other = signal(this.note().to.length === 0);
  protected readonly typed = signal('');
  protected readonly wrong = signal('');

  protected choose(id: string): void {
    this.note.set(this.data.notes.find((one) => one.id === id) ?? this.data.notes[0]!);
    if (this.note().to.length === 0) this.other.set(true);
  }

  protected send(): void {
    const { id: noteId } = this.note();
    if (!this.other()) {
      this.dialog.close({ noteId });
      return;
    }
    const { addresses, wrong } = readAddresses(this.typed());
    const [first] = wrong;
    if (first) this.wrong.set(`“${first.text}” cannot be right: ${say(first.reason)}.`);
    else if (addresses.length !== 1) this.wrong.set('Say one address.');
    else this.dialog.close({ noteId, to: addresses[0]! });
  }
}
