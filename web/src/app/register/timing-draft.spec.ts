import { timingOf, type TimingDraft } from './timing-draft';

const draft: TimingDraft = {
  later: false,
  at: '',
  hours: false,
  from: '08:00',
  to: '17:00',
  days: [1, 2, 3, 4, 5],
  paced: false,
  perMinute: '30',
};
const now = new Date('2027-03-01T12:00:00Z');

test('nothing is asked for where nothing is ticked', () => expect(timingOf(draft, now)).toEqual({}));

test('a moment, hours and a pace', () =>
  expect(timingOf({ ...draft, later: true, at: '2027-03-02T08:00', hours: true, paced: true }, now)).toEqual({
    startsAt: new Date('2027-03-02T08:00').toISOString(),
    hours: { days: [1, 2, 3, 4, 5], from: '08:00', to: '17:00' },
    perMinute: 30,
  }));

test.each([
  [{ later: true }, /Say the day/],
  [{ later: true, at: '2027-02-01T08:00' }, /has passed/],
  [{ hours: true, from: '17:00', to: '08:00' }, /end before they begin/],
  [{ hours: true, from: '' }, /from when to when/],
  [{ hours: true, days: [] }, /a day at least/],
  [{ paced: true, perMinute: '0' }, /from 1 to 600/],
  [{ paced: true, perMinute: 'many' }, /from 1 to 600/],
])('%j is told in a sentence', (more, says) => expect(timingOf({ ...draft, ...more }, now)).toMatch(says));
