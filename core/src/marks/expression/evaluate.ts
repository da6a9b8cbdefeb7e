import { blank, text, truth, type Cell } from '../cell.js';
import { nearest, type Ratio } from '../ratio.js';
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
 * @returns a single cell; a list gives its items, joined.
 */
export function evaluate(tree: Tree, around: Surroundings, traced?: (trace: Trace) => void): Cell {
  try {
    const result = walk(tree, around, traced);
    if (!isList(result)) return result;
    if (result.length === 1) return result[0]!;
    return text(
      result
        .map((cell) => textOf(cell))
        .filter(Boolean)
        .join(', '),
    );
  } catch (caught) {
    if (caught instanceof Stop) return caught.cell;
    throw caught;
  }
}

function walk(tree: Tree, around: Surroundings, traced: ((trace: Trace) => void) | undefined): Operand {
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
      const result = operate(tree.sign, operands);
      traced?.({ name: tree.sign, given: operands, result });
      return result;
    }
    case 'call': {
      const known = FUNCTIONS[tree.name];
      if (!known)
        return stop(
          '#NAME?',
          `There is no function ${tree.name}. The list beside the formula names those there are.`,
        );
      const [least, most] = known.counts;
      if (tree.given.length < least || tree.given.length > most) {
        return stop(
          '#VALUE!',
          `${tree.name} takes ${least === most ? least : most === Infinity ? `${least} or more` : `${least} to ${most}`} values, and got ${tree.given.length}.`,
        );
      }
      if ('lazy' in known) {
        const result = known.lazy(tree.given, below, around);
        traced?.({ name: tree.name, given: [], result });
        return result;
      }
      const given = tree.given.map(below);
      const result = known.of(given, around);
      traced?.({ name: tree.name, given, result });
      return result;
    }
  }
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
      return b.equals(0) ? stop('#DIV/0!', 'Something is divided by zero.') : numberCell(a.div(b));
    default:
      return raise(a, b);
  }
}

/** A date and a number of days make a date; two dates make a number of days. */
function keepDate(left: Operand, right: Operand, value: Ratio, most: number): Cell {
  const dates = [left, right].map((operand) => one(operand).kind === 'date');
  if (dates[0] && !dates[1]) return dateCell(nearest(value));
  if (dates[1] && !dates[0] && most === 1) return dateCell(nearest(value));
  return numberCell(value);
}

function ordered(sign: string, left: Cell, right: Cell): Cell {
  for (const cell of [left, right]) {
    if (cell.kind === 'error') throw new Stop(cell);
    if (cell.kind === 'blank') throw new Stop(blank(cell.why ?? 'something it is compared with is blank'));
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
