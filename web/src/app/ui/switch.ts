import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** Something that is on or off, with a word for each. */
@Component({
  selector: 'sc-switch',
  template: `
    <button
      type="button"
      role="switch"
      class="switch"
      [attr.aria-checked]="isOn()"
      [attr.aria-label]="label()"
      [disabled]="disabled()"
      (click)="switched.emit()"
    >
      <span class="knob" aria-hidden="true"></span>
      {{ isOn() ? words()[0] : words()[1] }}
    </button>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Switch {
  readonly isOn = input.required<boolean>();
  /** What is on, for those who hear it. */
  readonly label = input.required<string>();
  /** How it says that it is on, and that it is off. */
  readonly words = input<readonly [string, string]>(['On', 'Off']);
  readonly disabled = input(false);
  readonly switched = output<void>();
}
