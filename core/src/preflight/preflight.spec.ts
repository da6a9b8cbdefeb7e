import { makeRoll, type Roll } from '../roll/index.js';
import { readCsv } from '../table/index.js';
import { emptyFiling, emptyLetter, emptyNote, type Letter } from '../template/index.js';
import type { Finding } from './finding.js';
import { entriesToLookAt, mayDispatch, mayPress, preflight, type FolioContents } from './index.js';

let count = 0;
const newId = (): string => `i${++count}`;
function folioOf(csv: string, change: (roll: Roll) => Partial<FolioContents> = () => ({})): FolioContents {
  const sheet = readCsv(new TextEncoder().encode(csv), newId);
  if (!sheet.ok) throw new Error(sheet.problem.message);
  const roll = makeRoll(sheet.value, newId);
  const [name, mail] = roll.columns;
  const fields = [{ id: 'n', name: 'Name', columnId: name!.id }];
  const body = {
    type: 'doc' as const,
    content: [{ type: 'paragraph' as const, content: [{ type: 'field' as const, attrs: { fieldId: 'n' } }] }],
  };
  const base: FolioContents = {
    roll,
    templates: [{ ...emptyLetter('T'), fields, body }],
    notes: [
      {
        id: 'note',
        name: 'Cover note',
        content: {
          to: mail ? [{ columnId: mail.id }] : [],
          fields,
          subject: [{ type: 'text', text: 'S' }],
          body,
        },
      },
    ],
    filing: emptyFiling(),
    assets: new Set(),
  };
  return { ...base, ...change(roll) };
}
/** The letter of the folio. */
const letterOf = ({ templates }: FolioContents): Letter => templates[0] as Letter;
const codes = (folio: FolioContents): string[] => preflight(folio).map((finding) => finding.code);
const good = 'Name,Mail\nAmara,a@b.example\nIlse,i@b.example';

test('a folio in order has no findings', () => {
  const findings = preflight(folioOf(good));
  expect(findings).toEqual([]);
  expect(mayPress(findings) && mayDispatch(findings)).toBe(true);
});

test('an exception is told of where its letter was changed under it, and where nobody gets it', () => {
  const folio = folioOf(good);
  const [ann, ilse] = folio.roll.entries;
  const base = letterOf(folio);
  const line = (text: string): Letter => ({
    ...base,
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] },
  });
  const exception = (entryId: string, of: string) => ({
    id: `x${entryId}${of}`,
    kind: 'exception' as const,
    name: 'x',
    place: 0,
    version: 1,
    content: { kind: 'exception' as const, entryId, of, base, own: line('Only here') },
  });
  const found = (content: Letter, ...exceptions: ReturnType<typeof exception>[]): string[][] =>
    preflight({
      ...folio,
      templates: [content],
      sorting: {
        templates: [{ id: 't', kind: 'letter', name: 'T', place: 0, version: 1, content }],
        by: { sorting: { rules: [] }, columns: folio.roll.columns },
      },
      exceptions,
    }).map(({ code, entryIds }) => [code, ...entryIds]);
  expect(found(base, exception(ann!.id, 't'))).toEqual([]);
  expect(found(line('For all'), exception(ann!.id, 't'))).toEqual([['exception-touched', ann!.id]]);
  expect(found(base, exception(ilse!.id, 'off'), exception('gone', 't'))).toEqual([
    ['exception-idle', ilse!.id],
  ]);
});

test('an unmatched field blocks the press, one that is not used does not', () => {
  const folio = folioOf(good);
  const open = { id: 'x', name: 'Shoe size', columnId: null };
  const body = {
    type: 'doc' as const,
    content: [{ type: 'paragraph' as const, content: [{ type: 'field' as const, attrs: { fieldId: 'x' } }] }],
  };
  const blocked = preflight({ ...folio, templates: [{ ...letterOf(folio), fields: [open], body }] });
  expect(blocked[0]).toMatchObject({
    code: 'field-unmatched',
    severity: 'blocking',
    blocks: 'press',
    fieldId: 'x',
    message: expect.stringContaining('“Shoe size”'),
  });
  expect(mayPress(blocked)).toBe(false);
  expect(
    codes({ ...folio, templates: [{ ...letterOf(folio), fields: [...letterOf(folio).fields, open] }] }),
  ).toEqual([]);
});

test('an unmatched field of the note blocks the dispatch, not the press', () => {
  const folio = folioOf(good);
  const findings = preflight({
    ...folio,
    notes: [
      {
        ...folio.notes[0]!,
        content: { ...folio.notes[0]!.content, fields: [{ id: 'n', name: 'N', columnId: null }] },
      },
    ],
  });
  expect(mayPress(findings)).toBe(true);
  expect(mayDispatch(findings)).toBe(false);
});

