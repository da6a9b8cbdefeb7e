import fc from 'fast-check';
import { say, saying } from '../../sentences/index.js';
import type { Roll } from '../../roll/index.js';
import { type Column, Worked } from '../../column/index.js';
import { evaluate, FUNCTIONS, Marks, type Cell, type Surroundings } from '../index.js';
import { number, truth } from '../cell.js';
import { ratio } from '../../ratio/index.js';
import type { Tree } from './parse.js';

/** Numbers at the edges of dates, counts and doubles, and what people write into sheets. */
const NUMBERS = [
  '0',
  '-1',
  '1',
  '2.5',
  '-0.001',
  '447700900123',
  '-447700900123',
  '2958466',
  '-693594',
  '9007199254740993',
  `1${'0'.repeat(300)}`,
  `0.${'0'.repeat(200)}1`,
];
const TEXTS = [
  '',
  '0',
  '07700 900123',
  '+44 7700 900123',
  '12%',
  '1E-3',
  '1e999',
  '2026-02-30',
  '29.2.2023',
  '9999-12-31',
  '99:99',
  '25:00',
  '12:60 pm',
  '$&',
  '~*?',
  'true',
  'ß',
  'e\u0301',
  '👩‍🏫',
  'مرحبا',
  '"',
  '#N/A',
  '=1+1',
  'y',
  'md',
  '   ',
  '٣',
];

const cell: fc.Arbitrary<Cell> = fc.oneof(
  fc.constantFrom(...NUMBERS).map((written) => number(ratio(written), null)),
  fc
    .double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 })
    .map((value) => number(ratio(value.toFixed(6)), null)),
  fc.constantFrom(...TEXTS).map((text): Cell => ({ kind: 'text', text })),
  fc.string({ unit: 'binary', maxLength: 20 }).map((text): Cell => ({ kind: 'text', text })),
  fc
    .constantFrom('0001-01-01', '9999-12-31', '2024-02-29', '2026-11-25T23:59:59')
    .map((iso): Cell => ({ kind: 'date', iso })),
  fc.boolean().map(truth),
  fc.constant<Cell>({ kind: 'blank' }),
  fc.constant<Cell>({ kind: 'list', items: ['red', '7'] }),
  fc
    .constantFrom('#N/A' as const, '#DIV/0!' as const)
    .map((code): Cell => ({ kind: 'error', code, reason: saying('says-nothing') })),
);
const operand = fc.oneof(cell, fc.array(cell, { maxLength: 12 }));

/** Columns `c0`, `c1` … stand for what is given; a list comes as a whole column. */
function call(name: string, given: readonly (Cell | readonly Cell[])[]): Cell {
  const around: Surroundings = {
    cell: (id) => given[Number(id)] as Cell,
    all: (id) => given[Number(id)] as readonly Cell[],
    own: () => [],
    today: '2026-11-25',
  };
  const trees = given.map((one, n): Tree => {
    const column: Tree = { kind: 'column', columnId: String(n) };
    return Array.isArray(one) ? { kind: 'call', name: 'ALL', given: [column] } : column;
  });
  return evaluate({ kind: 'call', name, given: trees }, around);
}

/** What is caught at the edge of a formula, because nobody foresaw it. */
const unforeseen = (result: Cell): boolean =>
  result.kind === 'error' && result.reason.code === 'formula-values';

test.each(Object.keys(FUNCTIONS))(
  '%s makes a value, or an error that says why, of whatever it is given',
  (name) => {
    const [least, most] = FUNCTIONS[name]!.counts;
    fc.assert(
      fc.property(fc.array(operand, { minLength: least, maxLength: Math.min(most, least + 3) }), (given) => {
        const result = call(name, given);
        expect(unforeseen(result) ? [name, given] : null).toBeNull();
        if (result.kind === 'error') expect(say(result.reason)).toMatch(/[.?!]$/);
        if (result.kind === 'date') expect(Number.isNaN(Date.parse(result.iso))).toBe(false);
      }),
      { numRuns: 150 },
    );
  },
);

test.each(['+', '-', '*', '/', '^', '&', '=', '<', '%'])('the sign %s too', (sign) => {
  fc.assert(
    fc.property(cell, cell, (left, right) => {
      const around: Surroundings = {
        cell: (id) => (id === 'l' ? left : right),
        all: () => [],
        own: () => [],
        today: '2026-11-25',
      };
      const operands: Tree[] = [
        { kind: 'column', columnId: 'l' },
        { kind: 'column', columnId: 'r' },
      ];
      expect(
        unforeseen(
          evaluate(
            { kind: 'operation', sign, operands: sign === '%' ? operands.slice(1) : operands },
            around,
          ),
        ),
      ).toBe(false);
    }),
    { numRuns: 400 },
  );
});

test('no roll of whatever cells throws out of its marks, its findings or its steps', () => {
  const types: Column['type'][] = [
    'text',
    'number',
    'percentage',
    'date',
    'date-time',
    'yes/no',
    'several choices',
    'phone',
  ];
  const value = fc.oneof(fc.constantFrom(...NUMBERS, ...TEXTS), fc.string({ unit: 'binary', maxLength: 12 }));
  const named = (id: string, formula: { text: string }[] | { columnId: string }[]): Column => ({
    id,
    title: id,
    worked: Worked.parse({ kind: 'expression', formula, rounding: null }),
  });
  const byOne = Object.entries(FUNCTIONS).filter(([, known]) => known.counts[0] <= 2 && known.counts[1] >= 1);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(value, value), { minLength: 1, maxLength: 4 }),
      fc.constantFrom(...types),
      fc.constantFrom(...types),
      (rows, left, right) => {
        const roll: Roll = {
          columns: [
            { id: 'l', title: 'L', ...(left ? { type: left } : {}) },
            { id: 'r', title: 'R', ...(right ? { type: right } : {}) },
            ...byOne.map(([name, { counts }]) =>
              named(name, [
                { text: `${name}(` },
                { columnId: 'l' },
                ...(counts[0] === 2 ? [{ text: '; ' }, { columnId: 'r' }] : []),
                { text: ')' },
              ] as never),
            ),
          ],
          entries: rows.map(([l, r], n) => ({ id: `e${n}`, position: n, values: { l, r } })),
        };
        const marks = new Marks(roll, [], '2026-11-25');
        marks.notices();
        for (const [name] of byOne) expect(marks.explain(name, 'e0')).not.toBeNull();
        expect(marks.withWorked().entries).toHaveLength(rows.length);
      },
    ),
    { numRuns: 60 },
  );
});
