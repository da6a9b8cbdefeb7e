import { type Code } from '../sentences/index.js';
import type { Marks } from '../marks/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** What is worth a look in the worked columns: schemes that do not add up, marks that cannot be, learners on a border. */
export function marksFindings(marks: Marks): Finding[] {
  const { roll } = marks;
  return marks.notices().map(({ code, columnId, places, parameters }) => {
    const entries = places.map((at) => roll.entries[at]!);
    const given = { ...parameters, who: who(entries, roll) };
    return look({ place: 'roll', entries, columnId }, code as Code, given as never);
  });
}
