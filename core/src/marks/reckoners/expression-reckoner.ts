import { phrase, say, type Saying } from '../../sentences/index.js';
import { readNumber } from '../../column/index.js';
import { type Cell, cellText, errorFor, number } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { cellEffort, Effort } from '../expression/effort.js';
import { evaluate, type Trace } from '../expression/evaluate.js';
import type { Surroundings } from '../expression/functions.js';
import { parseFormula, type Tree } from '../expression/parse.js';
import { isList, stop, type Operand } from '../expression/values.js';
import { plainRatio, ratio, withSign } from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';

/** A column that a formula works out. */
export class ExpressionReckoner implements Reckoner {
  readonly together: boolean;
  private readonly tree: Tree | null;
  private readonly problem: Saying | null;
  /** Whole columns that were asked for, by column and group. */
  private lists = new Map<string, Map<string, Cell[]>>();
  private shared: Effort | null = null;

  constructor(private readonly input: ReckonerInput<'expression'>) {
    const parsed = parseFormula(input.worked.formula);
    this.tree = parsed.ok ? parsed.value : null;
    this.problem = parsed.ok ? null : parsed.problem;
    this.together = this.tree !== null && calls(this.tree, 'ALL');
  }

  begin(): void {
    this.lists = new Map();
    this.shared = new Effort(this.effort() * this.input.rollCells.entries.length);
  }

  /** What a cell may cost: less in a large roll with many formulas, so that the whole stays within bounds. */
  private effort(): number {
    const { rollCells } = this.input;
    let formulas = 0;
    for (const { worked } of rollCells.columns.values()) if (worked?.kind === 'expression') formulas++;
    return cellEffort(rollCells.entries.length * formulas);
  }

  row(at: number): Cell {
    if (!this.tree) return errorFor('#NAME?', this.problem!);
    // Where entries are compared, the first pays for what all of them ask of the list, so they share what they may cost.
    const effort = this.together && this.shared ? this.shared : new Effort(this.effort());
    return this.finish(evaluate(this.tree, this.around(at), undefined, effort));
  }

  private finish(cell: Cell): Cell {
    return cell.kind === 'number' ? number(cell.exact, this.input.worked.rounding) : cell;
  }

  private around(at: number): Surroundings {
    const { rollCells } = this.input;
    return {
      cell: (columnId) => rollCells.cell(columnId, at),
      all: (columnId, within) => this.list(columnId, within, at),
      own: (title, table) => this.own(title, table, at),
      today: rollCells.today,
    };
  }

  /** A column's cells for all entries that are in and agree in the columns `within`. */
  private list(columnId: string, within: readonly string[], at: number): readonly Cell[] {
    const { rollCells } = this.input;
    const key = [columnId, ...within].join(' ');
    let groups = this.lists.get(key);
    if (!groups) {
      groups = new Map();
      for (let n = 0; n < rollCells.entries.length; n++) {
        if (!rollCells.isIn(n)) continue;
        const name = rollCells.group(within, n);
        const cells = groups.get(name);
        if (cells) cells.push(rollCells.cell(columnId, n));
        else groups.set(name, [rollCells.cell(columnId, n)]);
      }
      this.lists.set(key, groups);
    }
    return groups.get(rollCells.group(within, at)) ?? [];
  }

  private own(title: string, table: string | null, at: number): readonly Cell[] {
    const { rollCells } = this.input;
    const plain = (text: string): string => text.trim().toLowerCase();
    const shapes = rollCells.tables.filter(
      ({ name }) => table === null || plain(name).includes(plain(table)),
    );
    for (const shape of shapes) {
      const column = shape.columns.findIndex((one) => plain(one.title) === plain(title));
      if (column >= 0)
        return (rollCells.entries[at]!.tables?.[shape.id] ?? []).map((row) =>
          tableCell(row[column] ?? '', shape.columns[column]!),
        );
    }
    return stop('#REF!', 'no-joined-column', { title: title.slice(0, 60) });
  }

