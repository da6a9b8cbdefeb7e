import { inputsOf, type Column } from '../column/index.js';
import { cohortOf } from '../fill/index.js';
import type { TableShape } from '../marks/index.js';
import { nameColumns, type Roll } from '../roll/index.js';
import type { ColumnLook, TableCell, TableColumn, TableRow } from '../template/index.js';
import { kindsFor, kindTitle, type ColumnKind } from './kinds.js';
import { listed, roundMost, type Around, type Beginning, type MarkRow, type Series } from './series.js';

const column = (
  id: string,
  title: string,
  look: ColumnLook['kind'] = 'plain',
  width: TableColumn['width'] = 'auto',
): TableColumn => ({
  id,
  title,
  look: look === 'bar' ? { kind: 'bar', most: 100, mean: true } : { kind: look },
  width,
});

const of = ({ id, title }: Column): TableCell => ({ kind: 'column', columnId: id, name: title });
const NOTHING: TableCell = { kind: 'nothing' };

/** A row for each mark, with its bar against the mean, its band, and what else there is of each. */
export function markTable({ title, rows, kind }: Series, { roll, kinds, within, newId }: Around): Beginning {
  const names = rows.map(({ row }) => row);
  const bands = rows.map(({ column: mark }) =>
    roll.columns.find(
      ({ worked }) => worked?.kind === 'band' && worked.of === mark.id && worked.give === 'label',
    ),
  );
  const banded = bands.filter((one) => one !== undefined);
  const more = kindsFor(kinds, names).filter(
    (one) => one !== kind && !one.members.some(({ column: member }) => banded.includes(member)),
  );
  const average = averageOf(rows, roll);
  const most = roundMost(cohortOf(roll).extent(rows.map(({ column: mark }) => mark.id))?.[1] ?? 100);
  const columns = [
    column(newId(), '', 'strong', { share: 1 }),
    column(newId(), title, 'strong'),
    {
      ...column(newId(), within.length > 0 ? 'Against the class mean' : 'Against the mean', 'bar', {
        mm: 40,
      }),
      look: { kind: 'bar' as const, most, mean: true },
    },
    ...(banded.length > 0 ? [column(newId(), bandTitle(banded, kinds), 'band')] : []),
    ...more.slice(0, 6).map((one) => column(newId(), kindTitle(one))),
  ];
  const lines: TableRow[] = rows.map(({ row, column: mark }, n) => ({
    id: newId(),
    cells: [
      { kind: 'text', text: row },
      of(mark),
      of(mark),
      ...(banded.length > 0 ? [bands[n] ? of(bands[n]) : NOTHING] : []),
      ...more.slice(0, 6).map((one) => {
        const member = one.members.find((each) => each.row === row);
        return member ? of(member.column) : NOTHING;
      }),
    ],
  }));
  if (average)
    lines.push({
      id: newId(),
      strong: true,
      cells: [{ kind: 'text', text: average.title }, of(average), of(average)],
    });
  return {
    name: `Table: ${title} of ${rows.length}`,
    hint: listed(names),
    field: {
      name: `${title} table`,
      columnId: null,
      table: { columns, rows: { kind: 'each', rows: lines }, within, blankRows: 'stand' },
    },
  };
}

const bandTitle = (banded: readonly Column[], kinds: readonly ColumnKind[]): string => {
  const kind = kinds.find(({ members }) => members.some(({ column: member }) => member === banded[0]));
  return kind ? kindTitle(kind) : 'Level';
};

/** A column that is worked out from all of the rows: their average. */
const averageOf = (rows: readonly MarkRow[], { columns }: Roll): Column | undefined =>
  columns.find(({ worked }) => {
    if (worked?.kind !== 'expression') return false;
    const inputs = inputsOf(worked);
    return rows.every(({ column: mark }) => inputs.includes(mark.id));
  });

/** A row for each question of a marking key. */
export function questionTable(key: Column, newId: () => string): Beginning {
  const questions = key.worked?.kind === 'key' ? key.worked.questions.length : 0;
  const part = (
    title: string,
    what: 'question' | 'answer' | 'right answer' | 'verdict',
    share: number | null,
  ): TableColumn => ({
    ...column(newId(), title, 'plain', share === null ? 'auto' : { share }),
    of: { part: what },
  });
  return {
    name: `Table: answers for ${key.title}`,
    hint: `${questions} questions, own answer and right answer`,
    field: {
      name: `Answers for ${key.title}`,
      columnId: null,
      table: {
        columns: [
          part('Question', 'question', 3),
          part('Your answer', 'answer', 2),
          part('Right answer', 'right answer', 2),
          part('', 'verdict', null),
        ],
        rows: { kind: 'questions', columnId: key.id, name: key.title },
        within: [],
        blankRows: 'stand',
      },
    },
  };
}

/** Columns of a joined sheet that a table begins with; as many as fit. */
const COLUMNS = 6;

/** The entry's own rows of a joined sheet. */
export function ownTable(shape: TableShape, { entries }: Roll, newId: () => string): Beginning[] {
  if (!entries.some(({ tables }) => tables?.[shape.id])) return [];
  const names = new Set(nameColumns(shape.columns).map(({ id }) => id));
  const taken = shape.columns
    .map(({ id, title, format }, at) => ({ id, title, at, decimal: format?.decimal }))
    // What says whose rows they are is the same in each.
    .filter(({ id, at }) => !names.has(id) && entries.some(({ tables }) => differs(tables?.[shape.id], at)))
    .slice(0, COLUMNS);
  if (taken.length === 0) return [];
  return [
    {
      name: `Table: rows of ${shape.name}`,
      hint: listed(taken.map(({ title }) => title)),
      field: {
        name: shape.name,
        columnId: null,
        table: {
          columns: taken.map(({ title, at, decimal }, n) => ({
            ...column(newId(), title, 'plain', n === 0 ? { share: 1 } : 'auto'),
            of: { at, ...(decimal ? { decimal } : {}) },
          })),
          rows: { kind: 'own', sourceId: shape.id, name: shape.name },
          within: [],
          blankRows: 'stand',
        },
      },
    },
  ];
}

const differs = (rows: readonly (readonly string[])[] | undefined, at: number): boolean =>
  new Set(rows?.map((row) => row[at])).size > 1;
