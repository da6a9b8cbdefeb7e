import fc from 'fast-check';
import { Outline } from './outline.js';

const levels = (...looks: number[]): number[] => {
  const outline = new Outline();
  return looks.map((look) => outline.next(look, false));
};

// ISO 14289-1, 7.4.2: “If document semantics require a descending sequence of headers, such a sequence shall proceed in strict
// numerical order and shall not skip an intervening heading level.”
test('the first heading is of level 1, and no level is skipped, whatever the headings look like', () => {
  expect(levels(1, 2, 3, 2, 1)).toEqual([1, 2, 3, 2, 1]);
  expect(levels(2, 2, 3, 1)).toEqual([1, 1, 2, 1]);
  expect(levels(3, 1, 3)).toEqual([1, 1, 2]);
});

test('nor where headings are left out', () => {
  const headings = fc.array(
    fc.record({ look: fc.integer({ min: 1, max: 3 }), mayVanish: fc.boolean(), gone: fc.boolean() }),
  );
  fc.assert(
    fc.property(headings, (all) => {
      const outline = new Outline();
      const there = all
        .map(({ look, mayVanish, gone }) => ({
          level: outline.next(look, mayVanish),
          gone: mayVanish && gone,
        }))
        .filter(({ gone }) => !gone);
      let before = 0;
      for (const { level } of there) {
        expect(level).toBeLessThanOrEqual(before + 1);
        before = level;
      }
    }),
  );
});
