import { ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import type { Column } from '@scriptum/core/column';
import type { Cohort } from '@scriptum/core/fill';
import type { Entry } from '@scriptum/core/roll';
import type { Field, Letterhead, PlacedBox, TextBox, TextPart } from '@scriptum/core/template';
import type { FlowText, LineText } from '@scriptum/core/text';
import type { ScreenPlace } from '../../editor/field-picker';
import { TextEditor } from '../../editor/text-editor';
import { Entered, Ticked } from '../../ui/bound';
import { NumberBox } from '../../ui/number-box';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { boxSentence, NEW_PLACE, type BoxSurroundings } from './box-sentence';
import { changeBox } from './change-box';

const NUMBERS = [
  ['x', 'From the left', -2000],
  ['y', 'From the top', -2000],
  ['width', 'Width', 0],
  ['height', 'Height', 0],
] as const;

/** What stands in one box, how it looks, and where it is. */
@Component({
  selector: 'sc-box-form',
  imports: [Entered, NumberBox, Sentence, TextEditor, Ticked],
  templateUrl: './box-form.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BoxForm {
  readonly box = input.required<PlacedBox>();
  /** Names the text of the box for its editor. */
  readonly of = input.required<string>();
  readonly around = input.required<BoxSurroundings>();
  readonly arrival = input.required<number>();
  readonly fields = input.required<readonly Field[]>();
  readonly parts = input.required<readonly TextPart[]>();
  readonly columns = input.required<readonly Column[]>();
  readonly language = input.required<string>();
  readonly day = input.required<string>();
  readonly entry = input<Entry>();
  readonly cohort = input<Cohort>();
  readonly letterhead = input<Letterhead | null>(null);
  readonly pictureUrl = input.required<(asset: string) => string>();
  readonly name = input.required<string>();
  readonly changed = output<{ box: PlacedBox; reason: string }>();
  /** F2 in the text: a field is wanted. */
  readonly wanted = output<ScreenPlace>();
  /** Its text is to go on in a place that is yet to be made. */
  readonly goOn = output<TextBox>();
  /** Enter on a chip: its sentence is wanted. */
  readonly opened = output<string>();
  /** Escape in the text: back to the paper. */
  readonly left = output<void>();

  readonly editor = viewChild(TextEditor);
  protected readonly numbers = NUMBERS;
  protected readonly pieces = computed(() => boxSentence(this.box(), this.around()));
  protected readonly sentenceLabel = computed(() => `How ${this.name()} looks`);
  protected readonly text = String;

  protected change(change: SentenceChange): void {
    const box = this.box();
    const further = (change.id === 'long' && change.value === 'on') || change.value === NEW_PLACE;
    if (box.kind === 'text' && further) return this.goOn.emit(box);
    this.changed.emit({ box: changeBox(box, change, this.around()), reason: '' });
  }

  protected set(part: Partial<PlacedBox>, reason = ''): void {
    this.changed.emit({ box: { ...this.box(), ...part } as PlacedBox, reason });
  }

  protected printInstead(): void {
    const { fills: _, ...rest } = this.box();
    this.changed.emit({ box: rest, reason: '' });
  }

  protected setText(text: FlowText | LineText): void {
    const box = this.box();
    const typed = `text ${box.id}`;
    if (box.kind === 'text' && 'content' in text) this.set({ body: text } as Partial<PlacedBox>, typed);
    if ((box.kind === 'comb' || box.kind === 'code') && !('content' in text))
      this.set({ line: text } as Partial<PlacedBox>, typed);
  }

  protected setNumber(which: 'x' | 'y' | 'width' | 'height', mm: number): void {
    this.set({ [which]: mm });
  }

  protected setName(name: string): void {
    const { name: _, ...rest } = this.box();
    this.changed.emit({ box: name.trim() === '' ? rest : { ...rest, name: name.trim() }, reason: '' });
  }

  protected setTurn(turn: string | null): void {
    const { turn: _, ...rest } = this.box();
    const degrees = Number(turn ?? 0);
    this.changed.emit({ box: degrees === 0 ? rest : { ...rest, turn: degrees }, reason: '' });
  }
}
