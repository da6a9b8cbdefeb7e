import { timeLeft } from './time-left';

test('goes by the pace so far', () => {
  expect(timeLeft(0, 10_000, 50, 150)).toBe('about 20 s left');
  expect(timeLeft(0, 60_000, 10, 100)).toBe('about 9 min left');
});

test('says nothing while nothing is done', () => {
  expect(timeLeft(0, 10_000, 0, 150)).toBe('');
  expect(timeLeft(10, 10, 5, 150)).toBe('');
});
