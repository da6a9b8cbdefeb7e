import { opensAt } from '@scriptum/server/post/hours';

const hours = { days: [1, 2, 3, 4, 5], from: '08:00', to: '17:00' };
const at = (text: string): Date => new Date(text);

// In 2027 clocks change on 28 March and 31 October in Europe, on 14 March and 7 November in New York (IANA time zone database).
test.each([
  ['inside', '2027-03-24T10:00:00Z', '2027-03-24T10:00:00Z', 'Europe/Berlin'],
  ['at the end', '2027-03-24T16:00:00Z', '2027-03-25T07:00:00Z', 'Europe/Berlin'],
  ['before they begin', '2027-03-24T05:00:00Z', '2027-03-24T07:00:00Z', 'Europe/Berlin'],
  ['over the day when clocks go forward', '2027-03-26T18:00:00Z', '2027-03-29T06:00:00Z', 'Europe/Berlin'],
  ['over the day when clocks go back', '2027-10-29T18:00:00Z', '2027-11-01T07:00:00Z', 'Europe/Berlin'],
  ['elsewhere', '2027-11-05T22:00:00Z', '2027-11-08T13:00:00Z', 'America/New_York'],
  ['a quarter of an hour off', '2027-01-04T00:00:00Z', '2027-01-04T02:15:00Z', 'Asia/Kathmandu'],
])('hours of school, %s', (_, from, expected, zone) =>
  expect(opensAt(at(from), hours, zone)).toEqual(at(expected)),
);

test('a single day a week comes in its turn, also where its hour is passed over', () =>
  expect(
    opensAt(at('2027-03-22T12:00:00Z'), { days: [7], from: '02:30', to: '05:00' }, 'Europe/Berlin'),
  ).toEqual(at('2027-03-28T01:30:00Z')));
