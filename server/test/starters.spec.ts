import { starters, type Starter } from '@scriptum/core/begin';
import { cohortOf, printedFor } from '@scriptum/core/fill';
import { programValues, typeset, type Program } from '@scriptum/core/page';
import { preflight } from '@scriptum/core/preflight';
import { makeRoll, type Roll } from '@scriptum/core/roll';
import { readCsv } from '@scriptum/core/table';
import { dressed, emptyFiling, emptyLetterhead } from '@scriptum/core/template';
import { Typesetter, type LoadedProgram } from '@scriptum/server/press/typesetter';
import { sha256 } from '@scriptum/server/store/blobs';
import { looksAs } from './testing/looks.js';
import { pdfText, qpdfCheck } from './testing/pdf.js';
import { readPdf } from './testing/pdf-reader.js';

const NAMES = [
  'Bo',
  'محمد السعدي',
  'Wilhelmina Alexandrina Featherstonehaugh-Marchbanks van der Veldt-Okonjo',
];
let count = 0;
const newId = (): string => `n${++count}`;
/** A program with the pictures that are drawn from its template. */
const withDrawings = (program: Program): LoadedProgram => ({
  ...program,
  pictures: program.assets.map((name) => {
    const drawing = program.drawings[name]!;
    return { hash: sha256(drawing), bytes: Buffer.from(drawing) };
  }),
});
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
const LETTERHEAD = {
  ...emptyLetterhead('Thistlequay School'),
  lines: ['Harbour Row 7', 'Thistlequay'],
  signOffs: [
    { id: 'head', name: 'Ada Holm', role: 'Head of school', picture: null, family: 'Great Vibes' as const },
  ],
};
const of = (letterhead: typeof LETTERHEAD | null): readonly Starter[] =>
  starters(roll, [], { school: 'Thistlequay School', letterhead }, newId);
const made = [
  ...of(null).map((starter) => [starter.name, '', starter, null] as const),
  ...of(LETTERHEAD).map((starter) => [starter.name, ' on a letterhead', starter, LETTERHEAD] as const),
];

// ISO 14289-1: PDF/UA-1 is claimed only where nothing in the paper is against it.
test.each(made)(
  '%s%s comes out on one accessible page with a short name, a right-to-left one and the longest, as it was looked at',
  async (_name, _on, { id, template: letter }, letterhead) => {
    const findings = preflight({
      roll,
      templates: [letter],
      notes: [],
      filing: emptyFiling(),
      letterhead,
      assets: new Set(),
    });
    expect(findings).toEqual([]);
    const program = withDrawings(typeset(dressed(letter, letterhead)));
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
      // On plain paper the right-to-left name, on the letterhead the short one.
      if (n === (letterhead ? 0 : 1))
        expect(looksAs(paper.bytes, letterhead ? `${id}-letterhead` : id)).toBe(true);
      const text = pdfText(paper.bytes).replace(/\s+/g, ' ').toLowerCase();
      // Poppler tells right-to-left words in the order in which they stand.
      if (n !== 1) expect(text).toContain(NAMES[n]!.split(' ')[0]!.toLowerCase());
    }
  },
);
