import { kindKey, kindsFor, kindTitle, type ColumnKind } from '@scriptum/core/begin';
import type { Column } from '@scriptum/core/column';
import type { Entry } from '@scriptum/core/roll';
import type { TableColumn, TableFilling, TableRow, Within } from '@scriptum/core/template';
import type { SentenceOption, SentencePart, SentencePiece } from '../ui/sentence/sentence-piece';
import { columnOptions, partSentence, titleOf } from './condition-sentence';

/** What the sentences of a table are made for. */
export interface TableSurroundings {
  readonly columns: readonly Column[];
  /** The picked learner, whose values are the examples. */
  readonly entry: Entry | undefined;
  /** Columns whose titles agree but for one thing. */
  readonly kinds: readonly ColumnKind[];
  /** The titles of the columns of a joined sheet. */
  readonly sheet: (sourceId: string) => readonly string[];
  readonly newId: () => string;
}

/** A sentence of several, named among them. */
export interface SentenceLine {
  readonly id: string;
  readonly label: string;
  readonly pieces: readonly SentencePiece[];
}

/** A table as sentences: what its rows are, a sentence for each column, and one for each row that was written down. */
export interface TableSentences {
  readonly about: SentenceLine;
  readonly columns: readonly SentenceLine[];
  readonly rows: readonly SentenceLine[];
}

export const QUESTION_PARTS = [
  ['question', 'the question'],
  ['topic', 'its topic'],
  ['answer', 'the learner’s answer'],
  ['right answer', 'the right answer'],
  ['verdict', 'a sign for right or wrong'],
  ['points', 'the points'],
  ['out of', 'the points it is out of'],
  ['remark', 'the remark'],
] as const;

export const OWN_ORDER = '';
export const NAMES = 'names';
export const MIXED = 'mixed';
export const meanOf = (key: string): string => `mean ${key}`;

export function tableSentences(table: TableFilling, around: TableSurroundings): TableSentences {
  const { columns, rows } = table;
  return {
    about: { id: 'about', label: 'The rows of the table', pieces: aboutPieces(table, around) },
    columns: [
      ...columns.map((column, n) => ({
        id: `column ${n}`,
        label: `Column ${n + 1}`,
        pieces: columnPieces(column, n, table, around),
      })),
      { id: 'columns', label: 'Another column', pieces: [addColumn(table, around)] },
    ],
    rows:
      rows.kind === 'each'
        ? [
            ...rows.rows.map((row, n) => ({
              id: `row ${n}`,
              label: `Row ${n + 1}`,
              pieces: rowPieces(row, n, rows.rows.length, table, around),
            })),
            { id: 'rows', label: 'Another row', pieces: [addRow(around)] },
          ]
        : [],
  };
}

function aboutPieces(table: TableFilling, around: TableSurroundings): SentencePiece[] {
  const { rows, sort, blankRows, within, columns } = table;
  const pieces: SentencePiece[] =
    rows.kind === 'each'
      ? [`A table of ${rows.rows.length === 1 ? 'one row' : `${rows.rows.length} rows`}`]
      : rows.kind === 'own'
        ? [`A row for each row that the learner has in ${rows.name}`]
        : ['A row for each question of ', keyPart(rows.columnId, around)];
  pieces.push(', ', {
    id: 'sort',
    label: 'the order of the rows',
    text: sort ? sortText(columns[sort.at], sort.down) : 'in their own order',
    value: sort ? `${sort.at} ${sort.down ? 'down' : 'up'}` : OWN_ORDER,
    options: [
      { value: OWN_ORDER, label: 'in their own order' },
      ...columns.flatMap((column, n) =>
        [true, false].map((down) => ({
          value: `${n} ${down ? 'down' : 'up'}`,
          label: sortText(column, down),
        })),
      ),
    ],
  });
  pieces.push('. A row without values ', {
    id: 'blank',
    label: 'what becomes of a row without values',
    text: blankRows === 'out' ? 'is left out' : 'stands all the same',
    value: blankRows,
    options: [
      { value: 'stand', label: 'stands all the same' },
      { value: 'out', label: 'is left out' },
    ],
  });
  pieces.push('.');
  if (rows.kind === 'each') pieces.push(' The mean is that of ', withinPart(within, around), '.');
  return pieces;
}

