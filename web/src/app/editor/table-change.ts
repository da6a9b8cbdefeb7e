import { kindKey, kindTitle, type ColumnKind } from '@scriptum/core/begin';
import type { FillFormat } from '@scriptum/core/column';
import type {
  QuestionPart,
  TableCell,
  TableColumn,
  TableFilling,
  TableRow,
  Within,
} from '@scriptum/core/template';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { changePart, newTest } from './condition-sentence';
import { meanOf, NAMES, QUESTION_PARTS, rowName, type TableSurroundings } from './table-sentence';

/** The table after a part of one of its sentences was changed; `lineId` names the sentence. */
export function changeTable(
  table: TableFilling,
  lineId: string,
  change: SentenceChange,
  around: TableSurroundings,
): TableFilling {
  const [what, place] = lineId.split(' ');
  const n = Number(place);
  switch (what) {
    case 'about':
      return changeAbout(table, change, around);
    case 'column':
      return changeColumn(table, n, change, around);
    case 'columns':
      return withColumn(table, change.value, around);
    case 'row':
      return changeRows(table, (rows) => changeRow(rows, n, change, around));
    case 'rows':
      return changeRows(table, (rows) => [...rows, newRow(rows, table, change.value, around)]);
    default:
      return table;
  }
}

function changeAbout(
  table: TableFilling,
  { id, value }: SentenceChange,
  around: TableSurroundings,
): TableFilling {
  const { sort: _, ...rest } = table;
  switch (id) {
    case 'sort': {
      const [at, way] = value.split(' ');
      return value === '' ? rest : { ...rest, sort: { at: Number(at), down: way === 'down' } };
    }
    case 'blank':
      return { ...table, blankRows: value === 'out' ? 'out' : 'stand' };
    case 'within':
      return { ...table, within: withinFrom(value, around) };
    case 'key':
      return table.rows.kind === 'questions' ? { ...table, rows: { ...table.rows, columnId: value } } : table;
    default:
      return table;
  }
}

/** Those who agree in a column; all for none. */
export const withinFrom = (columnId: string, { columns }: Pick<TableSurroundings, 'columns'>): Within =>
  columns.flatMap(({ id, title }) => (id === columnId ? [{ columnId: id, name: title }] : []));

function changeColumn(
  table: TableFilling,
  n: number,
  { id, value }: SentenceChange,
  around: TableSurroundings,
): TableFilling {
  const column = table.columns[n];
  if (!column) return table;
  const set = (part: Partial<TableColumn>): TableFilling => ({
    ...table,
    columns: table.columns.map((one, at) => (at === n ? { ...one, ...part } : one)),
  });
  switch (id) {
    case 'title':
      return set({ title: value.trim() });
    case 'what':
      return printing(table, n, value, around);
    case 'look':
      return set({
        look:
          value === 'bar'
            ? { kind: 'bar', most: 100, mean: table.rows.kind === 'each' }
            : { kind: value as 'plain' },
      });
    case 'most': {
      const most = Number(value.replace(',', '.'));
      return column.look.kind === 'bar' && most > 0 && most <= 1e9
        ? set({ look: { ...column.look, most } })
        : table;
    }
    case 'mean':
      return column.look.kind === 'bar' ? set({ look: { ...column.look, mean: value === 'true' } }) : table;
    case 'decimals':
      return set({ format: value === '' ? undefined : decimals(Number(value)) });
    case 'width':
      return set({ width: widthFrom(value) ?? column.width });
    case 'total':
      return set({ total: value === '' ? undefined : (value as 'sum') });
    case 'more':
      return moveColumn(table, n, value);
    default:
      return table;
  }
}

const decimals = (places: number): FillFormat => ({
  kind: 'number',
  least: places,
  most: places,
  thousands: true,
  plus: false,
  unit: '',
});

function widthFrom(value: string): TableColumn['width'] | null {
  if (value === 'auto') return value;
  const share = /^share (\d+)$/.exec(value)?.[1];
  if (share) return { share: Number(share) };
  const mm = Number(/^(\d+(?:[.,]\d+)?)/.exec(value.trim())?.[1]?.replace(',', '.'));
  return mm >= 3 && mm <= 400 ? { mm } : null;
}

/** Lets a column print something else. */
function printing(table: TableFilling, n: number, value: string, around: TableSurroundings): TableFilling {
  const { rows } = table;
  if (rows.kind !== 'each') {
    const of = rows.kind === 'own' ? { at: Number(value) } : { part: value as QuestionPart };
    return { ...table, columns: table.columns.map((one, at) => (at === n ? { ...one, of } : one)) };
  }
  return changeRows(table, (all) =>
    all.map((row) => withCell(row, n, cellFor(rowName(row), value, around.kinds))),
  );
}

/** What a row prints in a column of names, of a kind of columns or of its means. */
function cellFor(row: string, value: string, kinds: readonly ColumnKind[]): TableCell {
  if (value === NAMES) return { kind: 'text', text: row };
  for (const kind of kinds) {
    const means = value === meanOf(kindKey(kind));
    if (!means && value !== kindKey(kind)) continue;
    const column = kind.members.find((member) => member.row === row)?.column;
    if (!column) break;
    return { kind: means ? 'mean' : 'column', columnId: column.id, name: column.title };
  }
  return { kind: 'nothing' };
}

