import { starters, type Starter } from '@scriptum/core/begin';
import { cohortOf, printedFor } from '@scriptum/core/fill';
import { programValues, typeset } from '@scriptum/core/page';
import { preflight } from '@scriptum/core/preflight';
import { makeRoll, type Roll } from '@scriptum/core/roll';
import { readCsv } from '@scriptum/core/table';
import { emptyFiling } from '@scriptum/core/template';
import { Typesetter } from '@scriptum/server/press/typesetter';
import { pdfText, qpdfCheck } from './testing/pdf.js';
import { readPdf } from './testing/pdf-reader.js';

const NAMES = [
  'Bo',
  'محمد السعدي',
  'Wilhelmina Alexandrina Featherstonehaugh-Marchbanks van der Veldt-Okonjo',
];
let count = 0;
const newId = (): string => `n${++count}`;
let typesetter: Typesetter;
beforeAll(() => {
  typesetter = new Typesetter({ workers: 1, timeLimit: 60_000 });
});
afterAll(() => typesetter.close());

function rollOf(): Roll {
  const rows = NAMES.map((name, n) => `${name},8A,${50 + n},6${n},7${n},Steady work.`);
  const csv = `Name,Class,English mark,History mark,Art mark,Tutor's remark\n${rows.join('\n')}\n`;
  const sheet = readCsv(new TextEncoder().encode(csv), newId);
  if (!sheet.ok) throw new Error(sheet.problem.message);
  return makeRoll(sheet.value, newId);
}

const roll = rollOf();
const made: readonly Starter[] = starters(roll, [], 'Thistlequay School', newId);

// ISO 14289-1: PDF/UA-1 is claimed only where nothing in the paper is against it.
test.each(made.map((starter) => [starter.name, starter] as const))(
  '%s comes out on one accessible page with a short name, a right-to-left one and the longest',
  async (_, { letter }) => {
    const findings = preflight({
      roll,
      templates: [letter],
      note: null,
      filing: emptyFiling(),
      assets: new Set(),
    });
    expect(findings).toEqual([]);
    const program = { ...typeset(letter), pictures: [] };
    for (const [n, entry] of roll.entries.entries()) {
      const values = printedFor(letter, entry, {
        columns: roll.columns,
        day: '2026-11-26',
        cohort: cohortOf(roll),
      });
      const paper = await typesetter.paper(program, programValues(letter, values), new Date(0));
      if (!paper.ok) throw new Error(paper.reason);
      expect(paper.pages).toBe(1);
      expect(qpdfCheck(paper.bytes)).toContain('No syntax or stream encoding errors');
      expect((await readPdf(paper.bytes)).metadata).toContain('<pdfuaid:part>1</pdfuaid:part>');
      const text = pdfText(paper.bytes).replace(/\s+/g, ' ').toLowerCase();
      // Poppler tells right-to-left words in the order in which they stand.
      if (n !== 1) expect(text).toContain(NAMES[n]!.split(' ')[0]!.toLowerCase());
    }
  },
);
