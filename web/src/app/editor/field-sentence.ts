import type { Cohort } from '@scriptum/core/fill';
import { printValue, type Column, type ColumnType, type FillFormat, type Value } from '@scriptum/core/column';
import type { CellTest } from '@scriptum/core/condition';
import { meaningOf, nameColumns, type Entry } from '@scriptum/core/roll';
import { isMatched, type Field, type WhenBlank } from '@scriptum/core/template';
import { changeLookUp, lookUpPieces, type JoinedSheet } from './look-up-sentence';
import { changeTest, columnOptions, newTest, OUT, testPieces, titleOf } from './condition-sentence';
import type { SentenceChange, SentenceOption, SentencePiece } from '../ui/sentence/sentence-piece';

/** What a field's sentence is made for. */
export interface FieldSurroundings {
  readonly columns: readonly Column[];
  /** The picked learner, whose values are the examples. */
  readonly entry: Entry | undefined;
  /** Joined sheets of which each learner has rows, with the titles of their columns. */
  readonly sheets?: readonly JoinedSheet[];
  /** The others, and in what form they have their values. */
  readonly cohort?: Cohort | undefined;
  /** BCP 47. */
  readonly language: string;
  /** Today at the school, ISO 8601. */
  readonly day: string;
  /** What the field stands in: a text, or the name of a file, which has no sentences and is the same each day. */
  readonly form: 'text' | 'name';
  /** Whether it stands in a paper, which has a number. */
  readonly numbers?: boolean;
  /** Whether it stands in a message, which is about learners and goes to people. */
  readonly message?: boolean;
}

const MESSAGE_WORDS = {
  learners: 'the names of the learners',
  addressees: 'whom the message goes to',
  link: 'the private link',
  'link-ends': 'the last day of the private link',
};

/** The learners that a message is about, by their given names where the roll has them. */
export const learnersField = (columns: readonly Column[]): Omit<Field, 'id'> => ({
  name: 'Learners',
  columnId: null,
  same: {
    kind: 'learners',
    columnId: nameColumns(columns).find(({ role }) => role === 'given name')?.id ?? null,
  },
});

/** Whom a message goes to, as they are called. */
export const ADDRESSEES: Omit<Field, 'id'> = {
  name: 'Addressees',
  columnId: null,
  same: { kind: 'addressees' },
  whenBlank: { do: 'words', words: 'family' },
};

/** Where a message leads to its papers. */
export const LINK: Omit<Field, 'id'> = { name: 'Private link', columnId: null, same: { kind: 'link' } };
/** The last day on which the private link works. */
export const LINK_ENDS: Omit<Field, 'id'> = {
  name: 'Last day of the link',
  columnId: null,
  same: { kind: 'link-ends' },
};

const DAY = 'day';
const TEXT = 'text';
const NO_COLUMN = '';
const AS_IT_STANDS = 'plain';
const CELL: FillFormat = { kind: 'cell' };

const sheetOf = (id: string, { sheets = [] }: FieldSurroundings): JoinedSheet | undefined =>
  sheets.find((sheet) => sheet.id === id);

/** What a field prints, as a sentence whose parts can be changed. `changeField` takes what was chosen. */
export function fieldSentence(field: Field, around: FieldSurroundings): SentencePiece[] {
  const { columnId, same, before, after, more = [], wordsIf = [] } = field;
  const pieces: SentencePiece[] = ['Prints '];
  if (before !== undefined) pieces.push(wordsPart('before', 'the words before', before, true), ' and ');
  pieces.push(...sourcePieces(field, around));
  if (columnId !== null) pieces.push(...formatPieces('format', field.format, columnId, around));
  if (same?.kind === 'day' || same?.kind === 'link-ends')
    pieces.push(...formatPieces('format', field.format, null, around));
  more.forEach(({ between, columnId: next, name, format }, n) => {
    pieces.push(', then ', betweenPart(`between ${n}`, between), ' and ', {
      id: `more ${n}`,
      label: 'the value behind',
      text: titleOf(next, around.columns) ?? name,
      value: next ?? NO_COLUMN,
      options: [{ value: OUT, label: 'Take it out' }, ...columnOptions(around)],
      ...(titleOf(next, around.columns) === null ? { look: 'missing' as const } : {}),
    });
    if (next !== null) pieces.push(...formatPieces(`format ${n}`, format, next, around));
  });
  if (after !== undefined)
    pieces.push(', and ', wordsPart('after', 'the words behind', after, true), ' behind');
  pieces.push('.');
  wordsIf.forEach((one, n) => pieces.push(...wordsPieces(one, n, around)));
  if (isMatched(field) && (same === undefined || same.kind === 'addressees'))
    pieces.push(...blankPieces(field.whenBlank, around.form));
  pieces.push(' ', {
    id: 'add',
    label: 'put something in',
    text: '+',
    value: '',
    options: [
      ...(same === undefined
        ? [
            { value: 'more', label: 'Another value behind it', hint: 'Both only where both are there' },
            { value: 'words', label: 'Other words for some', hint: 'If a value is …, the words …' },
          ]
        : []),
      ...(before === undefined ? [{ value: 'before', label: 'Words before it' }] : []),
      ...(after === undefined ? [{ value: 'after', label: 'Words behind it' }] : []),
    ],
    look: 'add',
  });
  return pieces;
}

