import { saying } from '../../../sentences/index.js';
import { BLANK, blankFor } from '../../cell.js';
import type { Tree } from '../parse.js';
import {
  compare,
  cellsOf,
  numberCell,
  numberOf,
  one,
  Stop,
  stop,
  textOf,
  whole,
  wholeOf,
  type Operand,
} from '../values.js';
import type { Functions } from './kinds.js';

function columnOf(tree: Tree | undefined, name: string): string {
  return tree?.kind === 'column' ? tree.columnId : stop('#VALUE!', 'needs-column', { name });
}

/** The place of a value: alike (0), or the last that is not above it (1) or not below it (-1), in a list that is in order. */
function match([value, list, type]: readonly Operand[]): number {
  const wanted = one(value!);
  if (wanted.kind === 'blank') throw new Stop(blankFor(wanted.why ?? saying('looked-up-blank')));
  const cells = cellsOf([list!]);
  const how = type ? wholeOf(type) : 1;
  if (how === 0) return cells.findIndex((cell) => cell.kind !== 'blank' && compare(cell, value!) === 0);
  let found = -1;
  cells.forEach((cell, n) => {
    if (cell.kind === 'blank') return;
    const order = compare(cell, value!);
    if (how > 0 ? order <= 0 : order >= 0) found = n;
  });
  return found;
}

/** ODF 1.3 Part 4, 6.14 (lookup), and the lists that a roll has. */
export const LISTS: Functions = {
  ALL: {
    counts: [1, 5],
    usage: 'ALL(column; class)',
    gives: 'The column for all entries, or for those of the same class.',
    lazy: (given, _, around) =>
      around.all(
        columnOf(given[0], 'ALL'),
        given.slice(1).map((tree) => columnOf(tree, 'ALL')),
      ),
  },
  OWN: {
    counts: [1, 2],
    usage: 'OWN("column"; "table")',
    gives: 'A column of the entry’s own small table.',
    of: ([title, table], around) => around.own(textOf(title!), table ? textOf(table) : null),
  },
  LIST: {
    counts: [1, 200],
    usage: 'LIST(a; b; …)',
    gives: 'Several values as one list.',
    of: (given) => cellsOf(given),
  },
  INDEX: {
    counts: [2, 2],
    usage: 'INDEX(list; place)',
    gives: 'The value at a place of a list.',
    of: ([list, at]) => {
      const place = wholeOf(at!);
      return cellsOf([list!])[place - 1] ?? stop('#REF!', 'no-place', { place });
    },
  },
  MATCH: {
    counts: [2, 3],
    usage: 'MATCH(value; list; 0)',
    gives: 'The place of a value in a list.',
    of: (given) => {
      const at = match(given);
      return at < 0 ? stop('#N/A', 'not-in-list', { text: textOf(given[0]!) }) : whole(at + 1);
    },
  },
  LOOKUP: {
    counts: [3, 3],
    usage: 'LOOKUP(value; list; results)',
    gives: 'The result beside the last value that is not above.',
    of: ([value, list, results]) => {
      const at = match([value!, list!]);
      return at < 0
        ? stop('#N/A', 'below-list', { text: textOf(value!) })
        : (cellsOf([results!])[at] ?? stop('#REF!', 'results-few'));
    },
  },
  ITEMS: {
    counts: [1, 1],
    usage: 'ITEMS(column)',
    gives: 'The choices of a cell with several, as a list.',
    of: ([a]) =>
      cellsOf([a!]).flatMap((cell) =>
        cell.kind === 'list' ? cell.items.map((item) => ({ kind: 'text' as const, text: item })) : [cell],
      ),
  },
  N: {
    counts: [1, 1],
    usage: 'N(value)',
    gives: 'The number, or 0 for what is none.',
    of: ([a]) => {
      const cell = cellsOf([a!])[0] ?? BLANK;
      if (cell.kind === 'error') throw new Stop(cell);
      return cell.kind === 'number' || cell.kind === 'date' || cell.kind === 'truth'
        ? numberCell(numberOf(cell))
        : whole(0);
    },
  },
};
