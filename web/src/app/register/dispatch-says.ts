import type { Dispatching } from '@scriptum/core/contract';

/** How far a dispatch is that is not over, in a sentence. Moments are by the screen's clock. */
export function dispatchSays(
  { by, startedAt, total, waiting, sent, stopped, opensAt, perMinute, through }: Dispatching,
  now: Date,
): string {
  const who = by ? `\u2068${by}\u2069` : 'Somebody';
  const far = `${sent.toLocaleString('en')} of ${total.toLocaleString('en')} ${total === 1 ? 'message has' : 'messages have'} left`;
  const next = stopped
    ? `stopped${stopped.by ? ` by \u2068${stopped.by}\u2069` : ''} at ${moment(stopped.at, now)}`
    : opensAt
      ? `${sent > 0 ? 'the next one leaves' : 'the first one leaves'} ${moment(opensAt, now, true)}`
      : perMinute
        ? `${perMinute} a minute`
        : `${waiting.toLocaleString('en')} on the way`;
  return `${who} sent this at ${moment(startedAt, now)} through “${through}”: ${far}, ${next}.`;
}

function moment(at: string, now: Date, preposition = false): string {
  const date = new Date(at);
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const sameDay = date.toDateString() === now.toDateString();
  if (sameDay) return preposition ? `at ${time}` : time;
  const day = date.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' });
  return preposition ? `on ${day} at ${time}` : `${time} on ${day}`;
}