function sourcePieces(field: Field, around: FieldSurroundings): SentencePiece[] {
  const { columnId, same, rowsOf } = field;
  const title = titleOf(columnId, around.columns);
  const pieces: SentencePiece[] = [
    {
      id: 'source',
      label: 'what is printed',
      text:
        same?.kind === 'text'
          ? 'the text'
          : same?.kind === 'day'
            ? 'the day of pressing'
            : same?.kind === 'page'
              ? same.all
                ? 'the number of all pages'
                : 'the number of the page'
              : same?.kind === 'number'
                ? 'the number of the paper'
                : same?.kind === 'replaces'
                  ? 'the number of the paper that it replaces'
                  : same
                    ? MESSAGE_WORDS[same.kind]
                    : rowsOf !== undefined
                      ? field.lookUp
                        ? `what ${sheetOf(rowsOf, around)?.name ?? 'a sheet that is gone'} says`
                        : 'all rows of the learner'
                      : (title ?? 'choose a column'),
      value: same
        ? `same ${same.kind}${same.kind === 'page' && same.all ? ' all' : ''}`
        : rowsOf !== undefined
          ? `look ${rowsOf}`
          : (columnId ?? NO_COLUMN),
      options: [
        ...columnOptions(around),
        ...(around.form === 'text' ? [{ value: `same ${DAY}`, label: 'The day of pressing' }] : []),
        ...(around.form === 'text'
          ? [
              { value: 'same page', label: 'The number of the page' },
              { value: 'same page all', label: 'The number of all pages' },
            ]
          : []),
        ...(around.numbers
          ? [
              { value: 'same number', label: 'The number of the paper', hint: 'given when it is pressed' },
              {
                value: 'same replaces',
                label: 'The number of the paper that it replaces',
                hint: 'where it is issued again',
              },
            ]
          : []),
        ...(around.message
          ? [
              {
                value: 'same learners',
                label: 'The names of the learners',
                hint: '“Ada, Bo and Cy”, where a family shares a message',
              },
              { value: 'same addressees', label: 'Whom the message goes to', hint: 'As they are called' },
              { value: 'same link', label: 'The private link', hint: 'Where one goes in place of papers' },
              { value: 'same link-ends', label: 'The last day of the private link' },
            ]
          : []),
        ...(around.sheets ?? []).map(({ id, name }) => ({
          value: `look ${id}`,
          label: `What ${name} says`,
          hint: 'Of the learner’s own rows',
        })),
        { value: `same ${TEXT}`, label: 'A text, the same for everybody' },
        { value: NO_COLUMN, label: 'No column yet' },
      ],
      ...(title === null && !same && rowsOf === undefined ? { look: 'missing' as const } : {}),
    },
  ];
  if (same?.kind === 'text') pieces.push(' ', wordsPart('text', 'the text', same.text));
  if (rowsOf !== undefined && field.lookUp)
    pieces.push(...lookUpPieces(field.lookUp, sheetOf(rowsOf, around)?.titles ?? []));
  return pieces;
}

/** Words that people type; `optional` where they can be taken out again. */
const wordsPart = (id: string, label: string, words: string, optional = false): SentencePiece => ({
  id,
  label,
  text: words.trim() === '' ? 'nothing yet' : `“${words}”`,
  value: words,
  options: optional ? [{ value: '', label: 'Take it out' }] : [],
  typed: 'These words',
  ...(words.trim() === '' ? { look: 'missing' as const } : {}),
});

