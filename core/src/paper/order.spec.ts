import { comparePaperOrder, type OrderedPaper } from './index.js';

const paper = (id: string, position: number, place: number, pressedAt: string | null): OrderedPaper => ({
  id,
  position,
  place,
  pressedAt,
});

test('a register stands in the order of the roll, of the templates, and the newest first', () => {
  const sorted = [
    paper('g', 0, 0, '2026-11-26T09:00:00.000Z'),
    paper('f', 0, 0, '2026-11-26T08:00:00.000Z'),
    paper('b', 0, 0, null),
    paper('d', 0, 0, null),
    paper('a', 0, 1, '2026-11-26T10:00:00.000Z'),
    paper('c', 1, 0, '2026-11-26T10:00:00.000Z'),
    paper('e', 12, 0, null),
  ];
  for (let turn = 0; turn < sorted.length; turn++) {
    const mixed = [...sorted.slice(turn), ...sorted.slice(0, turn)];
    expect([...mixed].sort(comparePaperOrder)).toEqual(sorted);
    expect([...mixed.reverse()].sort(comparePaperOrder)).toEqual(sorted);
  }
});