const sortText = (column: TableColumn | undefined, down: boolean): string =>
  `by ${nameOf(column)}, ${down ? 'from the highest' : 'from the lowest'}`;
const nameOf = (column: TableColumn | undefined): string => column?.title || 'the first column';

/** Whose mean is compared with: everybody's, or that of those who agree in a column. */
export const withinPart = (
  within: Within,
  { columns, entry }: Pick<TableSurroundings, 'columns' | 'entry'>,
): SentencePart => ({
  id: 'within',
  label: 'who is compared',
  text:
    within.length === 0
      ? 'all learners'
      : `those with the same ${titleOf(within[0]!.columnId, columns) ?? within[0]!.name}`,
  value: within[0]?.columnId ?? '',
  options: [{ value: '', label: 'all learners' }, ...columnOptions({ columns, entry })],
});

function keyPart(columnId: string | null, { columns }: TableSurroundings): SentencePart {
  const keys = columns.filter(({ worked }) => worked?.kind === 'key');
  const title = titleOf(columnId, keys);
  return {
    id: 'key',
    label: 'the marking key',
    text: title ?? 'choose a marking key',
    value: columnId ?? '',
    options: keys.map(({ id, title: label }) => ({ value: id, label })),
    ...(title === null ? { look: 'missing' as const } : {}),
  };
}

function columnPieces(
  column: TableColumn,
  n: number,
  table: TableFilling,
  around: TableSurroundings,
): SentencePiece[] {
  const { look, width, total } = column;
  const numbers = holdsNumbers(column, n, table, around);
  const pieces: SentencePiece[] = [
    { ...typedPart('title', 'the head of the column', column.title, 'without a head'), options: [] },
    ' prints ',
    whatPart(column, n, table, around),
    ' ',
    {
      id: 'look',
      label: 'how it looks',
      text: LOOKS.find(({ value }) => value === look.kind)!.label,
      value: look.kind,
      options: LOOKS,
    },
  ];
  if (look.kind === 'bar')
    pieces.push(
      ' up to ',
      typedPart('most', 'where the bar ends', String(look.most), '100', 'This number'),
      ...(table.rows.kind === 'each' ? [' ', meanMarkPart(look.mean)] : []),
    );
  else if (numbers) pieces.push(', ', decimalsPart(column));
  pieces.push(', ', widthPart(width));
  if (numbers && look.kind !== 'bar')
    pieces.push(', ', {
      id: 'total',
      label: 'what stands below',
      text: total ? `the ${total} below` : 'no total',
      value: total ?? '',
      options: [
        { value: '', label: 'no total' },
        { value: 'sum', label: 'the sum below' },
        { value: 'mean', label: 'the mean below' },
      ],
    });
  pieces.push('. ', morePart(n, table.columns.length, 'column'));
  return pieces;
}

/** True where a column may print numbers. */
function holdsNumbers(
  { of }: TableColumn,
  n: number,
  { rows }: TableFilling,
  { columns }: TableSurroundings,
): boolean {
  if (rows.kind === 'questions') return of !== undefined && 'part' in of && /^(points|out of)$/.test(of.part);
  if (rows.kind === 'own') return true;
  const ids = new Set(
    rows.rows.flatMap(({ cells }) => {
      const cell = cells[n];
      return cell && 'columnId' in cell && cell.columnId !== null ? [cell.columnId] : [];
    }),
  );
  return columns.some(({ id, type }) => ids.has(id) && (type === 'number' || type === 'percentage'));
}

const LOOKS: readonly (SentenceOption & { value: TableColumn['look']['kind'] })[] = [
  { value: 'plain', label: 'plainly' },
  { value: 'strong', label: 'in bold' },
  { value: 'band', label: 'as a band', hint: 'On a quiet ground by how high it is' },
  { value: 'bar', label: 'as a bar' },
];