const BETWEEN: readonly SentenceOption[] = [
  { value: ' ', label: 'a space' },
  { value: ', ', label: 'a comma' },
  { value: '\n', label: 'a new line' },
  { value: ' – ', label: 'a dash' },
  { value: ' / ', label: 'a slash' },
  { value: '', label: 'nothing' },
];

const betweenPart = (id: string, between: string): SentencePiece => ({
  id,
  label: 'what stands between',
  text: BETWEEN.find(({ value }) => value === between)?.label ?? `“${between}”`,
  value: between,
  options: BETWEEN,
  typed: 'This between the two',
});

/** Ways to print a value of a column's type, each with how it looks. */
function formatPieces(
  id: string,
  format: FillFormat | undefined,
  columnId: string | null,
  around: FieldSurroundings,
): SentencePiece[] {
  const column = around.columns.find((one) => one.id === columnId);
  const kind = columnId === null ? 'date' : kindOf(column);
  if (kind === null) return [];
  const percent = column?.type === 'percentage';
  const value = exampleOf(kind, column, around);
  const formats = FORMATS[kind];
  const show = (one: FillFormat): string => printValue(value, one, around.language, percent) ?? '';
  const options = formats.map(({ format: one, name }) => ({
    value: JSON.stringify(one),
    label: name ?? show(one),
    ...(name ? { hint: show(one) } : {}),
  }));
  const now = format ?? (columnId === null ? formats[0]!.format : undefined);
  const known = options.find((one) => one.value === JSON.stringify(now));
  const alike = (columnId !== null && around.cohort?.formatOf(columnId, around.language)) || null;
  const plain: SentenceOption[] = alike
    ? [
        { value: AS_IT_STANDS, label: 'All alike', hint: show(alike) },
        { value: JSON.stringify(CELL), label: 'As it stands in its cell' },
      ]
    : [{ value: AS_IT_STANDS, label: 'As it stands in its cell' }];
  const plainly =
    now === undefined
      ? alike
        ? 'alike for all'
        : 'as it stands'
      : now.kind === 'cell'
        ? 'as it stands'
        : null;
  return [
    ', ',
    {
      id,
      label: 'how it is printed',
      text: plainly ?? `like ${known?.label ?? show(now!)}`,
      value: now === undefined ? AS_IT_STANDS : JSON.stringify(now),
      options: columnId === null ? options : [...plain, ...options],
    },
  ];
}

type Kind = Exclude<FillFormat['kind'], 'cell'>;

function kindOf(column: Column | undefined): Kind | null {
  const kinds: Partial<Record<ColumnType, Kind>> = {
    number: 'number',
    percentage: 'number',
    date: 'date',
    'date-time': 'date',
    'several choices': 'list',
    'yes/no': 'yes/no',
  };
  return kinds[column?.type ?? 'text'] ?? null;
}

const number = (digits: number, more = {}): FillFormat => ({
  kind: 'number',
  least: digits,
  most: digits,
  thousands: true,
  plus: false,
  unit: '',
  ...more,
});
const date = (style: 'full' | 'long' | 'medium' | 'short' | 'iso'): FillFormat => ({
  kind: 'date',
  style,
  time: false,
});

const FORMATS: Readonly<Record<Kind, readonly { format: FillFormat; name?: string }[]>> = {
  number: [
    { format: number(0), name: 'A whole number' },
    { format: number(1), name: 'One decimal place' },
    { format: number(2), name: 'Two decimal places' },
    { format: number(0, { most: 20 }), name: 'All its digits' },
    { format: number(0, { plus: true, most: 20 }), name: 'With its sign' },
  ],
  date: [
    { format: date('long') },
    { format: date('full') },
    { format: date('medium') },
    { format: date('short') },
    { format: date('iso') },
  ],
  list: [
    { format: { kind: 'list', take: 'all', last: 'and' }, name: 'All, with “and”' },
    { format: { kind: 'list', take: 'all', last: 'or' }, name: 'All, with “or”' },
    { format: { kind: 'list', take: 'all', last: 'nothing' }, name: 'All, with commas' },
    { format: { kind: 'list', take: 'first', last: 'and' }, name: 'Only the first' },
  ],
  'yes/no': [
    { format: { kind: 'yes/no', yes: 'yes', no: 'no' } },
    { format: { kind: 'yes/no', yes: '✓', no: '✗' }, name: '✓ or ✗' },
    { format: { kind: 'yes/no', yes: '✓', no: '' }, name: '✓ or nothing' },
  ],
};

