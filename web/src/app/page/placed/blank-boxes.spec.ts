import type { Blank } from '@scriptum/core/blanks';
import type { Column } from '@scriptum/core/column';
import { emptyPlaced, Placed } from '@scriptum/core/template';
import { offersOf, tablesOf, withBlanks } from './blank-boxes';
import { linesThrough, printedOn } from './forms';

let count = 0;
const newId = (): string => `n${++count}`;
const columns: Column[] = [
  { id: 'n', title: 'Name' },
  { id: 'c', title: 'Consent' },
];
const entries = [{ id: 'e', position: 0, values: { n: 'Bo', c: 'Yes' } }];
const blank = (label: string, x: number, y: number, more: Partial<Blank> = {}): Blank => ({
  kind: 'text',
  x,
  y,
  width: 60,
  height: 7,
  label,
  reason: 'line',
  score: 0.95,
  baseline: { first: 6, pitch: null },
  cells: null,
  ...more,
});
const onForm: Placed = { ...emptyPlaced('Form'), pages: [{ ground: { asset: 'g', page: 1 } }, {}] };
const blanks = [
  blank('Name', 20, 40),
  blank('Doctor', 20, 60),
  blank('yes', 20, 80, { kind: 'tick', width: 4, height: 4, baseline: null }),
  blank('no', 40, 80, { kind: 'tick', width: 4, height: 4, baseline: null }),
  blank('NAME', 20, 100, { kind: 'comb', cells: 8, baseline: null }),
  blank('Remarks', 20, 120, { height: 40, baseline: { first: 6, pitch: 8 } }),
];
const offers = offersOf(onForm, new Map([['g', [[], blanks]]]), columns, entries);

test('blanks of the page that lies below are offered, with the column whose title or cell agrees', () => {
  expect(offers.map(({ page, column }) => [page, column?.id])).toEqual([
    [0, 'n'],
    [0, undefined],
    [0, 'c'],
    [0, undefined],
    [0, 'n'],
    [0, undefined],
  ]);
  expect(new Set(offers.map(({ id }) => id)).size).toBe(6);
});

test('each becomes a place that can be saved; the same column is one field', () => {
  const { part, ids } = withBlanks(onForm, offers, columns, newId);
  const made = { ...onForm, ...part };
  expect(Placed.safeParse(made).success).toBe(true);
  expect(ids).toHaveLength(6);
  expect(made.fields.map(({ columnId }) => columnId)).toEqual(['n']);
  const [name, doctor, yes, no, comb, remarks] = made.boxes;
  expect(name).toMatchObject({
    kind: 'text',
    name: 'Name',
    x: 20,
    width: 60,
    baseline: { first: 6 },
    oneLine: true,
  });
  expect(doctor).toMatchObject({ kind: 'text', name: 'Doctor' });
  expect(comb).toMatchObject({ kind: 'comb', cells: 8 });
  expect(remarks).toMatchObject({ baseline: { first: 6, pitch: 8 } });
  expect(remarks).not.toHaveProperty('oneLine');
  const conditionOf = (box: typeof yes) => made.parts!.find(({ id }) => id === box!.part)!.if;
  expect(conditionOf(yes)).toEqual({ all: [{ columnId: 'c', is: 'equal', values: ['yes'] }] });
  // Nobody's name is “no”: it stands for nobody until somebody says for whom.
  expect(conditionOf(no)).toEqual({ all: [{ columnId: 'n', is: 'equal', values: ['no'] }] });
});

test('where a place stands already none is offered', () => {
  const { part } = withBlanks(onForm, offers.slice(0, 1), columns, newId);
  const left = offersOf({ ...onForm, ...part }, new Map([['g', [[], blanks]]]), columns, entries);
  expect(left.map(({ blank: { label } }) => label)).not.toContain('Name');
  expect(left).toHaveLength(5);
});

test('the empty cells of a table are told together', () => {
  const cell = (x: number, y: number) => blank('', x, y, { reason: 'table', width: 30, height: 8 });
  const cells = [cell(60, 10), cell(90.4, 10), cell(60, 18), cell(60, 60), cell(90, 61), cell(150, 100)];
  const found = offersOf(onForm, new Map([['g', [[], [...cells, blank('Line', 60, 26)]]]]), columns, entries);
  expect(tablesOf(found).map((table) => table.map(({ blank: { x, y } }) => [x, y]))).toEqual([
    [
      [60, 10],
      [90.4, 10],
      [60, 18],
    ],
    [
      [60, 60],
      [90, 61],
    ],
  ]);
});

test('the lines of the form that run through a place give it its baselines', () => {
  const here = printedOn(onForm, 0, new Map([['g', [[], blanks]]]));
  expect(here).toHaveLength(6);
  expect(printedOn(onForm, 1, new Map([['g', [[], blanks]]]))).toEqual([]);
  const place = (y: number, height: number, x = 30) => ({ x, y, width: 40, height });
  // One line; several with their pitch, wherever the place begins; none beside them, or none at all.
  expect(linesThrough(place(38, 10), here)).toEqual({ first: 8 });
  expect(linesThrough(place(118.5, 30), here)).toEqual({ first: 7.5, pitch: 8 });
  expect(linesThrough(place(38, 10, 200), here)).toBeNull();
  expect(linesThrough(place(80, 4), here)).toBeNull();
});

test('a blank for the name is filled from the columns that the learner’s name stands in', () => {
  const two: Column[] = [
    { id: 'g', title: 'Given', role: 'given name' },
    { id: 's', title: 'Family', role: 'surname' },
  ];
  const here = new Map([
    ['g', [[], [blank('Name of the pupil', 20, 40), blank('Name of the school', 20, 60)]]],
  ]);
  const found = offersOf(onForm, here, two, []);
  expect(found.map(({ names }) => names.map(({ id }) => id))).toEqual([['g', 's'], []]);
  const { boxes, fields } = { ...onForm, ...withBlanks(onForm, found, two, newId).part };
  expect(fields.map(({ columnId }) => columnId)).toEqual(['g', 's']);
  expect(boxes[0]).toMatchObject({
    body: { content: [{ content: [{ type: 'field' }, { type: 'text', text: ' ' }, { type: 'field' }] }] },
  });
});

test('a column is for one cell of a table, and not for all below a head; high cells have room for several lines', () => {
  const cell = (label: string, y: number, height: number) =>
    blank(label, 20, y, { reason: 'table', height, baseline: null });
  const table = [cell('Name', 20, 13), cell('Name', 33, 13), cell('Consent', 60, 8)];
  const found = offersOf(onForm, new Map([['g', [[], table]]]), columns, entries);
  expect(found.map(({ column, names }) => [column?.id, names.length])).toEqual([
    [undefined, 0],
    [undefined, 0],
    ['c', 0],
  ]);
  const { boxes } = { ...onForm, ...withBlanks(onForm, found, columns, newId).part };
  expect(boxes.map((box) => box.kind === 'text' && box.oneLine)).toEqual([undefined, undefined, true]);
});
