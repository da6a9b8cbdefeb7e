import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { decimalOf, plainRatio, ratio, ratioOf, roundRatio, withSign } from './index.js';

const Exact = Decimal.clone({ precision: 80 });
const decimal = fc
  .tuple(fc.bigInt({ min: -(10n ** 12n), max: 10n ** 12n }), fc.integer({ min: 0, max: 8 }))
  .map(([n, places]) => new Exact(String(n)).div(new Exact(10).pow(places)).toFixed(places));

/** The modes of decimal.js that IEEE 754-2019, 4.3, calls roundTiesToAway, roundTiesToEven, roundTowardZero. */
const MODES = [
  ['half up', Decimal.ROUND_HALF_UP],
  ['half even', Decimal.ROUND_HALF_EVEN],
  ['down', Decimal.ROUND_DOWN],
  ['up', Decimal.ROUND_UP],
] as const;

test.each(MODES)('rounding %s is that of decimal.js', (mode, theirs) => {
  fc.assert(
    fc.property(decimal, fc.integer({ min: 0, max: 6 }), (text, places) => {
      const expected = new Exact(text).toFixed(places, theirs);
      // A zero has no sign here.
      expect(roundRatio(ratio(text), { places, mode })).toBe(
        /^-0(?:\.0*)?$/.test(expected) ? expected.slice(1) : expected,
      );
    }),
    { numRuns: 500 },
  );
});

// IEEE 754-2019, 4.3.1 and 4.3.2, on the boundary cases that schools argue about.
test.each([
  ['89.5', 0, 'half up', '90'],
  ['89.5', 0, 'half even', '90'],
  ['88.5', 0, 'half up', '89'],
  ['88.5', 0, 'half even', '88'],
  ['89.4999999999', 0, 'half up', '89'],
  ['1.005', 2, 'half up', '1.01'],
  ['2.675', 2, 'half up', '2.68'],
  ['-2.5', 0, 'half up', '-3'],
  ['-2.5', 0, 'half even', '-2'],
  ['-0.4', 0, 'half up', '0'],
  ['0.1', 0, 'up', '1'],
] as const)('%s to %i places, %s: %s', (text, places, mode, expected) => {
  expect(roundRatio(ratio(text), { places, mode })).toBe(expected);
});

test('tenths are tenths and thirds are thirds', () => {
  expect(ratio('0.1').add(ratio('0.2')).equals(ratio('0.3'))).toBe(true);
  const third = ratioOf(1n, 3n);
  expect(third.add(third).add(third).equals(1)).toBe(true);
  expect(plainRatio(ratioOf(200n, 3n), 2)).toBe('≈66.67');
  expect(plainRatio(ratio('67.50'), 2)).toBe('67.5');
  expect(decimalOf(ratio('67.5'))).toBe('67.5');
  expect(decimalOf(third)).toBe(`0.${'3'.repeat(34)}`);
  expect(withSign('67.5', ',')).toBe('67,5');
});

test('what is no plain number is refused', () => {
  for (const text of ['', '1/2', '1e3', '0.(3)', ' 1']) expect(() => ratio(text)).toThrow(RangeError);
});
