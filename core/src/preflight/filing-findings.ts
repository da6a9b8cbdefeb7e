import { fillFields, textsOfFilled } from '../fill/index.js';
import { checkName, filePath } from '../filing/index.js';
import type { Entry, Roll } from '../roll/index.js';
import type { Filing } from '../template/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/**
 * Letters of a path that a folder on a computer can take in: Windows takes 259 for all folders and the name together (value
 * from memory), and most of them lie some folders deep already.
 */
const PATH_MOST = 180;

interface Checked {
  readonly filing: Filing;
  readonly columns: Roll['columns'];
  readonly blank: boolean;
  readonly long: boolean;
}

/** Kept for as long as an entry and the pattern stay the same: a large roll changes a cell at a time. */
const known = new WeakMap<Entry, Checked>();

function checked(filing: Filing, entry: Entry, columns: Roll['columns']): Checked {
  const before = known.get(entry);
  if (before?.filing === filing && before.columns === columns) return before;
  const values = textsOfFilled(fillFields(filing.fields, entry, { columns, language: 'en', day: '' }));
  const { blank } = checkName(filing, values);
  const one = { filing, columns, blank, long: filePath(filing, values).length > PATH_MOST };
  known.set(entry, one);
  return one;
}

/** What is worth a look in the names of files: those that are blank, and paths too long for some computers. */
export function filingFindings(filing: Filing, roll: Roll): Finding[] {
  const { columns, entries } = roll;
  const findings: Finding[] = [];
  if (filing.apart && !columns.some(({ id }) => id === filing.apart))
    findings.push(look({ place: 'filing' }, 'apart-gone', {}));
  if (filing.pattern.length === 0) return findings;
  const blank = entries.filter((entry) => checked(filing, entry, columns).blank);
  const long = entries.filter((entry) => checked(filing, entry, columns).long);
  if (blank.length > 0)
    findings.push(look({ place: 'filing', entries: blank }, 'file-blank', { who: who(blank, roll) }));
  if (long.length > 0)
    findings.push(
      look({ place: 'filing', entries: long }, 'file-long', { who: who(long, roll), most: PATH_MOST }),
    );
  return findings;
}
