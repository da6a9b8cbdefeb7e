import type { FlowText, LineText } from '@scriptum/core/text';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
  type Signal,
} from '@angular/core';
import { chipTitles, FUNCTION_GROUPS, parseFormula } from '@scriptum/core/marks';
import type { Entry } from '@scriptum/core/roll';
import { type Column, PLAIN_ROUNDING, type ExpressionColumn, type FormulaPart } from '@scriptum/core/column';
import type { Field } from '@scriptum/core/template';
import { TextEditor } from '../../editor/text-editor';
import { ColumnPick, RoundingPick, type WorkedChange } from './fields';

/** A formula, written with columns as chips. */
@Component({
  selector: 'sc-formula-form',
  imports: [ColumnPick, RoundingPick, TextEditor],
  templateUrl: './formula-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormulaForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<ExpressionColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly columns = input.required<readonly Column[]>();
  readonly columnId = input.required<string>();
  readonly entry = input<Entry>();
  readonly changed = output<WorkedChange<ExpressionColumn>>();
  protected readonly editor = viewChild(TextEditor);
  protected readonly plain = PLAIN_ROUNDING;
  protected readonly groups = FUNCTION_GROUPS.map(({ name, functions }) => ({
    name,
    functions: Object.entries(functions).map(([key, { usage, gives }]) => ({ key, usage, gives })),
  }));
  protected readonly fields = computed(() =>
    this.columns().map((column): Field => ({ id: column.id, name: column.title, columnId: column.id })),
  );
  protected readonly arrival = signal(0);
  /** What stands in the editor; what comes from outside while nobody writes is taken over. */
  protected readonly line = linkedSignal<ExpressionColumn, LineText>({
    source: () => this.worked(),
    computation: (worked) => lineOf(worked.formula),
  });
  /** What was written last and not yet said. */
  private written: FormulaPart[] | null = null;
  protected readonly problem = signal<string | null>(null);

  protected take(value: FlowText | LineText): void {
    if ('content' in value) return;
    const parts = this.chipped(partsOf(value));
    this.written = parts;
    const parsed = parseFormula(parts);
    this.problem.set(parsed.ok ? null : parsed.problem.message);
  }

  /** Titles that were typed in square brackets become chips. */
  private chipped(parts: readonly FormulaPart[]): FormulaPart[] {
    return parts.flatMap((part): FormulaPart[] =>
      'text' in part ? chipTitles(part.text, this.columns()) : [part],
    );
  }

  /** Says what was written, once it can be read, when the editor is left or Enter is pressed. */
  protected say(): void {
    const formula = this.written;
    if (!formula || formula.length === 0) return;
    if (JSON.stringify(formula) === JSON.stringify(this.worked().formula)) return;
    this.written = null;
    this.changed.emit({ worked: { ...this.worked(), formula }, what: 'the formula' });
    this.arrival.update((n) => n + 1);
  }

  protected put(columnId: string | null): void {
    if (columnId) this.editor()?.insertField(columnId);
  }

  protected insert(text: string): void {
    this.editor()?.insertText(text);
  }

  protected set(change: Partial<ExpressionColumn>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }
}

const lineOf = (parts: readonly FormulaPart[]): LineText =>
  parts.map((part) =>
    'text' in part ? { type: 'text', text: part.text } : { type: 'field', attrs: { fieldId: part.columnId } },
  );

const partsOf = (line: LineText): FormulaPart[] =>
  line.map((part) => (part.type === 'text' ? { text: part.text } : { columnId: part.attrs.fieldId }));
