import { learnerName, nameColumns, type Entry, type Roll } from '../roll/index.js';
import { quoteList } from '../table/index.js';
import type { Finding, FindingPlace } from './finding.js';

export function block(
  blocks: 'press' | 'dispatch',
  code: string,
  place: FindingPlace,
  message: string,
): Finding {
  return { code, severity: 'blocking', blocks, place, message, entryIds: [] };
}

export function look(
  code: string,
  place: FindingPlace,
  message: string,
  entries: readonly Entry[],
  about: Partial<Finding>,
): Finding {
  return { code, severity: 'look', place, message, entryIds: entries.map((entry) => entry.id), ...about };
}

/** Learners by name when few, else their number. */
export function who(entries: readonly Entry[], roll: Roll): string {
  if (entries.length === 0) return 'nobody';
  if (entries.length > 3) return `${entries.length} learners`;
  const names = nameColumns(roll.columns);
  return entries.length === 1
    ? learnerName(entries[0]!, names)
    : quoteList(entries.map((entry) => learnerName(entry, names))).replace(/[“”]/g, '');
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
