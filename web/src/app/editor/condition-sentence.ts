import type { Column } from '@scriptum/core/column';
import type { CellTest, Comparison, Condition } from '@scriptum/core/condition';
import type { Entry } from '@scriptum/core/roll';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../ui/sentence/sentence-piece';

/** What a condition's sentence is made for. */
export interface ConditionSurroundings {
  readonly columns: readonly Column[];
  /** The picked learner, whose values are the examples. */
  readonly entry: Entry | undefined;
}

const TESTS: readonly { is: Comparison; text: string; count: 0 | 1 | 2 }[] = [
  { is: 'equal', text: 'is', count: 1 },
  { is: 'unequal', text: 'is not', count: 1 },
  { is: 'at least', text: 'is at least', count: 1 },
  { is: 'over', text: 'is over', count: 1 },
  { is: 'at most', text: 'is at most', count: 1 },
  { is: 'under', text: 'is under', count: 1 },
  { is: 'between', text: 'is between', count: 2 },
  { is: 'contains', text: 'contains', count: 1 },
  { is: 'contains not', text: 'does not contain', count: 1 },
  { is: 'begins with', text: 'begins with', count: 1 },
  { is: 'blank', text: 'is blank', count: 0 },
  { is: 'not blank', text: 'is filled in', count: 0 },
  { is: 'true', text: 'is yes', count: 0 },
  { is: 'false', text: 'is no', count: 0 },
];

/** Taken for a column: the test goes out. */
export const OUT = 'out';

export const columnOptions = ({ columns, entry }: ConditionSurroundings): SentenceOption[] =>
  columns.map(({ id, title }) => {
    const hint = entry?.values[id] || entry?.worked?.[id];
    return { value: id, label: title, ...(hint ? { hint: hint.slice(0, 60) } : {}) };
  });

export const titleOf = (columnId: string | null, columns: readonly Column[]): string | null =>
  columns.find(({ id }) => id === columnId)?.title ?? null;

/** A test that is to be filled in. */
export const newTest = (columnId: string): CellTest => ({ columnId, is: 'equal', values: [''] });

/** The words for one test of a cell; the parts are `if`, `is` and `with`, each with the number `n` behind it. */
export function testPieces(
  { columnId, is, values }: CellTest,
  n: number,
  around: ConditionSurroundings,
): SentencePiece[] {
  const test = TESTS.find((one) => one.is === is);
  const title = titleOf(columnId, around.columns);
  const pieces: SentencePiece[] = [
    {
      id: `if ${n}`,
      label: 'whose value is looked at',
      text: title ?? 'choose a column',
      value: columnId,
      options: [{ value: OUT, label: 'Take this out' }, ...columnOptions(around)],
      ...(title === null ? { look: 'missing' as const } : {}),
    },
    ' ',
    {
      id: `is ${n}`,
      label: 'how it is compared',
      text: test?.text ?? is,
      value: is,
      options: TESTS.map((one) => ({ value: one.is, label: one.text })),
    },
  ];
  const count = test?.count ?? (values.length > 0 ? 1 : 0);
  if (count >= 1)
    pieces.push(' ', withPart(`with ${n}`, count === 1 ? values.join(', ') : (values[0] ?? '')));
  if (count === 2) pieces.push(' and ', withPart(`and ${n}`, values[1] ?? ''));
  return pieces;
}

const withPart = (id: string, value: string): SentencePart => ({
  id,
  label: 'what it is compared with',
  text: value || 'what?',
  value,
  options: [],
  typed: 'Compare with this',
  ...(value ? {} : { look: 'missing' as const }),
});

