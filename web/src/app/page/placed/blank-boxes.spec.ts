import type { Blank } from '@scriptum/core/blanks';
import type { Column } from '@scriptum/core/column';
import { emptyPlaced, Placed } from '@scriptum/core/template';
import { offersOf, withBlanks } from './blank-boxes';

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
