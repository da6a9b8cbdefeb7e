import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';

const COMMON = ['Has left the school', 'Did not take part', 'Gets it another way'];
let count = 0;

/** Asks why nothing is made for somebody, and says so where no reason is given. */
@Component({
  selector: 'sc-reason-form',
  template: `
    <label class="text-slate" [attr.for]="id">{{ label() }}</label>
    <input
      #reason
      [id]="id"
      class="input w-full min-w-0"
      maxlength="300"
      autocomplete="off"
      [attr.list]="id + '-list'"
      [attr.aria-invalid]="lacking()"
      [attr.aria-describedby]="lacking() ? id + '-lacking' : null"
      (input)="lacking.set(false)"
      (keydown.enter)="give(reason)"
      (keydown.escape)="cancelled.emit()"
    />
    <datalist [id]="id + '-list'">
      @for (one of common; track one) {
        <option [value]="one"></option>
      }
    </datalist>
    @if (lacking()) {
      <p [id]="id + '-lacking'" class="text-madder" role="alert">
        A reason is lacking. It stands beside the name, so that others know why.
      </p>
    }
    <span class="flex shrink-0 gap-2">
      <button type="button" class="btn min-h-7! text-small" (click)="give(reason)">Leave out</button>
      <button type="button" class="btn bare min-h-7! text-small" (click)="cancelled.emit()">Cancel</button>
    </span>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReasonForm {
  readonly label = input('Why is nothing made for this learner?');
  readonly given = output<string>();
  readonly cancelled = output();
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('reason');
  protected readonly lacking = signal(false);
  protected readonly common = COMMON;
  protected readonly id = `reason-${++count}`;

  constructor() {
    afterNextRender(() => this.field().nativeElement.focus());
  }

  protected give(field: HTMLInputElement): void {
    const reason = field.value.trim().slice(0, 300);
    if (reason) this.given.emit(reason);
    else {
      this.lacking.set(true);
      field.focus();
    }
  }
}
