import { canonical, type PlannedPaper } from '@scriptum/core/paper';
import { sha256 } from '../store/blobs.js';

/** Hashes of what templates say, which is long and the same for all their papers. */
const known = new Map<string, string>();
const KEPT = 40;

/** SHA-256 of all that decides how a paper looks. What its file is called does not. */
export function lookHash({ look, lasting }: Pick<PlannedPaper, 'look' | 'lasting'>): string {
  let hash = known.get(look);
  if (hash === undefined) {
    if (known.size >= KEPT) known.clear();
    known.set(look, (hash = sha256(look)));
  }
  return sha256(canonical([hash, lasting, null]));
}
