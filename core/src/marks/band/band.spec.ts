import type { Band } from '../../column/index.js';
import { bandOf, bandsByShare, Ladder, ratio, ratioOf, SCALES } from '../index.js';

const bands = (...list: [label: string, from: string | null][]): Band[] =>
  list.map(([label, from]) => ({ id: label, label, from }));
const letters = bands(['A', '90'], ['B', '80'], ['C', '70'], ['F', null]);
const plain = { bands: letters, before: null, near: '0.5' };
const half = { places: 0, mode: 'half up' as const };

test.each([
  ['90', 'A'],
  ['89.9999999999', 'B'],
  ['89.5', 'B'],
  ['80', 'B'],
  ['69.99', 'F'],
  ['0', 'F'],
  ['104', 'A'],
])('%s is in band %s', (mark, label) => expect(bandOf(plain, ratio(mark))?.band.label).toBe(label));

test('rounding before banding lifts 89.5 into A, rounding after it does not', () => {
  expect(bandOf({ ...plain, before: half }, ratio('89.5'))?.band.label).toBe('A');
  expect(bandOf({ ...plain, before: { ...half, mode: 'down' } }, ratio('89.9'))?.band.label).toBe('B');
  expect(bandOf({ ...plain, before: { ...half, mode: 'half even' } }, ratio('88.5'))?.counted.valueOf()).toBe(
    88,
  );
});

test('a boundary that binary numbers miss: 0.1 + 0.2 of 0.3 is all of it', () => {
  const all = bands(['all', '100'], ['less', null]);
  const mark = ratio('0.1').add(ratio('0.2')).div(ratio('0.3')).mul(100);
  expect((0.1 + 0.2) / 0.3).not.toBe(1);
  expect(bandOf({ bands: all, before: null, near: null }, mark)?.band.label).toBe('all');
  expect(
    bandOf({ bands: all, before: null, near: null }, ratioOf(99999999999999999n, 1000000000000000n))?.band
      .label,
  ).toBe('less');
});

test('who is just below the next band', () => {
  expect(bandOf(plain, ratio('79.6'))).toMatchObject({ borderline: true, next: { band: { label: 'B' } } });
  expect(bandOf(plain, ratio('79.6'))!.next!.missing.equals(ratio('0.4'))).toBe(true);
  expect(bandOf(plain, ratio('79.5'))?.borderline).toBe(false);
  expect(bandOf(plain, ratio('80'))?.borderline).toBe(false);
  expect(bandOf(plain, ratio('95'))?.next).toBeNull();
});

test('below all bands there is none, and of two with one threshold the first counts', () => {
  expect(bandOf({ ...plain, bands: letters.slice(0, 3) }, ratio('12'))).toBeNull();
  const twice = bands(['A', '90'], ['A+', '90'], ['B', null]);
  expect(new Ladder(twice).bands.map(({ label }) => label)).toEqual(['B', 'A']);
});

describe('ready-made scales', () => {
  const scale = (id: string) => SCALES.find((one) => one.id === id)!;
  const on = (id: string, mark: string): Band =>
    bandOf(
      { bands: scale(id).bands.map((band) => ({ ...band, id: band.label })), before: null, near: null },
      ratio(mark),
    )!.band;
  // Common practice, no published source.
  test.each([
    ['95', '4.0'],
    ['93', '4.0'],
    ['92.9', '3.7'],
    ['85', '3.0'],
    ['60', '0.7'],
    ['59.9', '0'],
  ])('%s percent are %s grade points', (mark, points) =>
    expect(on('letters-signs', mark).points).toBe(points),
  );
  test.each([
    ['1-6', '92', '1'],
    ['1-6', '49.9', '5'],
    ['0-20', '72.4', '14'],
    ['0-20', '4', '0'],
    ['9-1', '39', '3'],
    ['1-10', '54.9', '5'],
    ['honours', '81', 'High honours'],
  ])('scale %s: %s is %s', (id, mark, label) => expect(on(id, mark).label).toBe(label));
  test('every scale has a band for every mark, highest first', () => {
    for (const { basis, bands: list, id } of SCALES) {
      if (basis === 'shares') continue;
      expect([id, list.at(-1)!.from]).toEqual([id, null]);
      const from = list.slice(0, -1).map((band) => Number(band.from));
      expect(from).toEqual([...from].sort((a, b) => b - a));
    }
  });
});

describe('bands by shares', () => {
  const shares = SCALES.find(({ id }) => id === 'shares')!.bands.map((band) => ({ ...band, id: band.label }));
  const count = (values: number[], ties: 'better' | 'worse' = 'better'): string =>
    bandsByShare(
      shares,
      values.map((value) => ratio(String(value))),
      ties,
    )
      .map(({ label }) => label)
      .join('');
  // ECTS Users’ Guide 2005 (from memory): 10, 25, 30, 25 and 10 percent of those who pass.
  test('of 20 learners 2, 5, 6, 5 and 2', () => {
    expect(count(Array.from({ length: 20 }, (_, n) => 100 - n))).toBe('AABBBBBCCCCCCDDDDDEE');
  });
  test('alike on an edge fall on the side that is said', () => {
    const values = [100, 99, 99, 97, 96, 95, 94, 93, 92, 91, 90, 89, 88, 87, 86, 85, 84, 83, 82, 81];
    expect(count(values).slice(0, 4)).toBe('AAAB');
    expect(count(values, 'worse').slice(0, 4)).toBe('ABBB');
  });
  test('one learner, and all alike', () => {
    expect(count([50])).toBe('A');
    expect(count([50, 50, 50])).toBe('AAA');
    expect(count([50, 50, 50], 'worse')).toBe('DDD');
  });
});