/** The picked learner's own value where it is of the kind, else one that shows what the format does. */
function exampleOf(kind: Kind, column: Column | undefined, { entry, day }: FieldSurroundings): Value {
  const own = column && entry ? meaningOf(entry, column) : null;
  const kinds = { number: 'number', date: 'date', list: 'list', 'yes/no': 'truth' } as const;
  if (own?.kind === kinds[kind]) return own;
  switch (kind) {
    case 'number':
      return { kind: 'number', decimal: '71.5' };
    case 'date':
      return { kind: 'date', iso: day || '2026-01-31' };
    case 'list':
      return { kind: 'list', items: ['one', 'two', 'three'] };
    case 'yes/no':
      return { kind: 'truth', truth: true };
  }
}

function wordsPieces(
  { if: condition, words }: NonNullable<Field['wordsIf']>[number],
  n: number,
  around: FieldSurroundings,
): SentencePiece[] {
  // Conditions of several parts come with a template; they are kept, and told as a whole.
  if (!('columnId' in condition))
    return ['\n', 'For some, ', wordsPart(`words ${n}`, 'the words', words), '.'];
  const pieces: SentencePiece[] = ['\n', 'If ', ...testPieces(condition, n, around)];
  pieces.push(', ', wordsPart(`words ${n}`, 'the words', words), ' instead.');
  return pieces;
}

const BLANKS: readonly { do: WhenBlank['do']; text: string; label: string; hint?: string }[] = [
  { do: 'nothing', text: 'print nothing', label: 'Print nothing' },
  { do: 'dash', text: 'print a dash', label: 'Print a dash' },
  { do: 'words', text: 'print', label: 'Print other words' },
  { do: 'sentence', text: 'leave its sentence out', label: 'Leave its sentence out' },
  {
    do: 'line',
    text: 'leave its line out',
    label: 'Leave its line out',
    hint: 'Up to the line break or the paragraph’s end',
  },
  {
    do: 'hold',
    text: 'hold the paper',
    label: 'Hold the paper',
    hint: 'It is pressed, and does not leave until you clear it',
  },
];

function blankPieces(rule: WhenBlank = { do: 'nothing' }, form: 'text' | 'name'): SentencePiece[] {
  const rules = form === 'text' ? BLANKS : BLANKS.slice(0, 3);
  const pieces: SentencePiece[] = [
    '\n',
    'If blank, ',
    {
      id: 'blank',
      label: 'what is done if it is blank',
      text: BLANKS.find((one) => one.do === rule.do)!.text,
      value: rule.do,
      options: rules.map(({ do: value, label, hint }) => ({ value, label, ...(hint ? { hint } : {}) })),
    },
  ];
  if (rule.do === 'words') pieces.push(' ', wordsPart('blank words', 'the words', rule.words));
  return [...pieces, '.'];
}

/** The field with what was chosen in its sentence. */
export function changeField(
  field: Field,
  { id, value }: SentenceChange,
  { columns, sheets = [] }: FieldSurroundings,
): Field {
  const [part = '', at = ''] = id.split(' ');
  const n = Number(at);
  switch (part) {
    case 'source':
      return withSource(field, value, columns, sheets);
    case 'take':
    case 'at':
    case 'where':
    case 'says':
      return field.lookUp ? { ...field, lookUp: changeLookUp(field.lookUp, part, value) } : field;
    case 'text':
      return { ...field, same: { kind: 'text', text: value } };
    case 'format':
      if (at === '') return tidy({ ...field, format: formatOf(value) });
      return changeMore(field, n, (one) => ({ ...one, format: formatOf(value) }));
    case 'before':
    case 'after':
      return tidy({ ...field, [part]: value === '' ? undefined : value });
    case 'between':
      return changeMore(field, n, (one) => ({ ...one, between: value }));
    case 'more':
      if (value === OUT) return tidy({ ...field, more: field.more?.filter((_, k) => k !== n) });
      return changeMore(field, n, ({ between }) => ({
        between,
        columnId: value,
        name: titleOf(value, columns) ?? '',
      }));
    case 'if':
    case 'is':
    case 'with':
    case 'and':
      if (part === 'if' && value === OUT)
        return tidy({ ...field, wordsIf: field.wordsIf?.filter((_, k) => k !== n) });
      // A field asks cells alone.
      return withTest(field, n, (test) => changeTest(test, part, value) as CellTest);
    case 'words':
      return {
        ...field,
        wordsIf: field.wordsIf?.map((one, k) => (k === n ? { ...one, words: value } : one)),
      };
    case 'blank':
      if (at === 'words') return { ...field, whenBlank: { do: 'words', words: value } };
      return tidy({
        ...field,
        whenBlank:
          value === 'nothing'
            ? undefined
            : value === 'words'
              ? { do: 'words', words: '' }
              : ({ do: value } as WhenBlank),
      });
    case 'add':
      return withAdded(field, value, columns);
    default:
      return field;
  }
}

