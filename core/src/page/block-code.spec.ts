import fc from 'fast-check';
import { emptyLetter, type Field, type Letter, type TableFilling } from '../template/index.js';
import type { PrintedValues } from '../fill/index.js';
import { alignedCells } from './number-columns.js';
import { BAND_TINTS, drawnValues, programValues, typeset } from './index.js';

const table: TableFilling = {
  columns: [
    { id: 'a', title: 'Subject', look: { kind: 'strong' }, width: { share: 2 } },
    { id: 'b', title: 'Mark', look: { kind: 'plain' }, width: 'auto' },
    { id: 'c', title: '', look: { kind: 'bar', most: 100, mean: true }, width: 'auto' },
    { id: 'd', title: '', look: { kind: 'band' }, width: { mm: 22.5 } },
  ],
  rows: { kind: 'each', rows: [] },
  within: [],
  blankRows: 'stand',
};
const chart = { kind: 'bars' as const, values: [], mean: false, within: [], axis: 'Mark' };
const letterWith = (...fields: Field[]): Letter => ({
  ...emptyLetter('T'),
  fields,
  body: { type: 'doc', content: fields.map(({ id }) => ({ type: 'fieldBlock', attrs: { fieldId: id } })) },
});
const tableField = { id: 't', name: 'T', columnId: null, table };
const chartField = { id: 'c', name: 'C', columnId: null, chart };

test('nothing of a table or chart that a person typed is in the source', () => {
  const source = (typed: string): string => {
    const own: TableFilling = { ...table, columns: [{ ...table.columns[0]!, id: typed, title: typed }] };
    return typeset(
      letterWith(
        { ...tableField, id: typed, name: typed, table: own },
        { ...chartField, name: typed, chart: { ...chart, axis: typed } },
      ),
    ).source;
  };
  fc.assert(
    fc.property(fc.string({ unit: 'binary', minLength: 6, maxLength: 40 }), (typed) =>
      expect(source(typed)).toBe(source('x')),
    ),
  );
});

test('columns have their widths, a bar one of its own', () => {
  const { source, texts, draws } = typeset(letterWith(tableField));
  expect(source).toContain(
    'if not gone("f0") { if "f0-block" in values { worked-table("f0-block", (1, 2, 3, 4,), ("strong", "plain", "bar", "band",), (2fr, auto, 36mm, 22.5mm,)) } else { par(f("f0")) } }',
  );
  expect(JSON.parse(texts).slice(1)).toEqual(['Subject', 'Mark', '', '']);
  expect(draws).toBe(false);
});

test('only templates with tables or charts have the code for them, and one whose field is gone says so', () => {
  expect(typeset(letterWith(chartField)).draws).toBe(true);
  expect(typeset(letterWith({ id: 'f', name: 'F', columnId: 'x' })).source).not.toContain('worked-table');
  const gone = { ...letterWith(tableField), fields: [] };
  expect(typeset(gone).source).toContain('unmatched(');
});

test('charts are drawn where the paper is set: a picture without words, and the words beside it', () => {
  const values: PrintedValues = {
    c: {
      text: 'Mark. English: 5',
      chart: {
        kind: 'bars',
        points: [{ title: 'English', value: 5, text: '5', mean: null, meanText: '' }],
        axis: 'Mark',
        words: { own: 'Own', mean: 'Mean', count: 'Learners' },
        least: 0,
        most: 10,
      },
    },
  };
  const plain = programValues(letterWith(chartField), values);
  const drawn = JSON.parse(drawnValues(plain))['f0-block'];
  // As wide as the text: A4 less 25 mm on both sides.
  expect(drawn).toMatchObject({ width: 160, alt: 'Mark. English: 5' });
  expect(drawn.svg).toMatch(/^<svg [^>]*width="160mm"/);
  expect(drawn.svg).not.toContain('<text');
  expect(drawn.labels).toContainEqual(
    expect.objectContaining({ text: 'English', side: 'start', colour: '#22303C', weight: 'regular' }),
  );
  const wider = letterWith({ ...chartField, chart: { ...chart, width: 400, height: 50 } });
  expect(JSON.parse(drawnValues(programValues(wider, values)))['f0-block']).toMatchObject({
    width: 160,
    height: 50,
  });
  expect(drawnValues('{"f0":"x","p0":true}')).toBe('{"f0":"x","p0":true}');
});

test('a field that printed something else when its paper was made has no block', () => {
  expect(JSON.parse(programValues(letterWith(tableField), { t: 'text' }))).toEqual({ f0: 'text' });
  expect(
    JSON.parse(
      programValues(letterWith({ id: 't', name: 'T', columnId: 'x' }), { t: { text: 'x', rows: [['x']] } }),
    ),
  ).toEqual({ f0: 'x' });
});

describe('numbers below each other', () => {
  const pads = (cells: string[], language = 'en'): string[] =>
    alignedCells(cells, language).map((cell) =>
      typeof cell === 'string' ? cell : `${cell.text}[${cell.pad}]${cell.rest}`,
    );
  test.each([
    [
      ['5', '5.25', '10.5'],
      ['5[.00]', '5.25', '10.5[0]'],
    ],
    [
      ['5 %', '12.5 %'],
      ['5[.0] %', '12.5 %'],
    ],
    [
      ['1,234', '5'],
      ['1,234', '5'],
    ],
    [
      ['−3.5', 'ill', ''],
      ['−3.5', 'ill', ''],
    ],
    [
      ['1.234', '2'],
      ['1.234', '2[.000]'],
    ],
    [
      ['1.234', '2.5'],
      ['1.234', '2.5[00]'],
    ],
  ])('%j', (cells, expected) => expect(pads(cells)).toEqual(expected));
  // Unicode CLDR: a comma before decimals in German, U+066B in Arabic of Egypt.
  test('by the sign of the language', () => {
    expect(pads(['5', '5,25', '1.234'], 'de')).toEqual(['5[,00]', '5,25', '1.234[,00]']);
    expect(pads(['٥', '٥٫٢'], 'ar-EG')).toEqual(['٥[٫0]', '٥٫٢']);
  });
});

test('the columns of a table get the room that their numbers need', () => {
  const values = programValues(letterWith(tableField), {
    t: {
      text: 'x',
      rows: [
        ['A', '5', '', { text: 'x', tint: 0 }],
        ['B', '5.5', '', ''],
      ],
      numeric: [false, true, false, false],
      strong: [1],
    },
  });
  expect(JSON.parse(values)['f0-block']).toEqual({
    rows: [
      ['A', { text: '5', pad: '.0', rest: '' }, '', { text: 'x', tint: 0 }],
      ['B', '5.5', '', ''],
    ],
    numeric: [false, true, false, false],
    strong: [1],
  });
});

/** WCAG 2.2, relative luminance. */
const luminance = (colour: string): number => {
  const [red, green, blue] = [1, 3, 5].map((at) => {
    const c = parseInt(colour.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!;
};
test('what stands on the ground of a band can be read (WCAG 2.2, 1.4.6: 7 to 1)', () => {
  for (const tint of BAND_TINTS)
    expect((luminance(tint) + 0.05) / (luminance('#22303C') + 0.05)).toBeGreaterThanOrEqual(7);
});
