import { beginWorked } from '@scriptum/core/marks';
import { columnChanges, type Roll } from '@scriptum/core/roll';
import { MarksDesk } from './marks-desk';

let ids = 0;
const newId = (): string => `n${++ids}`;
const base: Roll = {
  columns: [
    { id: 'name', title: 'Name', role: 'name' },
    { id: 'test', title: 'Test (20)', type: 'number' },
    { id: 'q', title: 'What holds an arch up?' },
  ],
  entries: [
    { id: 'a', position: 0, values: { name: 'Amara', test: '15', q: 'keystone' } },
    { id: 'b', position: 1, values: { name: 'Zoë', test: '15.9', q: 'glue' } },
    { id: 'c', position: 2, values: { name: 'Noor', test: '', q: '' } },
  ],
};
const mark = beginWorked('scheme', base, null, newId);
const withMark = { ...base, columns: [...base.columns, mark] };
const band = beginWorked('band', withMark, mark.id, newId);
const key = beginWorked('key', withMark, null, newId);
const roll: Roll = { ...base, columns: [...withMark.columns, band, key] };

function open(): MarksDesk {
  const desk = new MarksDesk();
  desk.takeRoll(roll.columns, undefined);
  desk.takeEntries(roll.entries.slice(0, 2));
  desk.takeEntries(roll.entries.slice(2));
  desk.begin([], '2026-11-23');
  return desk;
}

test('a roll that came in chunks is worked out whole', () => {
  const desk = new MarksDesk();
  expect(desk.change({ cells: [] })).toBeNull();
  desk.takeRoll(roll.columns, undefined);
  desk.takeEntries(roll.entries);
  const texts = desk.begin([], '2026-11-23');
  expect(texts.find(({ columnId }) => columnId === mark.id)).toEqual({
    columnId: mark.id,
    places: null,
    texts: ['75.0', '79.5', ''],
  });
});

test('a change gives the texts that are others now, and nothing else', () => {
  const desk = open();
  const changed = desk.change({ cells: [{ entryId: 'a', columnId: 'test', text: '18' }] });
  expect(changed).toContainEqual({ columnId: mark.id, places: [0], texts: ['90.0'] });
  expect(changed).toContainEqual({ columnId: band.id, places: [0], texts: ['A'] });
  expect(desk.change({ cells: [{ entryId: 'a', columnId: 'test', text: '18' }] })).toEqual([]);
});

test('a preview says whose cells would change, and changes none', () => {
  const desk = open();
  if (band.worked?.kind !== 'band') throw new Error();
  const { worked } = band;
  const moved = worked.bands.map((one) => (one.from === '80' ? { ...one, from: '79' } : one));
  const columns = roll.columns.map((column) =>
    column.id === band.id ? { ...column, worked: { ...worked, bands: moved } } : column,
  );
  expect(desk.preview({ columns: columnChanges(roll.columns, columns) })).toEqual([
    { columnId: band.id, count: 1, lines: [{ entryId: 'b', before: 'C', after: 'B' }] },
  ]);
  expect(desk.preview({ columns: [] })).toEqual([]);
  expect(desk.overview(band.id)).toMatchObject({ counts: [{ text: 'C', count: 2 }] });
  // Who had nothing before is not among them: nothing changes for them.
  expect(desk.preview({ cells: [{ entryId: 'c', columnId: 'test', text: '20' }] })).toEqual([]);
  expect(desk.preview({ cells: [{ entryId: 'a', columnId: 'test', text: '' }] })).toMatchObject([
    { columnId: mark.id, lines: [{ before: '75.0', after: '' }] },
    { columnId: band.id },
  ]);
});

test('the overview counts, and names those on the border', () => {
  const desk = open();
  expect(desk.overview(mark.id)).toMatchObject({ numbers: [75, 79.5], blank: 1 });
  expect(desk.overview(band.id)).toMatchObject({
    counts: [{ text: 'C', count: 2 }],
    borderline: [{ entryId: 'b', text: '0.5 below B' }],
  });
  expect(desk.overview(key.id).items).toMatchObject([
    { facility: '0', marked: 2, commonWrong: { text: 'keystone', count: 1 } },
  ]);
});

test('findings and steps are those of the core', () => {
  const desk = open();
  expect(desk.findings().map(({ code }) => code)).toEqual(['question-without-answer']);
  expect(desk.explain(mark.id, 'a')).toMatchObject({ value: '75.0', problem: null, byHand: false });
  expect(desk.explain('test', 'a')).toBeNull();
  expect(desk.suggestions(mark.id, 'a')).toEqual([]);
});
