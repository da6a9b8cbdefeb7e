import { blank, error, truth, type Cell } from '../../cell.js';
import type { Tree } from '../parse.js';
import { compare, cellsOf, one, Stop, stop, truthOf, wholeOf, type Operand } from '../values.js';
import type { Functions } from './kinds.js';

/** What is given as truths; blanks are passed over, but where there is nothing else the result is blank. @throws Stop */
function truths(given: readonly Operand[]): boolean[] {
  const filled = cellsOf(given).filter((cell) => cell.kind !== 'blank');
  if (filled.length === 0) throw new Stop(blank('asked-blank'));
  return filled.map((cell) => truthOf(cell));
}

/** What a part comes to, an error caught as a cell. */
function caught(tree: Tree, below: (tree: Tree) => Operand): Operand {
  try {
    return below(tree);
  } catch (problem) {
    if (problem instanceof Stop) return problem.cell;
    throw problem;
  }
}

const isError = (operand: Operand): boolean => cellsOf([operand]).some((cell) => cell.kind === 'error');
const about = (is: (cell: Cell) => boolean) => ({
  counts: [1, 1] as const,
  lazy: (given: readonly Tree[], below: (tree: Tree) => Operand): Operand =>
    truth(is(one(caught(given[0]!, below)))),
});

/** ODF 1.3 Part 4, 6.15 (logical) and 6.13 (information). */
export const LOGIC: Functions = {
  IF: {
    counts: [2, 3],
    usage: 'IF(condition; then; else)',
    gives: 'One of two values.',
    lazy: (given, below) =>
      truthOf(below(given[0]!)) ? below(given[1]!) : given[2] ? below(given[2]) : blank('condition-unmet'),
  },
  IFS: {
    counts: [2, 60],
    usage: 'IFS(condition; value; …)',
    gives: 'The value after the first condition that is met.',
    lazy: (given, below) => {
      for (let n = 0; n + 1 < given.length; n += 2)
        if (truthOf(below(given[n]!))) return below(given[n + 1]!);
      return stop('#N/A', 'ifs-unmet');
    },
  },
  SWITCH: {
    counts: [3, 60],
    usage: 'SWITCH(value; case; result; …; else)',
    gives: 'The result after the case that is alike.',
    lazy: (given, below) => {
      const value = below(given[0]!);
      for (let n = 1; n + 1 < given.length; n += 2)
        if (compare(value, below(given[n]!)) === 0) return below(given[n + 1]!);
      return given.length % 2 === 0 ? below(given.at(-1)!) : stop('#N/A', 'switch-unmet');
    },
  },
  IFERROR: {
    counts: [2, 2],
    usage: 'IFERROR(value; instead)',
    gives: 'The value, or the other where it is an error.',
    lazy: (given, below) => {
      const value = caught(given[0]!, below);
      return isError(value) ? below(given[1]!) : value;
    },
  },
  IFNA: {
    counts: [2, 2],
    usage: 'IFNA(value; instead)',
    gives: 'The value, or the other where nothing was found.',
    lazy: (given, below) => {
      const value = caught(given[0]!, below);
      return cellsOf([value]).some((cell) => cell.kind === 'error' && cell.code === '#N/A')
        ? below(given[1]!)
        : value;
    },
  },
  IFBLANK: {
    counts: [2, 2],
    usage: 'IFBLANK(value; instead)',
    gives: 'The value, or the other where it is blank.',
    lazy: (given, below) => {
      const value = caught(given[0]!, below);
      return cellsOf([value]).every((cell) => cell.kind === 'blank') ? below(given[1]!) : value;
    },
  },
  AND: {
    counts: [1, 60],
    usage: 'AND(a; b; …)',
    gives: 'True where all are.',
    of: (given) => truth(truths(given).every(Boolean)),
  },
  OR: {
    counts: [1, 60],
    usage: 'OR(a; b; …)',
    gives: 'True where one is.',
    of: (given) => truth(truths(given).some(Boolean)),
  },
  XOR: {
    counts: [1, 60],
    usage: 'XOR(a; b; …)',
    gives: 'True where an odd number of them is.',
    of: (given) => truth(truths(given).filter(Boolean).length % 2 === 1),
  },
  NOT: { counts: [1, 1], usage: 'NOT(a)', gives: 'The opposite.', of: ([a]) => truth(!truthOf(a!)) },
  CHOOSE: {
    counts: [2, 60],
    usage: 'CHOOSE(number; first; second; …)',
    gives: 'The value at that place.',
    lazy: (given, below) => {
      const at = wholeOf(below(given[0]!));
      return at >= 1 && at < given.length
        ? below(given[at]!)
        : stop('#VALUE!', 'choose-place', { place: at });
    },
  },
  NA: {
    counts: [0, 0],
    usage: 'NA()',
    gives: 'The error “not available”.',
    of: () => error('#N/A', 'says-nothing'),
  },
  ISBLANK: {
    ...about((cell) => cell.kind === 'blank'),
    usage: 'ISBLANK(value)',
    gives: 'True where it is blank.',
  },
  ISNUMBER: {
    ...about((cell) => cell.kind === 'number' || cell.kind === 'date'),
    usage: 'ISNUMBER(value)',
    gives: 'True where it is a number.',
  },
  ISTEXT: {
    ...about((cell) => cell.kind === 'text' || cell.kind === 'list'),
    usage: 'ISTEXT(value)',
    gives: 'True where it is a text.',
  },
  ISLOGICAL: {
    ...about((cell) => cell.kind === 'truth'),
    usage: 'ISLOGICAL(value)',
    gives: 'True where it is true or false.',
  },
  ISERROR: {
    ...about((cell) => cell.kind === 'error'),
    usage: 'ISERROR(value)',
    gives: 'True where it is an error.',
  },
  ISNA: {
    ...about((cell) => cell.kind === 'error' && cell.code === '#N/A'),
    usage: 'ISNA(value)',
    gives: 'True where nothing was found.',
  },
};
