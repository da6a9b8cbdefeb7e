import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  aboutWidth,
  CHART_COLOURS,
  drawChart,
  drawingSvg,
  fitted,
  tickText,
  valueScale,
  type ChartData,
  type ChartPoint,
  type Drawing,
  type Shape,
} from './index.js';

const words = { own: 'Own mark', mean: 'Class mean', count: 'Learners' };
const point = (title: string, value: number | null, mean: number | null = null): ChartPoint => ({
  title,
  value,
  text: value === null ? '' : String(value),
  mean,
  meanText: mean === null ? '' : String(mean),
});
const points = (kind: 'bars' | 'course', all: readonly ChartPoint[], least = 0, most = 100): ChartData => ({
  kind,
  points: all,
  axis: 'Mark in %',
  words,
  least,
  most,
});
const place = (counts: readonly number[], value: number): ChartData => ({
  kind: 'place',
  counts,
  value,
  text: String(value),
  axis: 'Average',
  words,
  least: 0,
  most: counts.length * 10,
});
const rects = ({ shapes }: Drawing, fill: string): Extract<Shape, { kind: 'rect' }>[] =>
  shapes.flatMap((shape) => (shape.kind === 'rect' && shape.fill === fill ? [shape] : []));
const texts = ({ labels }: Drawing): string[] => labels.map(({ text }) => text);

// Ticks of round length as d3-array documents them (1, 2 or 5 times a power of ten); reckoned by hand.
test.each([
  [0, 97, [0, 100], [0, 20, 40, 60, 80, 100]],
  [0, 9, [0, 10], [0, 2, 4, 6, 8, 10]],
  [-3, 4, [-4, 4], [-4, -2, 0, 2, 4]],
  [0.12, 0.48, [0.1, 0.5], [0.1, 0.2, 0.3, 0.4, 0.5]],
])('an axis of %d to %d ends at %j', (least, most, ends, ticks) => {
  const scale = valueScale(least, most, [0, 100]);
  expect(scale.domain()).toEqual(ends);
  expect(scale.ticks(4)).toEqual(ticks);
});

test('where all values are the same there is an axis all the same', () => {
  const [least, most] = valueScale(50, 50, [0, 10]).domain() as [number, number];
  expect(least).toBeLessThan(50);
  expect(most).toBeGreaterThan(50);
  expect(tickText(-0.30000000000000004)).toBe('−0.3');
});

test('bars are as long as their values, and the mean is a mark on them', () => {
  const drawing = drawChart(points('bars', [point('English', 50, 75), point('Art', 100, 25)]), {
    width: 100,
  });
  const [english, art] = rects(drawing, 'own');
  expect(english!.width / art!.width).toBeCloseTo(0.5);
  const ground = rects(drawing, 'ground')[0]!;
  expect(art!.width).toBeCloseTo(ground.width);
  const [first, second] = rects(drawing, 'mean');
  expect((first!.x + first!.width / 2 - ground.x) / ground.width).toBeCloseTo(0.75);
  expect((second!.x + second!.width / 2 - ground.x) / ground.width).toBeCloseTo(0.25);
  expect(texts(drawing)).toEqual(
    expect.arrayContaining(['English', '50', 'Art', '100', 'Mark in %', 'Own mark', 'Class mean', '0']),
  );
  expect(drawing.alt).toBe('Mark in %. English: 50 (Class mean 75); Art: 100 (Class mean 25)');
});

test('bars below nothing go the other way', () => {
  const drawing = drawChart(points('bars', [point('Gain', 4), point('Loss', -4)], -4, 4), { width: 100 });
  const [gain, loss] = rects(drawing, 'own');
  expect(gain!.width).toBeCloseTo(loss!.width);
  expect(loss!.x + loss!.width).toBeCloseTo(gain!.x);
});

test('what is blank is a dash and no bar; without means there is no key', () => {
  const drawing = drawChart(points('bars', [point('English', null), point('Art', 80)]), { width: 80 });
  expect(rects(drawing, 'own')).toHaveLength(1);
  expect(texts(drawing)).toContain('–');
  expect(texts(drawing)).not.toContain('Class mean');
  expect(drawing.alt).toContain('English: –');
});

