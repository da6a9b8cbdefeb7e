import type { Dispatching } from '@scriptum/core/contract';
import { dispatchSays } from './dispatch-says';

const now = new Date('2027-03-01T12:00:00');
const at = (time: string): string => new Date(time).toISOString();
const one: Dispatching = {
  id: 'd',
  by: 'Ada',
  startedAt: at('2027-03-01T11:30:00'),
  startsAt: at('2027-03-01T11:30:00'),
  hours: null,
  perMinute: null,
  through: 'School mail',
  total: 1500,
  waiting: 1200,
  sent: 300,
  stopped: null,
  opensAt: null,
};
const says = (more: Partial<Dispatching>): string =>
  dispatchSays({ ...one, ...more }, now).replace(/[\u2068\u2069]/g, '');

test.each([
  [{}, 'Ada sent this at 11:30 through “School mail”: 300 of 1,500 messages have left, 1,200 on the way.'],
  [
    { perMinute: 30 },
    'Ada sent this at 11:30 through “School mail”: 300 of 1,500 messages have left, 30 a minute.',
  ],
  [
    { opensAt: at('2027-03-02T08:00:00') },
    'Ada sent this at 11:30 through “School mail”: 300 of 1,500 messages have left, the next one leaves on Tue 2 Mar at 08:00.',
  ],
  [
    { by: null, total: 1, sent: 0, waiting: 1, opensAt: at('2027-03-01T15:00:00') },
    'Somebody sent this at 11:30 through “School mail”: 0 of 1 message has left, the first one leaves at 15:00.',
  ],
  [
    { stopped: { at: at('2027-03-01T11:45:00'), by: 'Bo' } },
    'Ada sent this at 11:30 through “School mail”: 300 of 1,500 messages have left, stopped by Bo at 11:45.',
  ],
])('%j', (more, expected) => expect(says(more)).toBe(expected));