  explain(at: number): Step[] {
    if (!this.tree) return [];
    const { rollCells, worked, column } = this.input;
    const steps: Step[] = [];
    const columnIds = [
      ...new Set(worked.formula.flatMap((part) => ('columnId' in part ? [part.columnId] : []))),
    ];
    if (columnIds.length > 0) {
      steps.push(
        step(
          phrase('with'),
          columnIds.map(
            (id) => `${rollCells.title(id)} ${this.say(rollCells.cell(id, at)) || phrase('blank')}`,
          ),
        ),
      );
    }
    const seen: Step[] = [];
    const cell = evaluate(this.tree, this.around(at), (trace) => seen.push(this.tell(trace)));
    steps.push(...(seen.length > 24 ? [...seen.slice(0, 12), ...seen.slice(-12)] : seen));
    const shown = this.finish(cell);
    if (cell.kind === 'number' && shown.kind === 'number' && worked.rounding && cell.shown !== shown.shown)
      steps.push(
        step(
          phrase('rounded-how', { mode: worked.rounding.mode }),
          [this.say(cell)],
          withSign(shown.shown, rollCells.decimal(column.id)),
        ),
      );
    return steps;
  }

  private tell({ name, given, result }: Trace): Step {
    const texts = given.map((operand) => this.sayOperand(operand));
    if (/^\W+$/.test(name)) {
      const label =
        texts.length === 1
          ? name === '%'
            ? phrase('percent', { value: texts[0]! })
            : `${name} ${texts[0]}`
          : `${texts[0]} ${name} ${texts[1]}`;
      return step(label, [], this.sayOperand(result));
    }
    return step(name, texts, this.sayOperand(result));
  }

  private sayOperand(operand: Operand): string {
    if (!isList(operand)) return this.say(operand) || phrase('blank');
    const first = operand.slice(0, 4).map((cell) => this.say(cell) || phrase('blank'));
    return operand.length > 4 ? phrase('so-many-in-all', { first, count: operand.length }) : first.join(', ');
  }

  private say(cell: Cell): string {
    const decimal = this.input.rollCells.decimal(this.input.column.id);
    if (cell.kind === 'number') return withSign(plainRatio(cell.exact), decimal);
    if (cell.kind === 'error') return cell.code;
    return cellText(cell, decimal).slice(0, 120);
  }

  notices(): Notice[] {
    const { rollCells, column } = this.input;
    const { title } = column;
    if (this.problem) return [notice('formula-wrong-in', [], { title, why: this.problem })];
    const found = new Map<string, { why: Saying; places: number[] }>();
    for (let at = 0; at < rollCells.entries.length; at++) {
      const cell = rollCells.isIn(at) ? rollCells.worked.get(column.id)?.[at] : undefined;
      if (cell?.kind !== 'error') continue;
      const sentence = say(cell.reason);
      const known = found.get(sentence);
      if (known) known.places.push(at);
      else found.set(sentence, { why: cell.reason, places: [at] });
    }
    return [...found.values()]
      .slice(0, 5)
      .map(({ why, places }) => notice('formula-error', places, { title, why }));
  }
}

function tableCell(written: string, column: { type?: string | undefined }): Cell {
  const plain = written.trim();
  if (plain === '') return { kind: 'blank' };
  return column.type === 'number' || /^-?\d+(?:\.\d+)?$/.test(plain)
    ? numberOrText(plain)
    : { kind: 'text', text: plain };
}

function numberOrText(plain: string): Cell {
  const decimal = readNumber(plain) ?? readNumber(plain, ',');
  return decimal === null ? { kind: 'text', text: plain } : number(ratio(decimal), null);
}

function calls(tree: Tree, name: string): boolean {
  switch (tree.kind) {
    case 'call':
      return tree.name === name || tree.given.some((one) => calls(one, name));
    case 'operation':
      return tree.operands.some((one) => calls(one, name));
    default:
      return false;
  }
}