test('a line is broken where a value is missing, and one value is a dot', () => {
  const broken = drawChart(
    points('course', [point('1', 40), point('2', null), point('3', 60), point('4', 70)]),
    { width: 90 },
  );
  const line = broken.shapes.find((shape) => shape.kind === 'path' && shape.stroke === 'own');
  expect(line?.kind === 'path' && line.d.match(/M/g)).toHaveLength(2);
  expect(broken.shapes.filter(({ kind }) => kind === 'dot')).toHaveLength(3);
  const one = drawChart(points('course', [point('1', 40)]), { width: 40 });
  expect(one.shapes.filter(({ kind }) => kind === 'dot')).toHaveLength(1);
});

test('the place among the others is the step that the value lies in; the highest belongs to the last', () => {
  const own = (value: number): number => {
    const drawing = drawChart(place([1, 5, 3], value), { width: 80 });
    const bars = drawing.shapes.filter((shape) => shape.kind === 'rect');
    return bars.findIndex((shape) => shape.kind === 'rect' && shape.fill === 'own');
  };
  expect([own(0), own(9.9), own(10), own(29), own(30)]).toEqual([0, 0, 1, 2, 2]);
  const drawing = drawChart(place([1, 5, 3], 12), { width: 80 });
  const [low, high] = [rects(drawing, 'others')[0]!, rects(drawing, 'own')[0]!];
  expect(high.height / low.height).toBeCloseTo(5);
  expect(drawing.alt).toBe('Average. Own mark 12. Learners 0–10: 1; 10–20: 5; 20–30: 3');
});

test('all that is drawn lies on the drawing, down to 40 mm', () => {
  const name = fc.constantFrom(
    'English',
    'Design and technology with a very long name indeed',
    '陳美玲',
    'محمد',
    '',
  );
  const value = fc.option(fc.double({ min: -50, max: 150, noNaN: true }));
  const chart = fc.record({
    kind: fc.constantFrom('bars' as const, 'course' as const),
    all: fc.array(fc.tuple(name, value, value), { minLength: 1, maxLength: 20 }),
  });
  fc.assert(
    fc.property(chart, fc.integer({ min: 40, max: 200 }), ({ kind, all }, width) => {
      const data = points(
        kind,
        all.map(([title, own, mean]) => point(title, own, mean)),
        -50,
        150,
      );
      const { shapes, labels, height } = drawChart(data, { width });
      for (const shape of shapes)
        if (shape.kind === 'rect') {
          expect(shape.x).toBeGreaterThan(-1);
          expect(shape.x + shape.width).toBeLessThan(width + 1);
          expect(shape.y + shape.height).toBeLessThan(height + 1);
        }
      for (const { x, y } of labels) {
        expect(x >= 0 && x <= width).toBe(true);
        expect(y > 0 && y <= height).toBe(true);
      }
    }),
  );
});

test('a text that is too long ends with an ellipsis, and no letter is cut in half', () => {
  expect(fitted('English', 8, 100)).toBe('English');
  expect(fitted('Design and technology', 8, 15)).toMatch(/^Desi.*…$/);
  expect(fitted('👩‍🏫👩‍🏫👩‍🏫👩‍🏫', 8, 6)).toMatch(/^(👩‍🏫)+…$/u);
  expect(aboutWidth('陳', 10)).toBeGreaterThan(aboutWidth('a', 10));
});

test('names cannot break out of the picture', () => {
  const drawing = drawChart(points('bars', [point('</text><script>alert(1)</script>', 1)]), { width: 150 });
  expect(drawingSvg(drawing)).not.toContain('<script');
  expect(drawingSvg(drawing, false)).not.toContain('<text');
});

