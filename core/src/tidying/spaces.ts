/** Invisible characters that mean nothing in a cell: soft hyphen, zero-width space, word joiner, byte order mark, fillers. */
const INVISIBLE = /[\u00ad\u200b\u2060\ufeff\u180e\u115f\u1160\u3164]/g;
// eslint-disable-next-line no-control-regex
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/g;
/** Marks of direction at either end of a line have nothing to order (Unicode UAX #9). */
const EDGE_MARKS =
  /^[\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069]+|[\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069]+$/g;
/** Joiners stay inside words, where Persian, Indic scripts and emoji need them; next to a space they do nothing. */
const LOOSE_JOINERS = /(^|\s)[\u200c\u200d]+|[\u200c\u200d]+(?=\s|$)/g;

/**
 * The text without surplus spaces and invisible characters, in composed letters (Unicode UAX #15, NFC). Every kind of
 * space becomes a plain one, several become one, none stay at the ends of a line; blank lines at the ends go.
 */
export function tidySpaces(text: string): string {
  return text
    .normalize('NFC')
    .replace(/\r\n?|\u2028|\u2029|\u0085/g, '\n')
    .replace(INVISIBLE, '')
    .replace(CONTROLS, '')
    .split('\n')
    .map(tidyLine)
    .join('\n')
    .replace(/^\n+|\n+$/g, '');
}

function tidyLine(line: string): string {
  let before: string;
  let now = line;
  do {
    before = now;
    now = now.replace(/\s+/g, ' ').trim().replace(EDGE_MARKS, '').replace(LOOSE_JOINERS, '$1');
  } while (now !== before);
  return now;
}
