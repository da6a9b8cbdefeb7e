import type { PAPER_FONTS } from '../template/index.js';
import { COMMON, OWN } from './coverage-table.js';

/** Code points from the first to the last one. */
export type LetterRange = readonly [first: number, last: number];

/**
 * Ranges in ascending order as a text: of each, how far it begins behind the end of the one before and how many it has
 * more than one, to base 36; `a.b` or `a`, with spaces between.
 */
export function packRanges(ranges: readonly LetterRange[]): string {
  let end = 0;
  return ranges
    .map(([first, last]) => {
      const packed = (first - end).toString(36) + (last > first ? `.${(last - first).toString(36)}` : '');
      end = last;
      return packed;
    })
    .join(' ');
}

export function unpackRanges(packed: string): LetterRange[] {
  let end = 0;
  return packed
    .split(' ')
    .filter(Boolean)
    .map((part): LetterRange => {
      const [behind = '', more = '0'] = part.split('.');
      const first = end + Number.parseInt(behind, 36);
      end = first + Number.parseInt(more, 36);
      return [first, end];
    });
}

type Family = (typeof PAPER_FONTS)[number];

/** Code points of the planes that fonts have letters in. */
const PLANES = 0x30000;

/** For each code point whether a paper in a family has a letter for it. */
const tables = new Map<Family, Uint8Array>();

function lettersOf(family: Family): Uint8Array {
  let table = tables.get(family);
  if (!table) {
    tables.set(family, (table = new Uint8Array(PLANES)));
    for (const [first, last] of [...unpackRanges(COMMON), ...unpackRanges(OWN[family])])
      table.fill(1, first, last + 1);
  }
  return table;
}

/** Letters that every family has: most texts are nothing else. */
const PLAIN = /^[\n\u0020-\u007e\u00a0-\u024f]*$/;
/** Signs that are not printed: they say how others are (Unicode, Default_Ignorable_Code_Point), or are space. */
const UNSEEN = /[\p{Default_Ignorable_Code_Point}\p{White_Space}\p{Cc}]/u;

/** The letters of a text that no font has which a paper in a family is set in, each once, as far as they are to be seen. */
export function lettersWithoutFont(text: string, family: Family): string[] {
  if (PLAIN.test(text)) return [];
  const letters = lettersOf(family);
  let missing: Set<string> | null = null;
  for (let at = 0; at < text.length; at++) {
    const code = text.codePointAt(at)!;
    if (code > 0xffff) at++;
    if (letters[code] === 1) continue;
    const letter = String.fromCodePoint(code);
    if (!UNSEEN.test(letter)) (missing ??= new Set()).add(letter);
  }
  return missing ? [...missing] : [];
}
