import type { DispatchTiming } from '@scriptum/core/contract';

/** When messages leave, as it is filled in. */
export interface TimingDraft {
  readonly later: boolean;
  /** As a box for a moment says it: `2027-03-01T08:00`, by the screen's clock. */
  readonly at: string;
  readonly hours: boolean;
  readonly from: string;
  readonly to: string;
  readonly days: readonly number[];
  readonly paced: boolean;
  readonly perMinute: string;
}

/** What is asked for; a sentence where it cannot be. */
export function timingOf(
  { later, at, hours, from, to, days, paced, perMinute }: TimingDraft,
  now: Date,
): DispatchTiming | string {
  if (later && Number.isNaN(Date.parse(at))) return 'Say the day and the time before which none leaves.';
  if (later && new Date(at) < now)
    return 'That moment has passed. Choose a later one, or let them leave at once.';
  if (hours && (!from || !to)) return 'Say from when to when they leave.';
  if (hours && from >= to) return 'The hours end before they begin. Choose others.';
  if (hours && days.length === 0) return 'Choose a day at least.';
  const pace = Number(perMinute);
  if (paced && (!/^\d+$/.test(perMinute.trim()) || pace < 1 || pace > 600))
    return `“${perMinute}” is not a number from 1 to 600.`;
  return {
    ...(later ? { startsAt: new Date(at).toISOString() } : {}),
    ...(hours ? { hours: { days: [...days], from, to } } : {}),
    ...(paced ? { perMinute: pace } : {}),
  };
}
