/**
 * The exact value behind a workbook's cell, where its text alone does not give it back: a letter, a colon, the value.
 *
 * - `n:88.4567` a number, `p:45` a percentage (percent of 100), both in plain decimal notation
 * - `d:2026-03-04` a date, `t:2026-03-04T09:30:00` a date with a time (ISO 8601)
 * - `u:PT26H30M` a duration or a time of day (ISO 8601)
 * - `b:true` a truth value
 * - `e:#N/A` an error; the text is blank
 * - `i:kx3…` the picture of the folio that a file name stands for, by its identity
 */
export type Exact = string;

export type ExactKind = 'n' | 'p' | 'd' | 't' | 'u' | 'b' | 'e' | 'i';

/** The kind and the value of an exact value. */
export function readExact(exact: Exact): { kind: ExactKind; value: string } {
  return { kind: exact[0] as ExactKind, value: exact.slice(2) };
}

/**
 * A double in plain decimal notation, with the 15 significant digits that spreadsheets show (ECMA-376 Part 1 leaves the
 * rest to the program): 0.1 + 0.2 gives `0.3`, 1e21 gives `1000000000000000000000`.
 */
export function decimalText(value: number): string {
  if (Number.isSafeInteger(value)) return String(value);
  const short = String(value);
  // Sixteen signs, the point among them, are at most fifteen digits.
  const text = short.length <= 16 ? short : String(Number(value.toPrecision(15)));
  const scientific = /^(-?)(\d)(?:\.(\d+))?e([+-]\d+)$/.exec(text);
  if (!scientific) return text;
  const [, sign, whole, fraction = '', power] = scientific;
  const digits = whole + fraction;
  const point = 1 + Number(power);
  if (point <= 0) return `${sign}0.${'0'.repeat(-point)}${digits}`;
  if (point >= digits.length) return `${sign}${digits}${'0'.repeat(point - digits.length)}`;
  return `${sign}${digits.slice(0, point)}.${digits.slice(point)}`;
}

const DAY = 86_400_000;
const two = (n: number): string => String(n).padStart(2, '0');

/**
 * The moment that a spreadsheet's serial number means, as ISO 8601 without a zone, to the second.
 *
 * ECMA-376 Part 1, 18.17.4.1: in the 1900 system serial 1 is 1 January 1900, in the 1904 system serial 0 is 1 January
 * 1904. Programs count a 29 February 1900 that never was, as serial 60; it has no ISO 8601 form.
 *
 * @returns null for serial 60 of the 1900 system, for negative serials and for years after 9999.
 */
export function serialMoment(serial: number, system: 1900 | 1904): { date: string; time: string } | null {
  let days = Math.floor(serial);
  let seconds = Math.round((serial - days) * 86_400);
  if (seconds === 86_400) {
    days++;
    seconds = 0;
  }
  if (days < 0 || (system === 1900 && (days === 60 || days === 0))) return null;
  const start =
    system === 1904 ? Date.UTC(1904, 0, 1) : days < 60 ? Date.UTC(1899, 11, 31) : Date.UTC(1899, 11, 30);
  const moment = new Date(start + days * DAY);
  if (moment.getUTCFullYear() > 9999) return null;
  return { date: moment.toISOString().slice(0, 10), time: clock(seconds) };
}

/** A number of days as an ISO 8601 duration, to the second: 1.5 gives `PT36H`. */
export function serialDuration(serial: number): string {
  const seconds = Math.round(Math.abs(serial) * 86_400);
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const parts = `${h ? `${h}H` : ''}${m ? `${m}M` : ''}${s ? `${s}S` : ''}` || '0S';
  return `${serial < 0 ? '-' : ''}PT${parts}`;
}

function clock(seconds: number): string {
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
}
