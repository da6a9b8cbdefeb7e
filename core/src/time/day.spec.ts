import fc from 'fast-check';
import { dayBegins, dayIn, isTimeZone } from './index.js';

// IANA time zone database: London is an hour before UTC from the last Sunday of March to that of October, Kiribati 14 hours
// before UTC, Niue 11 behind.
test.each([
  ['2026-11-25T23:59:59Z', 'Europe/London', '2026-11-25'],
  ['2026-06-25T23:00:00Z', 'Europe/London', '2026-06-26'],
  ['2026-06-25T22:59:59Z', 'Europe/London', '2026-06-25'],
  ['2026-03-29T00:59:59Z', 'Europe/London', '2026-03-29'],
  ['2025-12-31T10:00:00Z', 'Pacific/Kiritimati', '2026-01-01'],
  ['2026-01-01T10:59:00Z', 'Pacific/Niue', '2025-12-31'],
  ['2026-02-28T23:30:00Z', 'Asia/Kolkata', '2026-03-01'],
])('%s is in %s the %s', (at, zone, day) => {
  expect(dayIn(new Date(at), zone)).toBe(day);
});

test('in UTC it is what the instant says; a zone that is none counts as UTC', () => {
  expect(isTimeZone('Europe/Nowhere')).toBe(false);
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1970-01-01'), max: new Date('2199-12-31'), noInvalidDate: true }),
      (at) => {
        expect(dayIn(at, 'UTC')).toBe(at.toISOString().slice(0, 10));
        expect(dayIn(at, 'Europe/Nowhere')).toBe(dayIn(at, 'UTC'));
      },
    ),
  );
});

// IANA time zone database.
test.each([
  ['2026-11-25', 'UTC', '2026-11-25T00:00:00.000Z'],
  ['2026-06-25', 'Europe/London', '2026-06-24T23:00:00.000Z'],
  ['2026-03-30', 'Europe/London', '2026-03-29T23:00:00.000Z'],
  ['2026-01-01', 'Pacific/Kiritimati', '2025-12-31T10:00:00.000Z'],
  ['2026-01-01', 'Asia/Kathmandu', '2025-12-31T18:15:00.000Z'],
])('%s begins in %s at %s', (day, zone, at) => {
  expect(dayBegins(day, zone).toISOString()).toBe(at);
});
