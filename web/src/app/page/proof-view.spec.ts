import { blockAt } from './proof-view';

const blocks = [
  { block: 0, page: 0, y: 70 },
  { block: 1, page: 0, y: 200 },
  // One that does not stand in this paper begins where the next one does.
  { block: 2, page: 0, y: 300 },
  { block: 3, page: 0, y: 300 },
  { block: 4, page: 1, y: 70 },
];

test.each([
  [0, 10, 0],
  [0, 70, 0],
  [0, 199, 0],
  [0, 200, 1],
  [0, 310, 3],
  [0, 800, 3],
  // What stands at the head of a later page goes on from the page before.
  [1, 20, 3],
  [1, 500, 4],
])('page %i at %i points is block %i', (page, y, block) => {
  expect(blockAt(blocks, page, y)).toBe(block);
});

test('a paper without blocks leads nowhere', () => {
  expect(blockAt([], 0, 100)).toBeNull();
});
