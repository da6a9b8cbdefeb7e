import type { Column } from '@scriptum/core/column';
import type { CellTest, Comparison, Condition, PaperTest } from '@scriptum/core/condition';
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
  /** What stands in a column's cells, to be chosen from; nothing where it is only typed. */
  readonly cellsOf?: (columnId: string) => readonly string[];
  /** True where it may be asked what was made for a learner before. */
  readonly papers?: boolean;
}

/** A test of a cell, or of what was made before. */
export type OneTest = CellTest | PaperTest;

const PAPERS: readonly { is: PaperTest['papers']; text: string; hint: string }[] = [
  { is: 'new', text: 'the learner is new', hint: 'no paper stands for them' },
  { is: 'not new', text: 'the learner is not new', hint: 'they have a paper' },
  {
    is: 'changed',
    text: 'something changed since their last paper',
    hint: 'a cell of theirs is another one',
  },
  { is: 'not changed', text: 'nothing changed since their last paper', hint: 'new learners count too' },
];
const PAPERS_VALUE = 'papers ';

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

/** What a test may look at. */
function lookedAt(around: ConditionSurroundings): SentenceOption[] {
  return [
    { value: OUT, label: 'Take this out' },
    ...(around.papers
      ? PAPERS.map(({ is, text, hint }) => ({ value: PAPERS_VALUE + is, label: text, hint }))
      : []),
    ...columnOptions(around),
  ];
}

/** The words for one test of a cell; the parts are `if`, `is` and `with`, each with the number `n` behind it. */
export function testPieces(test: OneTest, n: number, around: ConditionSurroundings): SentencePiece[] {
  if ('papers' in test) {
    const said = PAPERS.find(({ is }) => is === test.papers)!;
    return [
      {
        id: `if ${n}`,
        label: 'what is looked at',
        text: said.text,
        value: PAPERS_VALUE + said.is,
        options: lookedAt(around),
      },
    ];
  }
  const { columnId, is, values } = test;
  const compared = TESTS.find((one) => one.is === is);
  const title = titleOf(columnId, around.columns);
  const pieces: SentencePiece[] = [
    {
      id: `if ${n}`,
      label: 'whose value is looked at',
      text: title ?? 'choose a column',
      value: columnId,
      options: lookedAt(around),
      ...(title === null ? { look: 'missing' as const } : {}),
    },
    ' ',
    {
      id: `is ${n}`,
      label: 'how it is compared',
      text: compared?.text ?? is,
      value: is,
      options: TESTS.map((one) => ({ value: one.is, label: one.text })),
    },
  ];
  const count = compared?.count ?? (values.length > 0 ? 1 : 0);
  const cells = around.cellsOf?.(columnId) ?? [];
  if (count >= 1)
    pieces.push(' ', withPart(`with ${n}`, count === 1 ? values.join(', ') : (values[0] ?? ''), cells));
  if (count === 2) pieces.push(' and ', withPart(`and ${n}`, values[1] ?? '', cells));
  return pieces;
}

const withPart = (id: string, value: string, cells: readonly string[]): SentencePart => ({
  id,
  label: 'what it is compared with',
  text: value || 'what?',
  value,
  options: cells.map((cell) => ({ value: cell, label: cell })),
  typed: 'Compare with this',
  ...(value ? {} : { look: 'missing' as const }),
});

/** The test with what was chosen in a part of its sentence that is not `out`. */
export function changeTest(test: OneTest, part: string, value: string): OneTest {
  if (part === 'if' && value.startsWith(PAPERS_VALUE))
    return { papers: value.slice(PAPERS_VALUE.length) as PaperTest['papers'] };
  if ('papers' in test) return part === 'if' ? newTest(value) : test;
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
export interface FlatCondition {
  readonly how: 'all' | 'any';
  readonly tests: readonly OneTest[];
}

/** A condition as tests in a row; null for one that is nested. */
export function flatOf(condition: Condition): FlatCondition | null {
  if (isOneTest(condition)) return { how: 'all', tests: [condition] };
  const how = 'all' in condition ? 'all' : 'any' in condition ? 'any' : null;
  if (how === null) return null;
  const parts = 'all' in condition ? condition.all : 'any' in condition ? condition.any : [];
  return parts.every(isOneTest) ? { how, tests: parts } : null;
}

const isOneTest = (one: Condition): one is OneTest => 'columnId' in one || 'papers' in one;

const together = (how: 'all' | 'any', tests: readonly OneTest[]): Condition =>
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
  return [begin, choice('only if'), ' ', ...flatPieces(flat, around), '. ', addPart(flat)];
}

/** Tests in a row, with what puts them together. */
export function flatPieces(flat: FlatCondition, around: ConditionSurroundings): SentencePiece[] {
  const pieces: SentencePiece[] = [];
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
  return pieces;
}

/** Puts another test in. */
export const addPart = (flat: FlatCondition): SentencePart => ({
  id: 'add',
  label: 'put something in',
  text: '+',
  value: '',
  options: [
    { value: 'all', label: 'And …' },
    { value: 'any', label: 'Or …' },
  ].filter(({ value }) => flat.tests.length < 2 || value === flat.how),
  look: 'add',
});

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
  if (id === 'add') {
    const last = tests.at(-1)!;
    const columnId = 'columnId' in last ? last.columnId : first?.id;
    return columnId ? together(value as 'all' | 'any', [...tests, newTest(columnId)]) : condition;
  }
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
