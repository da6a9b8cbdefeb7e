import type { DispatchHours } from '@scriptum/core/contract';
import { DateTime } from 'luxon';

/**
 * When such hours are on: the moment itself where it lies in them, else when they begin next. A time that is passed over when clocks go
 * forward counts as the one an hour later.
 *
 * @param timeZone of the IANA database.
 */
export function opensAt(at: Date, { days, from, to }: DispatchHours, timeZone: string): Date {
  const now = DateTime.fromJSDate(at, { zone: timeZone });
  const today = now.startOf('day');
  for (let n = 0; n < 8; n++) {
    const day = today.plus({ days: n });
    if (!days.includes(day.weekday)) continue;
    const [begins, ends] = [from, to].map((time) => day.set(clock(time)));
    if (now < begins!) return begins!.toJSDate();
    if (now < ends!) return at;
  }
  return at;
}

function clock(time: string): { hour: number; minute: number } {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return { hour, minute };
}
