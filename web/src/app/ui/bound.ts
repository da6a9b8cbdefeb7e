import { Directive, ElementRef, inject, input, output } from '@angular/core';

type Box = HTMLInputElement | HTMLSelectElement;

const boxOf = <B extends Box>(): B => inject<ElementRef<B>>(ElementRef).nativeElement;

/** Says what a tick box is, once it was changed. */
@Directive({
  selector: 'input[type=checkbox][scTicked]',
  host: { '(change)': 'scTicked.emit(box.checked)' },
})
export class Ticked {
  protected readonly box = boxOf<HTMLInputElement>();
  readonly scTicked = output<boolean>();
}

/** Says what was entered into a box, or chosen of texts, once it was changed. */
@Directive({
  selector: '[scEntered]',
  host: { '(change)': 'scEntered.emit(box.value)' },
})
export class Entered {
  protected readonly box = boxOf();
  readonly scEntered = output<string>();
}

/** Says which of some words was chosen, once it was changed. `scOf` is what is chosen now, and says which words there are. */
@Directive({
  selector: '[scChosen]',
  host: { '(change)': 'scChosen.emit(wordOf(box))' },
})
export class Chosen<Word extends string> {
  readonly scOf = input.required<Word | null | undefined>();
  readonly scChosen = output<Word>();
  protected readonly box = boxOf();

  /** The words are those of the template that it stands in. */
  protected wordOf({ value }: Box): Word {
    return value as Word;
  }
}
