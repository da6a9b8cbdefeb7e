import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';

/** The reader's decimal sign. */
const SIGN = (1.5).toLocaleString(navigator.language).includes(',') ? ',' : '.';
let count = 0;

/** A box for a number, which is taken when it is left. What cannot be taken stays there, with why beside it. */
@Component({
  selector: 'sc-number-box',
  template: `
    <input
      #box
      class="input w-full px-1.5! text-right tabular-nums"
      autocomplete="off"
      [attr.inputmode]="whole() ? 'numeric' : 'decimal'"
      [attr.aria-label]="label()"
      [attr.aria-invalid]="wrong() ? 'true' : null"
      [attr.aria-describedby]="wrong() ? id : null"
      [value]="shown()"
      [placeholder]="hint()"
      (input)="wrong.set('')"
      (change)="take(box)"
      (keydown.enter)="take(box)"
      (keydown.escape)="giveUp(box)"
    />
    @if (wrong(); as why) {
      <span
        [id]="id"
        role="alert"
        class="absolute top-full left-0 z-10 mt-1 w-max max-w-60 rounded border border-madder bg-leaf px-2 py-1 text-small whitespace-normal text-madder shadow"
      >
        {{ why }}
      </span>
    }
  `,
  host: { class: 'relative inline-block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NumberBox {
  /** The number as a decimal with a full stop. */
  readonly value = input.required<string | null>();
  readonly label = input.required<string>();
  readonly hint = input('');
  /** True where the box may be blank. */
  readonly optional = input(false);
  readonly whole = input(false);
  readonly least = input(-999_999_999);
  readonly most = input(999_999_999);
  readonly changed = output<string | null>();
  protected readonly shown = computed(() => this.value()?.replace('.', SIGN) ?? '');
  protected readonly wrong = linkedSignal({ source: () => this.value(), computation: () => '' });
  protected readonly id = `number-${++count}`;

  protected take(box: HTMLInputElement): void {
    const text = box.value.trim().replace(',', '.').replace('\u2212', '-');
    const why = this.problem(text);
    this.wrong.set(why);
    if (why) return;
    const next = text === '' ? null : text;
    if (next !== this.value()) this.changed.emit(next);
    box.value = this.shown();
  }

  private problem(text: string): string {
    const [least, most] = [this.least(), this.most()];
    if (text === '')
      return this.optional() ? '' : `Write a number here. It was ${this.shown()}; Escape brings it back.`;
    if (this.whole() && !/^-?\d{1,9}$/.test(text)) return 'Write a whole number, such as 12.';
    if (!/^-?\d{1,9}(?:\.\d{1,9})?$/.test(text)) return 'Write a number, such as 12 or 12.5.';
    if (Number(text) < least)
      return least === 0 ? 'This cannot be less than 0.' : `The least is ${least.toLocaleString()}.`;
    return Number(text) > most ? `The most is ${most.toLocaleString()}.` : '';
  }

  protected giveUp(box: HTMLInputElement): void {
    box.value = this.shown();
    this.wrong.set('');
  }
}
