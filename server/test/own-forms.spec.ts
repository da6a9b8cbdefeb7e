import { findBlanks, LIKELY, type Blank } from '@scriptum/core/blanks';
import { prepareGround } from '@scriptum/server/ground/prepare-ground';
import { readMarks } from '@scriptum/server/ground/read-marks';
import { readFileSync } from 'node:fs';
import path from 'node:path';

const forms = path.join(import.meta.dirname, '../../web/src/assets/forms');
const blanksOf = async (name: string): Promise<readonly Blank[]> => {
  const pages = await readMarks(readFileSync(path.join(forms, `${name}.pdf`)));
  return findBlanks(pages[0]!);
};
const count = (blanks: readonly Blank[], kind: Blank['kind']): number =>
  blanks.filter((blank) => blank.kind === kind && blank.score >= LIKELY).length;

test.each(['consent', 'report-sheet'])('%s lies under accessible papers as it is', async (name) => {
  const ready = await prepareGround(readFileSync(path.join(forms, `${name}.pdf`)));
  expect(ready).toMatchObject({ ok: true, value: { about: { notices: [], embedded: true } } });
  if (ready.ok) expect(ready.value.about.pages).toEqual([{ width: 210, height: 297 }]);
});

test('every blank of the consent form is found, each by what stands beside it', async () => {
  const blanks = await blanksOf('consent');
  expect(blanks.filter(({ kind }) => kind === 'text').map(({ label }) => label)).toEqual(
    expect.arrayContaining(['Name', 'Class', 'Date of birth', 'Form tutor', 'Where to', 'Day', 'Back at']),
  );
  expect(blanks.filter(({ kind }) => kind === 'tick').map(({ label }) => label)).toEqual([
    'Swims 50 metres',
    'Does not swim',
    'May be photographed',
    'No photographs',
    'I agree that the learner takes part',
    'I do not agree',
  ]);
  expect(blanks.find(({ kind }) => kind === 'comb')).toMatchObject({ label: 'Phone', cells: 14 });
});

test('every blank of the report sheet is found, cells by the heads of their columns', async () => {
  const blanks = await blanksOf('report-sheet');
  const cells = blanks.filter(({ reason }) => reason === 'table');
  expect(cells).toHaveLength(36);
  expect(new Set(cells.map(({ label }) => label))).toEqual(new Set(['Subject', 'Mark', 'Effort', 'Remark']));
  expect(count(blanks, 'text')).toBeGreaterThanOrEqual(36 + 9);
});