/** WCAG 2.2, relative luminance and contrast ratio. */
function contrast(one: string, other: string): number {
  const [a, b] = [one, other].map((colour) => {
    const [red, green, blue] = [1, 3, 5].map((at) => {
      const c = parseInt(colour.slice(at, at + 2), 16) / 255;
      return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!;
  }) as [number, number];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

test('what is to be seen stands out (WCAG 2.2, 1.4.3 and 1.4.11), in grey print too', () => {
  // The contrast of black on white is 21 to 1 (WCAG 2.2).
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21);
  for (const colour of ['own', 'mean', 'others'] as const)
    expect(contrast(CHART_COLOURS[colour], '#FFFFFF')).toBeGreaterThanOrEqual(3);
  for (const colour of ['ink', 'slate', 'own'] as const)
    expect(contrast(CHART_COLOURS[colour], '#FFFFFF')).toBeGreaterThanOrEqual(4.5);
  // Own and others stand side by side in one chart.
  expect(contrast(CHART_COLOURS.own, CHART_COLOURS.others)).toBeGreaterThanOrEqual(1.8);
  expect(contrast(CHART_COLOURS.own, CHART_COLOURS.ground)).toBeGreaterThanOrEqual(4.5);
});

/** Charts whose pictures were looked at: what they are made of stays as it is unless somebody looks again. */
const LOOKED_AT: Readonly<Record<string, () => Drawing>> = {
  bars: () =>
    drawChart(
      points('bars', [
        point('English', 55, 68.5),
        point('Mathematics and statistics', 82, 61),
        point('Art', null, 70),
      ]),
      {
        width: 120,
      },
    ),
  'bars-narrow': () =>
    drawChart(points('bars', [point('English', -5, 3), point('Art', 12, 9)], -10, 20), {
      width: 40,
      height: 30,
    }),
  course: () =>
    drawChart(
      points(
        'course',
        [
          point('Test 1', 40, 55),
          point('Test 2', 70, 60),
          point('Test 3', null, 58),
          point('Test 4', 66, 64),
        ],
        30,
        80,
      ),
      {
        width: 90,
      },
    ),
  place: () => drawChart(place([1, 4, 9, 6, 2], 27), { width: 100, height: 42 }),
  weeks: () =>
    drawChart(
      {
        kind: 'weeks',
        weeks: [
          { title: '12 Jan', present: 8, late: 1, away: 1 },
          { title: '19 Jan', present: 10, late: 0, away: 0 },
          { title: '26 Jan', present: 3, late: 0, away: 7 },
        ],
        axis: 'Sessions by week',
        words: { own: 'Present', mean: 'Late', count: 'Away' },
        least: 0,
        most: 10,
      },
      { width: 70 },
    ),
};
test.each(Object.entries(LOOKED_AT))('%s is drawn as it was looked at', (name, draw) => {
  const file = new URL(`./fixtures/${name}.svg`, import.meta.url);
  expect(`${drawingSvg(draw())}\n`).toBe(readFileSync(file, 'utf8'));
});

describe('sessions by week', () => {
  const weeks = (all: readonly [string, number, number, number][], axis = 'Sessions by week'): ChartData => ({
    kind: 'weeks',
    weeks: all.map(([title, present, late, away]) => ({ title, present, late, away })),
    axis,
    words: { own: 'Present', mean: 'Late', count: 'Away' },
    least: 0,
    most: Math.max(...all.map(([, ...counts]) => counts.reduce((sum, one) => sum + one, 0))),
  });
  const data = weeks([
    ['12 Jan', 8, 1, 1],
    ['19 Jan', 10, 0, 0],
  ]);

  test('stand upon each other, as high as they are many, told apart by shape', () => {
    const drawing = drawChart(data, { width: 80 });
    const [first, second] = rects(drawing, 'own');
    const late = rects(drawing, 'mean')[0]!;
    expect((first!.height + 0.3) / (second!.height + 0.3)).toBeCloseTo(0.8);
    expect(late.y + late.height).toBeLessThan(first!.y);
    expect(late.width).toBeCloseTo(first!.width / 2);
    // Away is an empty frame; one more stands in the key.
    expect(drawing.shapes.filter((shape) => shape.kind === 'path' && shape.stroke === 'others')).toHaveLength(
      2,
    );
    expect(texts(drawing)).toEqual(
      expect.arrayContaining(['9/10', '10/10', '12 Jan', '19 Jan', 'Present', 'Late', 'Away']),
    );
    expect(drawing.alt).toBe('Sessions by week. 12 Jan: Present 8, Late 1, Away 1; 19 Jan: Present 10');
  });

  test('forty weeks at 40 mm keep inside, and name some of them', () => {
    const all = Array.from({ length: 40 }, (_, n): [string, number, number, number] => [
      `${n + 1} Jan`,
      8,
      1,
      1,
    ]);
    const drawing = drawChart(weeks(all), { width: 40 });
    for (const { x, side, text, size } of drawing.labels) {
      const wide = aboutWidth(text, size);
      const from = side === 'start' ? x : side === 'end' ? x - wide : x - wide / 2;
      expect(from).toBeGreaterThan(-2.5);
      expect(from + wide).toBeLessThan(42.5);
    }
    const named = texts(drawing).filter((text) => / Jan$/.test(text));
    expect(named.length).toBeGreaterThan(1);
    expect(named.length).toBeLessThan(8);
  });

  test('one week is one column', () =>
    expect(
      rects(drawChart(weeks([['12 Jan', 10, 0, 0]]), { width: 60 }), 'own')[0]!.width,
    ).toBeLessThanOrEqual(9));
});