function withSource(
  field: Field,
  value: string,
  columns: readonly Column[],
  sheets: NonNullable<FieldSurroundings['sheets']>,
): Field {
  const { same: _same, format: _format, rowsOf: _rows, lookUp: _lookUp, ...rest } = field;
  const [word = '', id = ''] = value.split(' ');
  const sheet = word === 'look' ? sheets.find((one) => one.id === id) : undefined;
  if (sheet) return { ...rest, columnId: null, name: sheet.name, rowsOf: id, lookUp: { at: 0, take: 'all' } };
  if (value === `same ${DAY}`)
    return { ...rest, columnId: null, name: 'Day of pressing', same: { kind: 'day' } };
  if (value === 'same page' || value === 'same page all')
    return { ...rest, ...pageField(value === 'same page all') };
  if (value === 'same number') return { ...rest, columnId: null, name: 'Number', same: { kind: 'number' } };
  if (value === 'same replaces')
    return { ...rest, columnId: null, name: 'Replaces', same: { kind: 'replaces' } };
  if (value === 'same learners') return { ...rest, ...learnersField(columns) };
  if (value === 'same addressees') return { ...rest, ...ADDRESSEES };
  if (value === 'same link') return { ...rest, ...LINK };
  if (value === 'same link-ends') return { ...rest, ...LINK_ENDS };
  if (value === `same ${TEXT}`)
    return { ...rest, columnId: null, name: 'Text', same: { kind: 'text', text: '' } };
  return { ...rest, columnId: value || null, name: titleOf(value, columns) ?? field.name };
}

function withAdded(field: Field, what: string, columns: readonly Column[]): Field {
  // The column beside the last one is as good a guess as any.
  const last = field.more?.at(-1)?.columnId ?? field.columnId;
  const next = columns[columns.findIndex(({ id }) => id === last) + 1] ?? columns[0];
  if (what === 'before') return { ...field, before: '' };
  if (what === 'after') return { ...field, after: '' };
  if (what === 'more' && next)
    return { ...field, more: [...(field.more ?? []), { between: ' ', columnId: next.id, name: next.title }] };
  const columnId = field.columnId ?? columns[0]?.id;
  if (what === 'words' && columnId)
    return {
      ...field,
      wordsIf: [...(field.wordsIf ?? []), { if: newTest(columnId), words: '' }],
    };
  return field;
}

const formatOf = (value: string): FillFormat | undefined =>
  value === AS_IT_STANDS ? undefined : (JSON.parse(value) as FillFormat);

const changeMore = (
  field: Field,
  n: number,
  change: (one: NonNullable<Field['more']>[number]) => NonNullable<Field['more']>[number],
): Field => ({ ...field, more: field.more?.map((one, k) => (k === n ? change(one) : one)) });

const withTest = (field: Field, n: number, change: (test: CellTest) => CellTest): Field => ({
  ...field,
  wordsIf: field.wordsIf?.map((one, k) =>
    k === n && 'columnId' in one.if ? { ...one, if: change(one.if) } : one,
  ),
});

/** Without parts that hold nothing, so that a field that is plain again counts as one. */
function tidy(field: Field): Field {
  return Object.fromEntries(
    Object.entries(field).filter(
      ([, value]) => value !== undefined && !(Array.isArray(value) && value.length === 0),
    ),
  ) as Field;
}

/** A field that prints the number of the page, or of all pages. */
export const pageField = (all: boolean): Omit<Field, 'id'> => ({
  name: all ? 'All pages' : 'Page',
  columnId: null,
  same: { kind: 'page', all },
});
