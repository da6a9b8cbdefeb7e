import { saying } from '../../sentences/index.js';
import { blankFor, error, text, truth, type Cell } from '../cell.js';
import type { Ratio } from '../../ratio/index.js';
import { bounded, Effort, spend, withEffort, joined } from './effort.js';
import { FUNCTIONS, type Surroundings } from './functions.js';
import type { Tree } from './parse.js';
import {
  compare,
  dateCell,
  isList,
  numberCell,
  numberOf,
  one,
  raise,
  Stop,
  stop,
  textOf,
  type Operand,
} from './values.js';

/** One step of a reckoning, for people to follow. */
export interface Trace {
  readonly name: string;
  readonly given: readonly Operand[];
  readonly result: Operand;
}

/**
 * Works a formula out for one entry, walking its tree.
 *
 * @param around what it can ask for: the entry's columns, other entries, small tables, today.
 * @param traced takes each sign and call as it is worked out.
 * @param effort what it may cost.
 * @returns a single cell; a list gives its items, joined.
 */
export function evaluate(
  tree: Tree,
  around: Surroundings,
  traced?: (trace: Trace) => void,
  effort = new Effort(),
): Cell {
  try {
    return withEffort(effort, () => single(walk(tree, around, traced)));
  } catch (caught) {
    if (caught instanceof Stop) return caught.cell;
    // What nobody foresaw, such as a number that no date has: an error in its cell, never in its place.
    return error('#VALUE!', 'formula-values');
  }
}

/** A list as one cell: its items, joined. */
function single(result: Operand): Cell {
  if (!isList(result)) return result;
  if (result.length === 1) return result[0]!;
  return text(joined(result.map((cell) => textOf(cell)).filter(Boolean), ', '));
}

function walk(tree: Tree, around: Surroundings, traced: ((trace: Trace) => void) | undefined): Operand {
  spend(1);
  const below = (child: Tree): Operand => walk(child, around, traced);
  switch (tree.kind) {
    case 'number':
      return numberCell(tree.value);
    case 'text':
      return { kind: 'text', text: tree.text };
    case 'truth':
      return truth(tree.truth);
    case 'column':
      return around.cell(tree.columnId);
    case 'operation': {
      const operands = tree.operands.map(below);
      const result = bounded(operate(tree.sign, operands)) as Cell;
      traced?.({ name: tree.sign, given: operands, result });
      return result;
    }
    case 'call': {
      const known = FUNCTIONS[tree.name];
      if (!known) return stop('#NAME?', 'no-function', { name: tree.name });
      const [least, most] = known.counts;
      if (tree.given.length < least || tree.given.length > most) {
        return stop('#VALUE!', 'function-values', {
          name: tree.name,
          least,
          most: most === Infinity ? null : most,
          got: tree.given.length,
        });
      }
      if ('lazy' in known) {
        const result = bounded(known.lazy(tree.given, below, around));
        traced?.({ name: tree.name, given: [], result });
        return result;
      }
      const given = tree.given.map(below);
      const result = bounded(apply(tree.name, known.of, given, around));
      traced?.({ name: tree.name, given, result });
      return result;
    }
  }
}

/** Functions that put their list in order. */
const ORDERING = new Set([
  'MEDIAN',
  'MIN',
  'MAX',
  'LARGE',
  'SMALL',
  'PERCENTILE',
  'QUARTILE',
  'PERCENTRANK',
  'MODE',
]);

/**
 * What functions make of whole columns, by the list. All entries of a class get the same list, and most formulas ask the
 * same of it: the mean, how many are above 50.
 */
const ofLists = new WeakMap<readonly Cell[], Map<string, Operand>>();

function apply(
  name: string,
  of: (given: readonly Operand[], around: Surroundings) => Operand,
  given: readonly Operand[],
  around: Surroundings,
): Operand {
  const lists = given.filter(isList);
  const items = lists.reduce((sum, list) => sum + list.length, 0);
  const [list] = lists;
  const key = lists.length === 1 && list && items > 8 ? keyOf(name, given) : null;
  const known = key !== null && list ? ofLists.get(list)?.get(key) : undefined;
  if (known) return known;
  spend(items * (ORDERING.has(name) ? 8 : 1));
  const result = of(given, around);
  if (key !== null && list) {
    const results = ofLists.get(list) ?? new Map<string, Operand>();
    if (results.size > 200) results.clear();
    ofLists.set(list, results.set(key, result));
  }
  return result;
}

/** What is asked of a list, apart from the list. Null where it is not only numbers and short texts. */
function keyOf(name: string, given: readonly Operand[]): string | null {
  const parts = [name];
  for (const operand of given) {
    if (isList(operand)) parts.push('list');
    else if (operand.kind === 'number') parts.push(`n${operand.exact.toFraction()}`);
    else if (operand.kind === 'text' && operand.text.length < 100) parts.push(`t${operand.text}`);
    else if (operand.kind === 'truth') parts.push(String(operand.truth));
    else return null;
  }
  return parts.join('\u0000');
}

function operate(sign: string, operands: readonly Operand[]): Cell {
  const [left, right] = operands as [Operand, Operand];
  switch (sign) {
    case '%':
      return numberCell(numberOf(left).div(100));
    case '&':
      return text(textOf(left) + textOf(right));
    case '=':
      return truth(compare(left, right) === 0);
    case '<>':
      return truth(compare(left, right) !== 0);
    case '<':
    case '<=':
    case '>':
    case '>=':
      return ordered(sign, one(left), one(right));
  }
  if (operands.length === 1) {
    const value = numberOf(left);
    return numberCell(sign === '-' ? value.neg() : value);
  }
  return calculate(sign, left, right);
}

function calculate(sign: string, left: Operand, right: Operand): Cell {
  const a = numberOf(left);
  const b = numberOf(right);
  switch (sign) {
    case '+':
      return keepDate(left, right, a.add(b), 1);
    case '-':
      return keepDate(left, right, a.sub(b), 0);
    case '*':
      return numberCell(a.mul(b));
    case '/':
      return b.equals(0) ? stop('#DIV/0!', 'divided-by-zero') : numberCell(a.div(b));
    default:
      return raise(a, b);
  }
}

/** A date and a number of days make a date; two dates make a number of days. */
function keepDate(left: Operand, right: Operand, value: Ratio, most: number): Cell {
  const dates = [left, right].map((operand) => one(operand).kind === 'date');
  if (dates[0] && !dates[1]) return dateCell(value);
  if (dates[1] && !dates[0] && most === 1) return dateCell(value);
  return numberCell(value);
}

function ordered(sign: string, left: Cell, right: Cell): Cell {
  for (const cell of [left, right]) {
    if (cell.kind === 'error') throw new Stop(cell);
    if (cell.kind === 'blank') throw new Stop(blankFor(cell.why ?? saying('compared-blank')));
  }
  const order = compare(left, right);
  switch (sign) {
    case '<':
      return truth(order < 0);
    case '<=':
      return truth(order <= 0);
    case '>':
      return truth(order > 0);
    default:
      return truth(order >= 0);
  }
}
