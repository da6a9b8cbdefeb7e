import { distance } from 'fastest-levenshtein';
import { keyText } from './join-key.js';
import type { Entry } from '../roll/index.js';
import { plainTitle } from '../column/index.js';

export interface NearMatch {
  readonly entryId: string;
  readonly row: number;
  /** The keys as people read them. */
  readonly entry: string;
  readonly rowText: string;
  /** The keys as {@link JoinSpec} remembers the answer. */
  readonly entryKey: string;
  readonly rowKey: string;
}

/** Pairs compared for likeness at the most; beyond, what is left stays unmatched and can be matched by a better key. */
const COMPARED_MOST = 1_500_000;

interface Loose {
  readonly first: string;
  readonly words: string;
  readonly rest: string;
}

/** The first part of the key in two plain forms; the others must agree. */
function loosen(parts: readonly string[]): Loose {
  const [first = '', ...rest] = parts;
  const words = first
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  return {
    first: /^\d+$/.test(first) ? first.replace(/^0+/, '') : plainTitle(first),
    words: [...words].sort().join(' '),
    rest: rest.map(plainTitle).join('\u0000'),
  };
}

/** Entries and rows whose keys are not equal but alike, each entry with the most alike row. */
export function nearMatches(
  entries: readonly { entry: Entry; parts: readonly string[] }[],
  rows: readonly { row: number; parts: readonly string[] }[],
): NearMatch[] {
  const found: NearMatch[] = [];
  const groups = new Map<string, { row: number; parts: readonly string[]; loose: Loose }[]>();
  for (const { row, parts } of rows) {
    if (parts.some((part) => part === '')) continue;
    const loose = loosen(parts);
    const group = groups.get(loose.rest);
    if (group) group.push({ row, parts, loose });
    else groups.set(loose.rest, [{ row, parts, loose }]);
  }
  let compared = 0;
  for (const { entry, parts } of entries) {
    if (parts.some((part) => part === '')) continue;
    const loose = loosen(parts);
    let best: { row: number; parts: readonly string[]; score: number } | null = null;
    for (const candidate of groups.get(loose.rest) ?? []) {
      if (Math.abs(candidate.loose.words.length - loose.words.length) > 3) continue;
      if (++compared > COMPARED_MOST) return found;
      const score = unlikeness(loose, candidate.loose);
      if (score !== null && (!best || score < best.score)) best = { ...candidate, score };
    }
    if (!best) continue;
    found.push({
      entryId: entry.id,
      row: best.row,
      entry: parts.join(', '),
      rowText: best.parts.join(', '),
      entryKey: keyText(parts)!,
      rowKey: keyText(best.parts)!,
    });
  }
  return found;
}

/** 0 for the same but for accents, signs and order; the number of letters between them; null where they are not alike. */
function unlikeness(a: Loose, b: Loose): number | null {
  if (a.first === b.first || a.words === b.words) return 0;
  // Numbers that differ are different numbers.
  if (/\d/.test(a.first) || /\d/.test(b.first)) return null;
  const most = a.words.length >= 12 ? 2 : a.words.length >= 5 ? 1 : 0;
  const letters = distance(a.words, b.words);
  return letters <= most ? letters : null;
}