test('what is missing to send is said for each', () => {
  const folio = folioOf(good, () => ({ notes: [{ id: 'note', name: 'Cover note', content: emptyNote() }] }));
  expect(codes(folio)).toEqual(['subject-blank', 'note-blank', 'address-column']);
});

test('a blank letter, an empty roll and a missing picture block', () => {
  const folio = folioOf(good);
  expect(codes({ ...folio, templates: [emptyLetter('T')] })).toEqual(['letter-blank']);
  expect(codes({ ...folio, roll: { ...folio.roll, entries: [] } })).toEqual(['roll-empty']);
  const picture = {
    type: 'picture' as const,
    attrs: { asset: 'gone', width: 20, align: 'left' as const, alt: 'Crest' },
  };
  const pictured = {
    ...letterOf(folio),
    body: { type: 'doc' as const, content: [...letterOf(folio).body.content, picture] },
  };
  expect(codes({ ...folio, templates: [pictured] })).toEqual(['picture-missing']);
  expect(codes({ ...folio, templates: [pictured], assets: new Set(['gone']) })).toEqual([]);
});

test('learners are named when few and counted when many', () => {
  const findings = preflight(folioOf('Name,Mail\nAmara,\nIlse,x\nTane,t@b.example'));
  expect(findings.map((finding) => finding.message)).toEqual([
    'Amara has no email address. Print that paper from the register.',
    'The address of Ilse cannot be right: “x” (the @ is missing). Nothing is sent there.',
  ]);
  expect(entriesToLookAt(findings).size).toBe(2);
  const many = preflight(folioOf(`Name,Mail\n${'A,\n'.repeat(9)}B,b@c.example`));
  expect(many[0]?.message).toMatch(/^9 learners have no email address/);
});

test('an empty value and a word too long for a line are worth a look', () => {
  expect(codes(folioOf(`Name,Mail\n,a@b.example\n${'x'.repeat(90)},b@b.example`))).toEqual([
    'name-blank',
    'name-odd',
    'field-empty',
    'word-long',
  ]);
});

test('a table that looks at a column which is gone blocks the press; so does one whose letters no font has', () => {
  const folio = folioOf(good);
  const name = folio.roll.columns[0]!.id;
  const withRow = (columnId: string | null, title = ''): Finding[] => {
    const table = {
      columns: [{ id: 'c', title, look: { kind: 'plain' as const }, width: 'auto' as const }],
      rows: {
        kind: 'each' as const,
        rows: [{ id: 'r', cells: [{ kind: 'column' as const, columnId, name: 'English mark' }] }],
      },
      within: [],
      blankRows: 'stand' as const,
    };
    const fields = [{ id: 't', name: 'Marks', columnId: null, table }];
    const body = {
      type: 'doc' as const,
      content: [{ type: 'fieldBlock' as const, attrs: { fieldId: 't' } }],
    };
    return preflight({ ...folio, templates: [{ ...letterOf(folio), fields, body }] });
  };
  expect(withRow(name)).toEqual([]);
  expect(withRow('gone')[0]).toMatchObject({
    code: 'block-column-gone',
    blocks: 'press',
    fieldId: 't',
    message:
      '“Marks” in the letter looks at “English mark”, but that column is gone. Choose another, or take it out of it.',
  });
  expect(mayPress(withRow(null))).toBe(false);
  // Unicode 17: Egyptian Hieroglyphs.
  expect(withRow(name, '\u{13000}').map(({ code }) => code)).toEqual(['letters-written']);
});

test('a chart that compares is not blank for those who have a value', () => {
  const folio = folioOf('Name,Mail,Mark\nA,a@b.example,5\nB,b@b.example,6\nC,c@b.example,7\nD,d@b.example,');
  const mark = { ...folio.roll.columns[2]!, type: 'number' as const };
  const roll = { ...folio.roll, columns: [...folio.roll.columns.slice(0, 2), mark] };
  const chart = { kind: 'place' as const, columnId: mark.id, name: 'Mark', within: [], axis: '' };
  const fields = [{ id: 't', name: 'Place', columnId: null, chart }];
  const body = { type: 'doc' as const, content: [{ type: 'fieldBlock' as const, attrs: { fieldId: 't' } }] };
  const findings = preflight({ ...folio, roll, templates: [{ ...letterOf(folio), fields, body }] });
  expect(findings.map(({ code, entryIds }) => [code, entryIds])).toEqual([
    ['field-empty', [roll.entries[3]!.id]],
  ]);
});
