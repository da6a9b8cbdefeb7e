import { valueOf, type Entry, type Roll } from '../../roll/index.js';
import { type Column, PLAIN_CODES, type Worked } from '../../column/index.js';

export function guessRegister(roll: Roll): Pick<Extract<Worked, { kind: 'attendance' }>, 'from'> {
  const titled = (words: RegExp): { id?: string } => {
    const found = roll.columns.find((column) => isNumeric(column) && words.test(column.title));
    return found ? { id: found.id } : {};
  };
  const totals = {
    present: titled(/present|attended/i).id,
    late: titled(/\blate/i).id,
    excused: titled(/(?:^|[^n])excused|authori[sz]ed/i).id,
    unexcused: titled(/unexcused|unauthori[sz]ed|truant/i).id,
    possible: titled(/possible|sessions|total/i).id,
  };
  if (totals.present ?? totals.possible ?? totals.excused ?? totals.unexcused) {
    return {
      from: {
        kind: 'totals',
        presentHasLate: lateIsWithin(totals, roll),
        ...Object.fromEntries(Object.entries(totals).filter(([, id]) => id !== undefined)),
      },
    };
  }
  const codes = new Set(Object.values(PLAIN_CODES).flat());
  const sessions = roll.columns.filter((column) => {
    if (column.worked) return false;
    const texts = roll.entries
      .slice(0, 50)
      .map((entry) => valueOf(entry, column.id).trim().toLowerCase())
      .filter(Boolean);
    return (
      texts.length > 0 && texts.every((text) => codes.has(text)) && !texts.every((text) => /^\d$/.test(text))
    );
  });
  return { from: { kind: 'sessions', columnIds: sessions.slice(0, 400).map(({ id }) => id) } };
}

/** True where present and away make up all sessions only if the late are not counted again. */
function lateIsWithin(totals: Readonly<Record<string, string | undefined>>, roll: Roll): boolean {
  const { present, late, possible } = totals;
  if (!present || !late || !possible) return false;
  const number = (entry: Entry, id: string | undefined): number => Number(valueOf(entry, id)) || 0;
  let within = 0;
  let beside = 0;
  for (const entry of roll.entries) {
    if (number(entry, late) === 0) continue;
    const rest =
      number(entry, possible) -
      number(entry, present) -
      number(entry, totals['excused']) -
      number(entry, totals['unexcused']);
    if (rest === 0) within++;
    else if (rest === number(entry, late)) beside++;
  }
  return within > beside;
}

export const isNumeric = ({ type }: Column): boolean => type === 'number' || type === 'percentage';
