/** A text whose records all end alike. */
export interface TidyText {
  readonly text: string;
  readonly newline: '\r\n' | '\n' | '\r';
}

const QUOTE = 0x22;
const CR = 0x0d;
const LF = 0x0a;
const SPACE = 0x20;

/**
 * Makes the records of a delimited text end alike where they do not, as in files that were put together from several, and takes
 * away spaces between a delimiter and a quote, and behind the closing one, which several programs write although RFC 4180 does
 * not know them. What stands within quotes stays as it is.
 */
export function tidyRecords(text: string, delimiter: string): TidyText {
  const spaced = text.includes(`${delimiter} "`) || /(?:^|[\r\n]) "/.test(text);
  if (!text.includes('\r') && !spaced) return { text, newline: '\n' };
  // What is cut, and the ends of records other than a line feed.
  const spaces: Change[] = [];
  const returns: Change[] = [];
  const ends = { crlf: 0, lf: 0, cr: 0 };
  const between = delimiter.charCodeAt(0);
  // Where a cell begins, and a quote opens it.
  let begins = true;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (begins && spaced && code === SPACE) {
      const next = afterSpaces(text, at);
      const close = text.charCodeAt(next) === QUOTE ? closing(text, next) : -1;
      const after = close < 0 ? -1 : afterSpaces(text, close + 1);
      if (after >= 0 && endsCell(text, after, between)) {
        spaces.push({ from: at, to: next, text: '' });
        if (after > close + 1) spaces.push({ from: close + 1, to: after, text: '' });
        at = after - 1;
        begins = false;
        continue;
      }
    }
    if (begins && code === QUOTE) {
      const close = closing(text, at);
      if (close < 0) break;
      at = close;
      begins = false;
      continue;
    }
    begins = code === between || code === CR || code === LF;
    if (code === LF) ends.lf++;
    if (code !== CR) continue;
    const from = at;
    if (text.charCodeAt(at + 1) === LF) {
      ends.crlf++;
      at++;
    } else ends.cr++;
    returns.push({ from, to: at + 1, text: '\n' });
  }
  const mixed = Object.values(ends).filter((count) => count > 0).length > 1;
  const newline = mixed || ends.lf > 0 ? '\n' : ends.cr > 0 ? '\r' : '\r\n';
  return { text: changed(text, mixed ? inPlace(spaces, returns) : spaces), newline };
}

interface Change {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

const inPlace = (...lists: Change[][]): Change[] => lists.flat().sort((a, b) => a.from - b.from);

function changed(text: string, changes: readonly Change[]): string {
  if (changes.length === 0) return text;
  const made: string[] = [];
  let from = 0;
  for (const change of changes) {
    made.push(text.slice(from, change.from), change.text);
    from = change.to;
  }
  made.push(text.slice(from));
  return made.join('');
}

/** The place of the quote that closes the one at `open`; -1 where none does. */
function closing(text: string, open: number): number {
  for (let at = text.indexOf('"', open + 1); at >= 0; at = text.indexOf('"', at + 1)) {
    if (text.charCodeAt(at + 1) !== QUOTE) return at;
    at++;
  }
  return -1;
}

function afterSpaces(text: string, at: number): number {
  let next = at;
  while (text.charCodeAt(next) === SPACE) next++;
  return next;
}

const endsCell = (text: string, at: number, between: number): boolean => {
  const code = text.charCodeAt(at);
  return at >= text.length || code === between || code === CR || code === LF;
};