const meanMarkPart = (mean: boolean): SentencePart => ({
  id: 'mean',
  label: 'whether the mean is marked',
  text: mean ? 'with the mean as a mark' : 'without the mean',
  value: String(mean),
  options: [
    { value: 'true', label: 'with the mean as a mark' },
    { value: 'false', label: 'without the mean' },
  ],
});

const DECIMALS = ['no decimals', 'one decimal', 'two decimals', 'three decimals'] as const;

function decimalsPart({ format }: TableColumn): SentencePart {
  const most = format?.kind === 'number' ? format.most : null;
  return {
    id: 'decimals',
    label: 'decimals of numbers',
    text: most === null ? 'with the decimals that there are' : `with ${DECIMALS[most] ?? `${most} decimals`}`,
    value: most === null ? '' : String(most),
    options: [
      { value: '', label: 'with the decimals that there are' },
      ...DECIMALS.map((label, n) => ({ value: String(n), label: `with ${label}` })),
    ],
  };
}

function widthPart(width: TableColumn['width']): SentencePart {
  const [text, value] =
    width === 'auto'
      ? ['as wide as it needs', 'auto']
      : 'mm' in width
        ? [`${width.mm} mm wide`, `${width.mm} mm`]
        : [shareText(width.share), `share ${width.share}`];
  return {
    id: 'width',
    label: 'how wide it is',
    text,
    value,
    options: [
      { value: 'auto', label: 'as wide as it needs' },
      ...[1, 2, 3, 4].map((share) => ({ value: `share ${share}`, label: shareText(share) })),
    ],
    typed: 'So many millimetres',
  };
}

const shareText = (share: number): string =>
  share === 1 ? 'one share of the rest wide' : `${share} shares of the rest wide`;

/** What a column of a table prints; `n` is its place. */
function whatPart(
  column: TableColumn,
  n: number,
  table: TableFilling,
  around: TableSurroundings,
): SentencePart {
  const { rows } = table;
  const label = 'what it prints';
  if (rows.kind === 'own') {
    const titles = around.sheet(rows.sourceId);
    const at = column.of && 'at' in column.of ? column.of.at : null;
    const options = titles.map((title, place) => ({ value: String(place), label: title }));
    const known = at === null ? undefined : options[at];
    return {
      id: 'what',
      label,
      text: known?.label ?? 'choose a column',
      value: known?.value ?? '',
      options,
      ...(known ? {} : { look: 'missing' as const }),
    };
  }
  if (rows.kind === 'questions') {
    const part = column.of && 'part' in column.of ? column.of.part : null;
    const options = QUESTION_PARTS.map(([value, text]) => ({ value, label: text }));
    return {
      id: 'what',
      label,
      text: options.find(({ value }) => value === part)?.label ?? 'choose',
      value: part ?? '',
      options,
    };
  }
  const value = printedBy(rows.rows, n, around.kinds);
  const options = kindOptions(rows.rows, around);
  const text = options.find((one) => one.value === value)?.label ?? 'what is chosen row by row';
  return {
    id: 'what',
    label,
    text,
    value,
    options: [
      { value: NAMES, label: 'the name of the row' },
      ...options.filter((one) => one.value !== NAMES),
    ],
  };
}

/** The kinds of columns that there are for the rows, and their means. */
export function kindOptions(rows: readonly TableRow[], around: TableSurroundings): SentenceOption[] {
  const kinds = kindsFor(around.kinds, namesOf(rows));
  return [
    { value: NAMES, label: 'the name of the row' },
    ...kinds.map((kind) => ({
      value: kindKey(kind),
      label: `“${kindTitle(kind)}” of each`,
      hint: kind.members[0]!.column.title,
    })),
    ...kinds.map((kind) => ({ value: meanOf(kindKey(kind)), label: `the mean of “${kindTitle(kind)}”` })),
  ];
}

/** What the rows are called: the first text in each. */
export const namesOf = (rows: readonly TableRow[]): string[] => rows.map(rowName);
export function rowName({ cells }: TableRow): string {
  const named = cells.find((cell) => cell.kind === 'text');
  return named?.kind === 'text' ? named.text : '';
}

