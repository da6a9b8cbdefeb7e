import type { Column } from '@scriptum/core/column';
import { emptyNote, type CoverNote } from '@scriptum/core/template';
import { changeEnvelope, envelopeSentence } from './envelope-sentence';

const columns: Column[] = [
  { id: 'n', title: 'Name' },
  { id: 'm', title: 'Mother', type: 'email' },
  { id: 'f', title: 'Father', type: 'email' },
  { id: 'g', title: 'Guardian name' },
  { id: 't', title: 'Tutor', type: 'email' },
];
const said = (note: CoverNote): string =>
  envelopeSentence(note, { columns, school: 'Saltmarsh School' })
    .map((piece) => (typeof piece === 'string' ? piece : `[${piece.text}]`))
    .join('')
    .replace(/ \[\+\]/, '');
const changed = (note: CoverNote, ...changes: [id: string, value: string][]): CoverNote =>
  changes.reduce((now, [id, value]) => ({ ...now, ...changeEnvelope(now, { id, value }, columns) }), note);

test('nobody is chosen yet; a column or an address is put in', () => {
  expect(said(emptyNote())).toBe(
    'To [choose a column or an address]: [each learner has a message], [several addresses share it].\nFrom [Saltmarsh School], answers go to [the sender].',
  );
  const typed = changed(emptyNote(), ['to 0', ' home@x.example ']);
  expect(typed.to).toEqual([{ address: 'home@x.example' }]);
  expect(said(typed)).toMatch(/^To \[home@x\.example\]: /);
});

test('others who get it, copies and names', () => {
  const note = changed(
    emptyNote(),
    ['to 0', 'column m'],
    ['add', 'to'],
    ['add', 'cc'],
    ['add', 'bcc'],
    ['bcc 0', 'archive@s.example'],
    ['add', 'name to 0'],
  );
  expect(note).toMatchObject({
    to: [{ columnId: 'm', nameId: 'g' }, { columnId: 'f' }],
    cc: [{ columnId: 't' }],
    bcc: [{ address: 'archive@s.example' }],
  });
  expect(said(note)).toMatch(
    /^To \[Mother\] \(called \[Guardian name\]\) and \[Father\], copy to \[Tutor\], blind copy to \[archive@s\.example\]: /,
  );
  // Another column keeps the name beside it; nobody takes it out.
  expect(changed(note, ['to 0', 'column t']).to[0]).toEqual({ columnId: 't', nameId: 'g' });
  expect(changed(note, ['to 0', 'none'], ['cc 0', 'none']).to).toEqual([{ columnId: 'f' }]);
  expect(changed(note, ['name to 0', 'none']).to[0]).toEqual({ columnId: 'm' });
});

test('who shares a message, who it is from and where answers go', () => {
  const note = changed(
    emptyNote(),
    ['to 0', 'column m'],
    ['family', 'yes'],
    ['apart', 'yes'],
    ['from', 'Year 8 team'],
    ['reply', 'column t'],
  );
  expect(said(note)).toBe(
    'To [Mother]: [a family has one message], [each address one of its own].\nFrom [Year 8 team], answers go to [Tutor].',
  );
  expect(changed(note, ['reply', 'none']).replyTo).toBeUndefined();
  expect(said({ ...note, to: [{ columnId: 'gone' }] })).toContain('[a column that is gone]');
});
