import type { FolioSummary } from '@scriptum/core/contract';
import { waitingIn } from './waiting';

const folio = (title: string, more: Partial<FolioSummary> = {}): FolioSummary => ({
  id: title.toLowerCase(),
  title,
  entries: 3,
  pressed: 0,
  toReview: 0,
  cleared: 0,
  held: 0,
  dispatched: 0,
  outOfDate: 0,
  failed: 0,
  refused: 0,
  unconfirmed: 0,
  asked: 0,
  orderBlocked: 0,
  filesWait: 0,
  blocking: 0,
  changedAt: '2026-11-27T03:00:00.000Z',
  changedBy: null,
  archived: false,
  ...more,
});

test('what waits is told with where it is, the gravest first; what was put away waits no more', () => {
  const all = [
    folio('A', { held: 1, refused: 2, asked: 1, filesWait: 1 }),
    folio('B', { blocking: 1, toReview: 1200 }),
    folio('C', { blocking: 3, archived: true }),
    folio('D', { cleared: 4, dispatched: 5 }),
  ];
  expect(
    waitingIn(all).map(({ text, folio: title, link, grave }) => [text, title, link.join('/'), grave]),
  ).toEqual([
    ['1 finding blocks the press', 'B', '/folio/b/press/checks', true],
    ['2 messages were refused', 'A', '/folio/a/register', true],
    ['1 watched file waits for a look', 'A', '/folio/a/roll/watched', true],
    ['1 learner’s papers wait for a yes', 'A', '/folio/a/press/orders', false],
    [`${(1200).toLocaleString()} papers wait to be cleared or sent`, 'B', '/folio/b/register/review', false],
    ['1 paper is held', 'A', '/folio/a/register/review', false],
  ]);
  expect(waitingIn([])).toEqual([]);
});
