import { ChangeDetectionStrategy, Component, input, output, viewChildren } from '@angular/core';
import type { Column } from '@scriptum/core/column';
import type { Entry } from '@scriptum/core/roll';
import type { Letter, PageLine } from '@scriptum/core/template';
import type { FlowText, LineText } from '@scriptum/core/text';
import type { ScreenPlace } from '../editor/field-picker';
import { TextEditor } from '../editor/text-editor';
import { Ticked } from '../ui/bound';

const LINES = [
  ['head', 'Head'],
  ['foot', 'Foot'],
] as const;
const SIDES = [
  ['left', 'left'],
  ['right', 'right'],
] as const;
type Line = (typeof LINES)[number][0];
type Side = (typeof SIDES)[number][0];

const NOTHING: PageLine = { left: [], right: [], later: false };

/** What stands at the head and the foot of the pages: a text at either side, with fields and the number of the page. */
@Component({
  selector: 'sc-page-lines',
  imports: [TextEditor, Ticked],
  templateUrl: './page-lines.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageLines {
  readonly letter = input.required<Letter>();
  /** Names the letter, for the history of each text. */
  readonly of = input.required<string>();
  readonly arrival = input.required<number>();
  readonly columns = input.required<readonly Column[]>();
  readonly language = input.required<string>();
  readonly day = input.required<string>();
  readonly entry = input<Entry>();
  readonly changed = output<Partial<Letter>>();
  /** The text that fields go into from now on. */
  readonly focused = output<TextEditor>();
  readonly opened = output<string>();
  readonly wanted = output<ScreenPlace>();
  readonly putPage = output<boolean>();

  private readonly editors = viewChildren(TextEditor);
  protected readonly lines = LINES;
  protected readonly sides = SIDES;

  protected lineOf(line: Line): PageLine {
    return this.letter()[line] ?? NOTHING;
  }

  protected focus(line: Line, side: Side): void {
    const at = LINES.findIndex(([name]) => name === line) * 2 + SIDES.findIndex(([name]) => name === side);
    const editor = this.editors()[at];
    if (editor) this.focused.emit(editor);
  }

  protected set(line: Line, part: Partial<PageLine>): void {
    const next = { ...this.lineOf(line), ...part };
    const blank = next.left.length === 0 && next.right.length === 0 && !next.later;
    this.changed.emit({ [line]: blank ? undefined : next });
  }

  protected setSide(line: Line, side: Side, text: FlowText | LineText): void {
    if (!('content' in text)) this.set(line, { [side]: text });
  }
}
