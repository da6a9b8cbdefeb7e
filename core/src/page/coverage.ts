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

const unpacked = new Map<string, readonly LetterRange[]>();

function rangesOf(packed: string): readonly LetterRange[] {
  let ranges = unpacked.get(packed);
  if (!ranges) unpacked.set(packed, (ranges = unpackRanges(packed)));
  return ranges;
}

function has(ranges: readonly LetterRange[], letter: number): boolean {
  let [low, high] = [0, ranges.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const [first, last] = ranges[middle]!;
    if (letter < first) high = middle - 1;
    else if (letter > last) low = middle + 1;
    else return true;
  }
  return false;
}

/** Letters that every family has: most texts are nothing else. */
const PLAIN = /^[\n\u0020-\u007e\u00a0-\u024f]*$/;
/** Signs that are not printed: they say how others are (Unicode, Default_Ignorable_Code_Point), or are space. */
const UNSEEN = /[\p{Default_Ignorable_Code_Point}\p{White_Space}\p{Cc}]/u;

/** The letters of a text that no font has which a paper in a family is set in, each once, as far as they are to be seen. */
export function lettersWithoutFont(text: string, family: Family): string[] {
  if (PLAIN.test(text)) return [];
  const missing = new Set<string>();
  for (const letter of text) {
    const code = letter.codePointAt(0)!;
    if (!UNSEEN.test(letter) && !has(rangesOf(COMMON), code) && !has(rangesOf(OWN[family]), code))
      missing.add(letter);
  }
  return [...missing];
}
