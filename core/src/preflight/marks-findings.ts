import type { Marks } from '../marks/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** What is worth a look in the worked columns: schemes that do not add up, marks that cannot be, learners on a border. */
export function marksFindings(marks: Marks): Finding[] {
  const { roll } = marks;
  return marks.notices().map(({ code, columnId, places, say }) => {
    const entries = places.map((at) => roll.entries[at]!);
    return look(code, 'roll', say(who(entries, roll), entries.length > 1), entries, { columnId });
  });
}