/** The test with what was chosen in a part of its sentence that is not `out`. */
export function changeTest(test: CellTest, part: string, value: string): CellTest {
  switch (part) {
    case 'if':
      return { ...test, columnId: value };
    case 'is': {
      const { count } = TESTS.find((one) => one.is === value)!;
      const [first = '', second = ''] = test.values;
      return { ...test, is: value as Comparison, values: [first, second].slice(0, count) };
    }
    case 'with':
      return { ...test, values: [value, ...test.values.slice(1)] };
    default:
      return { ...test, values: [test.values[0] ?? '', value] };
  }
}

/** Tests that are put together in one way, which is all that a sentence is long enough for. */
interface FlatCondition {
  readonly how: 'all' | 'any';
  readonly tests: readonly CellTest[];
}

/** A condition as tests in a row; null for one that is nested. */
export function flatOf(condition: Condition): FlatCondition | null {
  if ('columnId' in condition) return { how: 'all', tests: [condition] };
  const how = 'all' in condition ? 'all' : 'any' in condition ? 'any' : null;
  if (how === null) return null;
  const parts = 'all' in condition ? condition.all : 'any' in condition ? condition.any : [];
  return parts.every((one): one is CellTest => 'columnId' in one) ? { how, tests: parts } : null;
}

const together = (how: 'all' | 'any', tests: readonly CellTest[]): Condition =>
  tests.length === 1 ? tests[0]! : how === 'all' ? { all: tests } : { any: tests };

/** What a part of a text stands under, as a sentence; null is a part that stands in every paper. */
export function partSentence(
  condition: Condition | null,
  around: ConditionSurroundings,
  begin = 'This block stands ',
): SentencePiece[] {
  const choice = (text: string): SentencePiece => ({
    id: 'stands',
    label: 'when it stands',
    text,
    value: condition === null ? 'always' : 'if',
    options: [
      { value: 'always', label: 'In every paper' },
      { value: 'if', label: 'Only if …', hint: 'In the papers of some learners' },
    ],
  });
  if (condition === null) return [begin, choice('in every paper'), '.'];
  const flat = flatOf(condition);
  if (!flat) return [begin, choice('only if'), ' a condition of several kinds holds.'];
  const pieces: SentencePiece[] = [begin, choice('only if'), ' '];
  flat.tests.forEach((test, n) => {
    if (n === 1)
      pieces.push(' ', {
        id: 'how',
        label: 'how they are put together',
        text: flat.how === 'all' ? 'and' : 'or',
        value: flat.how,
        options: [
          { value: 'all', label: 'and' },
          { value: 'any', label: 'or' },
        ],
      });
    else if (n > 1) pieces.push(flat.how === 'all' ? ' and' : ' or');
    if (n > 0) pieces.push(' ');
    pieces.push(...testPieces(test, n, around));
  });
  return [
    ...pieces,
    '. ',
    {
      id: 'add',
      label: 'put something in',
      text: '+',
      value: '',
      options: [
        { value: 'all', label: 'And …' },
        { value: 'any', label: 'Or …' },
      ].filter(({ value }) => flat.tests.length < 2 || value === flat.how),
      look: 'add',
    },
  ];
}

/** The condition with what was chosen in its sentence; null where the part stands in every paper then. */
export function changePart(
  condition: Condition | null,
  { id, value }: SentenceChange,
  { columns }: ConditionSurroundings,
): Condition | null {
  const first = columns[0];
  if (id === 'stands') return value === 'always' || !first ? null : (condition ?? newTest(first.id));
  const flat = condition && flatOf(condition);
  if (!flat) return condition;
  const { how, tests } = flat;
  if (id === 'how') return together(value as 'all' | 'any', tests);
  if (id === 'add') return together(value as 'all' | 'any', [...tests, newTest(tests.at(-1)!.columnId)]);
  const [part = '', at = ''] = id.split(' ');
  const n = Number(at);
  if (part === 'if' && value === OUT) {
    const left = tests.filter((_, k) => k !== n);
    return left.length === 0 ? null : together(how, left);
  }
  return together(
    how,
    tests.map((test, k) => (k === n ? changeTest(test, part, value) : test)),
  );
}
