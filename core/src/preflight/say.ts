import { NAMED_MOST, say, saying, type Code, type Given, type People } from '../sentences/index.js';
import { learnerName, nameColumns, type Entry, type Roll } from '../roll/index.js';
import type { Finding, FindingPlace } from './finding.js';

export function block<C extends Code>(
  blocks: 'press' | 'dispatch',
  place: FindingPlace,
  code: C,
  ...given: Given<C>
): Finding {
  const said = saying(code, ...given);
  return { ...said, severity: 'blocking', blocks, place, message: say(said), entryIds: [] };
}

/** A finding about some entries, or, where there are none, about all. */
export function look<C extends Code>(
  { place, entries = [], ...about }: { place: FindingPlace; entries?: readonly Entry[] } & Partial<Finding>,
  code: C,
  ...given: Given<C>
): Finding {
  const said = saying(code, ...given);
  const entryIds = entries.map(({ id }) => id);
  return { ...said, severity: 'look', place, message: say(said), entryIds, ...about };
}

/** Learners to be told by name when few, else by number. */
export function who(entries: readonly Entry[], roll: Roll): People {
  const few = entries.length <= NAMED_MOST;
  const names = few ? nameColumns(roll.columns) : [];
  return { count: entries.length, names: few ? entries.map((entry) => learnerName(entry, names)) : [] };
}