/** What a column of rows that are written down prints: names, a kind of columns or its mean, or what was chosen for each. */
function printedBy(rows: readonly TableRow[], n: number, kinds: readonly ColumnKind[]): string {
  const cells = rows.map(({ cells: all }) => all[n] ?? { kind: 'nothing' as const });
  if (cells.length > 0 && cells.every(({ kind }) => kind === 'text')) return NAMES;
  for (const kind of kinds) {
    const own = new Set(kind.members.map(({ column }) => column.id));
    const named = cells.filter((cell) => 'columnId' in cell && own.has(cell.columnId ?? ''));
    // A row of the average has a column of its own.
    if (named.length * 3 < cells.length * 2) continue;
    return named.every((cell) => cell.kind === 'mean') ? meanOf(kindKey(kind)) : kindKey(kind);
  }
  return MIXED;
}

const addColumn = ({ rows }: TableFilling, around: TableSurroundings): SentencePart => ({
  id: 'add',
  label: 'put in another column',
  text: '+ column',
  value: '',
  options:
    rows.kind === 'each'
      ? kindOptions(rows.rows, around)
      : rows.kind === 'own'
        ? around.sheet(rows.sourceId).map((label, n) => ({ value: String(n), label }))
        : QUESTION_PARTS.map(([value, label]) => ({ value, label })),
  look: 'add',
});

function rowPieces(
  row: TableRow,
  n: number,
  count: number,
  { columns }: TableFilling,
  around: TableSurroundings,
): SentencePiece[] {
  const pieces: SentencePiece[] = [];
  row.cells.slice(0, columns.length).forEach((cell, at) => {
    const id = `cell ${at}`;
    const head = columns[at]!.title || `column ${at + 1}`;
    if (pieces.length > 0) pieces.push(' · ');
    if (cell.kind === 'text') pieces.push(typedPart(id, head, cell.text, 'no name'));
    else {
      const columnId = cell.kind === 'nothing' ? null : cell.columnId;
      const title = titleOf(columnId, around.columns);
      const gone = cell.kind !== 'nothing' && title === null;
      pieces.push({
        id,
        label: head,
        text:
          cell.kind === 'nothing'
            ? 'nothing'
            : `${cell.kind === 'mean' ? 'mean of ' : ''}${title ?? `${cell.name} (gone)`}`,
        value: columnId ?? '',
        options: [{ value: '', label: 'nothing' }, ...columnOptions(around)],
        ...(gone ? { look: 'missing' as const } : {}),
      });
    }
  });
  pieces.push(' ', morePart(n, count, 'row', row));
  if (row.if) pieces.push(' ', ...partSentence(row.if, around, 'Stands '));
  return pieces;
}

const addRow = (around: TableSurroundings): SentencePart => ({
  id: 'add',
  label: 'put in another row',
  text: '+ row',
  value: '',
  options: columnOptions(around),
  look: 'add',
});

function morePart(n: number, count: number, what: 'column' | 'row', row?: TableRow): SentencePart {
  const [back, on] = what === 'column' ? ['to the left', 'to the right'] : ['up', 'down'];
  return {
    id: 'more',
    label: `move or take out the ${what}`,
    text: '⋯',
    value: '',
    options: [
      ...(n > 0 ? [{ value: 'back', label: `Move it ${back}` }] : []),
      ...(n < count - 1 ? [{ value: 'on', label: `Move it ${on}` }] : []),
      ...(what === 'row'
        ? [{ value: 'strong', label: row?.strong ? 'Like the other rows' : 'In bold below a line' }]
        : []),
      ...(row && !row.if ? [{ value: 'if', label: 'Only for some …' }] : []),
      ...(count > 1 ? [{ value: 'out', label: 'Take it out' }] : []),
    ],
    look: 'add',
  };
}

/** A part that is typed. */
export const typedPart = (
  id: string,
  label: string,
  text: string,
  none: string,
  typed = 'These words',
): SentencePart => ({
  id,
  label,
  text: text.trim() === '' ? none : `“${text}”`,
  value: text,
  options: text.trim() === '' ? [] : [{ value: '', label: none }],
  typed,
});
