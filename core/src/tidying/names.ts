/** Words inside names that are written small (common practice, no published source). */
const PARTICLES = new Set(
  'van von der den de la le les del della di da dos das do du ten ter te zu zur zum af av bin binti bint ibn ap ab ferch y e i'.split(
    ' ',
  ),
);
/** After these a second particle follows: van der, de la. */
const NUMERALS = /^(?:ii|iii|iv|vi|vii|viii|ix)$/i;
const MAC = new Set(
  'macdonald macleod macgregor macarthur macintyre macpherson macneil macdougall macfarlane macdonnell macnamara maclean'.split(
    ' ',
  ),
);

const isUpper = (text: string): boolean => text === text.toUpperCase() && text !== text.toLowerCase();
const isLower = (text: string): boolean => text === text.toLowerCase() && text !== text.toUpperCase();
const letters = (text: string): number => text.replace(/[^\p{L}]/gu, '').length;

/**
 * A name written in capitals, or all small, put in order: `o'neil` gives `O'Neil`, `VAN DER BERG` `van der Berg`,
 * `MCLEOD` `McLeod`, `anne-marie` `Anne-Marie`, `J.K. ROWE` `J.K. Rowe`. Words that have both kinds of letters stay as
 * they are, and so do scripts without capitals.
 *
 * @param part which part of the name the text is: a given name does not begin with a particle.
 */
export function orderName(text: string, part: 'name' | 'given name' | 'surname' = 'name'): string {
  if (isUpper(text) === false && isLower(text) === false && !hasOddWord(text)) return text;
  const whole = isUpper(text) && letters(text) > 2;
  const words = text.split(/(\s+)/);
  const solid = words.filter((word) => word.trim() !== '');
  // A small word before one that is written as names are was meant to be small: ap Gwilym, al Masri.
  const meant = (word: string, next: string | undefined): boolean =>
    isLower(word) && next !== undefined && /^\p{Lu}[\p{M}'’]*\p{Ll}/u.test(next);
  let seen = 0;
  return words
    .map((word) => {
      if (word.trim() === '') return word;
      const first = seen === 0;
      const last = seen === solid.length - 1;
      seen++;
      const plain = word.toLowerCase();
      const follows = !last && (part === 'surname' || (part === 'name' && !first));
      if (meant(word, solid[seen])) return word;
      if (PARTICLES.has(plain) && follows && (isUpper(word) || isLower(word))) return plain;
      return orderWord(word, whole);
    })
    .join('');
}

/** True where one word is all capitals or all small among words that are not: `ilse BRANDT`. */
function hasOddWord(text: string): boolean {
  return text.split(/\s+/).some((word) => {
    const plain = word.replace(/[^\p{L}]/gu, '');
    if (plain.length < 3 && !isLower(plain)) return false;
    return isUpper(plain)
      ? plain.length > 2 && !NUMERALS.test(plain)
      : isLower(plain) && !PARTICLES.has(plain);
  });
}

function orderWord(word: string, whole: boolean): string {
  // Eun-ji, MacLeod, D'Arcy: written with care already.
  if (!isUpper(word) && !isLower(word)) return word;
  return word
    .split(/([-‐‑–])/)
    .map((part) => (/^[-‐‑–]$/.test(part) ? part : orderPart(part, whole)))
    .join('');
}

function orderPart(part: string, whole: boolean): string {
  const plain = part.replace(/[^\p{L}]/gu, '');
  if (plain === '' || (!isUpper(plain) && !isLower(plain))) return part;
  // J, J.K., II; and JK where the rest of the name is not in capitals.
  if (/^(?:\p{Lu}\.)+\p{Lu}?$/u.test(part) || NUMERALS.test(part)) return part.toUpperCase();
  if (/^(?:\p{Ll}\.)+$/u.test(part)) return part.toUpperCase();
  if (isUpper(plain) && plain.length <= 2 && !whole) return part;
  const small = lower(part);
  const apostrophe = /^([\p{L}])(['’ʼ`])(\p{L}{2,}.*)$/u.exec(small);
  if (apostrophe && /^[odln]$/u.test(apostrophe[1]!)) {
    return `${apostrophe[1]!.toUpperCase()}${apostrophe[2]}${capital(apostrophe[3]!)}`;
  }
  if (/^mc\p{L}{2,}/u.test(small)) return `Mc${capital(small.slice(2))}`;
  if (MAC.has(small)) return `Mac${capital(small.slice(3))}`;
  // Dutch: the IJ is one letter.
  if (/^ij\p{L}/u.test(small) && isUpper(plain)) return `IJ${small.slice(2)}`;
  return capital(small);
}

const lower = (text: string): string => text.toLowerCase().replace(/i\u0307/g, 'i');

/** The first letter as a capital, past signs that stand before it. */
function capital(text: string): string {
  return text.replace(/\p{L}/u, (letter) => letter.toUpperCase());
}

export interface PreferredName {
  /** The name without the brackets: `Wilhelmina Brandt`. */
  readonly full: string;
  readonly preferred: string;
  /** The name with the preferred one in place of the first: `Mina Brandt`. */
  readonly known: string;
}

const BRACKETS = /^(.*?)\s*(?:\(([^()]{1,40})\)|\[([^[\]]{1,40})\]|["“”„«]([^"“”„«»]{1,40})["“”»])\s*(.*)$/u;

/**
 * A preferred name given in brackets or quotation marks: `Wilhelmina (Mina) Brandt`, `"Bo" Li`. Null where there is
 * none, or where what stands in them is no name (`(8B)`, `(she/her)`, `(leaver)`).
 */
export function readPreferred(text: string): PreferredName | null {
  const match = BRACKETS.exec(text);
  if (!match) return null;
  const before = match[1]!.trim();
  const preferred = (match[2] ?? match[3] ?? match[4] ?? '')
    .replace(/^(?:known as|called|aka|goes by)\s+/i, '')
    .trim();
  const after = match[5]!.trim();
  if (before === '' && after === '') return null;
  if (!/^\p{L}[\p{L}\p{M}'’. -]*$/u.test(preferred) || NOT_A_NAME.test(preferred)) return null;
  const full = [before, after].filter(Boolean).join(' ');
  const words = (before || after).split(/\s+/);
  const rest = before ? [...words.slice(1), after] : [after];
  // After a whole name the bracket stands for its first word: Wilhelmina Brandt (Mina).
  const known = before ? [preferred, ...rest] : [preferred, ...rest];
  return { full, preferred, known: known.filter(Boolean).join(' ') };
}

const NOT_A_NAME =
  /^(?:he|she|they|him|her|them|leaver|left|new|absent|twin|senior|junior|jr|sr|boy|girl|m|f|sen|eal|late|deputy|captain|year .*|class .*|n\/?a)$/i;

/** `Brandt, Ilse` as `Ilse Brandt`; null where there is not exactly one comma with words on both sides. */
export function readSurnameFirst(text: string): { given: string; surname: string } | null {
  const match = /^\s*(\p{L}[^,]*?)\s*,\s*(\p{L}[^,]*?)\s*$/u.exec(text);
  if (!match || /\d/.test(text)) return null;
  if (/^(?:jr|sr|ii|iii|iv|phd|md|esq)\.?$/i.test(match[2]!)) return null;
  return { surname: match[1]!, given: match[2]! };
}