const withCell = (row: TableRow, n: number, cell: TableCell): TableRow => {
  const cells = [...row.cells];
  while (cells.length < n) cells.push({ kind: 'nothing' });
  cells[n] = cell;
  return { ...row, cells };
};

function withColumn(table: TableFilling, value: string, around: TableSurroundings): TableFilling {
  const { rows, columns } = table;
  if (columns.length >= 20) return table;
  const kind = around.kinds.find((one) => [kindKey(one), meanOf(kindKey(one))].includes(value));
  const title =
    rows.kind === 'own'
      ? (around.sheet(rows.sourceId)[Number(value)] ?? '')
      : rows.kind === 'questions'
        ? capital(QUESTION_PARTS.find(([part]) => part === value)?.[1] ?? '')
        : kind
          ? `${value === kindKey(kind) ? '' : 'Mean of '}${kindTitle(kind)}`
          : '';
  const column: TableColumn = { id: around.newId(), title, look: { kind: 'plain' }, width: 'auto' };
  return printing({ ...table, columns: [...columns, column] }, columns.length, value, around);
}

const capital = (text: string): string =>
  text.replace(/^the /, '').replace(/^./, (letter) => letter.toUpperCase());

function moveColumn(table: TableFilling, n: number, way: string): TableFilling {
  const moved = <T>(all: readonly T[]): T[] => move(all, n, way);
  const order = moved(table.columns.map((_, at) => at));
  const { sort, ...rest } = table;
  const at = sort ? order.indexOf(sort.at) : -1;
  const next = {
    ...rest,
    columns: moved(table.columns),
    ...(sort && at >= 0 ? { sort: { ...sort, at } } : {}),
  };
  return changeRows(next, (rows) =>
    rows.map((row) => ({
      ...row,
      cells: order.map((from) => row.cells[from] ?? { kind: 'nothing' as const }),
    })),
  );
}

/** The list with one thing moved back, moved on, or taken out. */
export function move<T>(all: readonly T[], n: number, way: string): T[] {
  const list = [...all];
  const [one] = list.splice(n, 1);
  if (one !== undefined && way !== 'out') list.splice(way === 'back' ? n - 1 : n + 1, 0, one);
  return list;
}

const changeRows = (table: TableFilling, change: (rows: TableRow[]) => TableRow[]): TableFilling =>
  table.rows.kind === 'each' ? { ...table, rows: { kind: 'each', rows: change(table.rows.rows) } } : table;

function changeRow(
  rows: TableRow[],
  n: number,
  { id, value }: SentenceChange,
  { columns, entry }: TableSurroundings,
): TableRow[] {
  if (id === 'more' && value !== 'strong' && value !== 'if') return move(rows, n, value);
  return rows.map((row, at) => {
    if (at !== n) return row;
    if (id === 'more' && value === 'strong') return { ...row, strong: !row.strong };
    const first = columns[0];
    if (id === 'more') return first ? { ...row, if: newTest(first.id) } : row;
    if (!id.startsWith('cell ')) {
      const { if: before = null, ...rest } = row;
      const condition = changePart(before, { id, value }, { columns, entry });
      return condition === null ? rest : { ...rest, if: condition };
    }
    const place = Number(id.split(' ')[1]);
    const cell = row.cells[place];
    if (cell?.kind === 'text') return withCell(row, place, { kind: 'text', text: value });
    if (value === '') return withCell(row, place, { kind: 'nothing' });
    const name = columns.find((one) => one.id === value)?.title ?? '';
    return withCell(row, place, { kind: cell?.kind === 'mean' ? 'mean' : 'column', columnId: value, name });
  });
}

/** A row for a column: its cells are what the same columns print for the other rows, as far as that is known. */
function newRow(
  rows: readonly TableRow[],
  { columns }: TableFilling,
  columnId: string,
  around: TableSurroundings,
): TableRow {
  const kind = around.kinds.find(({ members }) => members.some(({ column }) => column.id === columnId));
  const member = kind?.members.find(({ column }) => column.id === columnId);
  const title = around.columns.find(({ id }) => id === columnId)?.title ?? '';
  const like = rows.find(({ strong }) => !strong);
  const cells = columns.map((_, n): TableCell => {
    const cell = like?.cells[n] ?? { kind: n === 0 ? 'text' : 'column', text: '', columnId: null, name: '' };
    if (cell.kind === 'text') return { kind: 'text', text: member?.row ?? title };
    if (cell.kind === 'nothing') return cell;
    const of = around.kinds.find(({ members }) => members.some(({ column }) => column.id === cell.columnId));
    const found = of?.members.find(({ row }) => row === member?.row)?.column;
    if (of === kind || !of) return { kind: cell.kind, columnId, name: title };
    return found ? { kind: cell.kind, columnId: found.id, name: found.title } : { kind: 'nothing' };
  });
  return { id: around.newId(), cells };
}
