import type { Column } from '@scriptum/core/column';
import { CoverNote, emptyNote } from '@scriptum/core/template';
import { alongSentence, changeAlong } from './along-sentence';

const columns: Column[] = [
  { id: 'n', title: 'Name' },
  { id: 'b', title: 'Born', type: 'date' },
];
const said = (note: CoverNote): string =>
  alongSentence(note, columns)
    .map((piece) => (typeof piece === 'string' ? piece : `[${piece.text}]`))
    .join('')
    .replace(/ \[\+\]/, '');
const changed = (note: CoverNote, ...changes: [id: string, value: string][]): CoverNote =>
  changes.reduce(
    (now, [id, value]) => CoverNote.parse({ ...now, ...changeAlong(now, { id, value }, columns) }),
    note,
  );

test('papers go along open, locked by a column, or with one password', () => {
  expect(said(emptyNote())).toBe('With it go [the papers], opened [without a password].');
  const own = changed(emptyNote(), ['lock', 'column b']);
  expect(said(own)).toBe(
    'With it go [the papers], opened [with each learner’s “Born”] (written [04032012]).',
  );
  expect(said(changed(own, ['lock-form', 'iso']))).toContain('(written [2012-03-04])');
  expect(changed(own, ['lock', 'none']).lock).toBeUndefined();
  // What is typed is to be sealed first; what is there already stays.
  expect(changeAlong(own, { id: 'lock', value: ' Pelican 7 ' }, columns)).toEqual({ seal: 'Pelican 7' });
  const sealed = { ...emptyNote(), lock: { sealed: 'x' } };
  expect(said(sealed)).toContain('opened [with one password for all]');
  expect(changeAlong(sealed, { id: 'lock', value: 'sealed' }, columns)).toEqual({});
  expect(changeAlong(sealed, { id: 'lock', value: '  ' }, columns)).toEqual({});
});

test('a private link works for some days, and asks for what the family knows', () => {
  const link = changed(emptyNote(), ['along', 'link']);
  expect(said(link)).toBe(
    'With it go [a private link to the papers], opened [without a password]. The link works for [30 days] and asks [nothing].',
  );
  const asks = changed(link, ['link-days', '1'], ['link-ask', 'column b']);
  expect(said(asks)).toContain('The link works for [1 day] and asks [for “Born”]');
  expect(changed(asks, ['link-ask', 'none']).link).toEqual({ days: 1, askId: null });
  for (const days of ['0', '401', 'long', '-'])
    expect(changeAlong(link, { id: 'link-days', value: days }, columns)).toEqual({});
  // What was said of it is still there once papers go along again.
  expect(changed(asks, ['along', 'papers'], ['along', 'link']).link).toEqual({ days: 1, askId: 'b' });
});

test('a message alone, with files for everybody', () => {
  const file = (name: string) => ({ asset: name, name, bytes: 10 });
  const note = changed({ ...emptyNote(), files: [file('a.pdf'), file('b.ics')] }, ['along', 'nothing']);
  expect(said(note)).toBe('With it go [no papers]. For everybody also [a.pdf] and [b.ics].');
  expect(changed(note, ['file 0', 'none']).files).toEqual([file('b.ics')]);
  expect(changeAlong(note, { id: 'along-add', value: 'file' }, columns)).toEqual({ file: true });
  expect(changeAlong(note, { id: 'to 0', value: 'none' }, columns)).toBeNull();
});

test('a column that is gone is to be chosen anew', () => {
  const gone = {
    ...emptyNote(),
    along: 'link' as const,
    lock: { columnId: 'x' },
    link: { days: 3, askId: 'y' },
  };
  const looks = alongSentence(gone, columns).flatMap((piece) =>
    typeof piece === 'string' ? [] : (piece.look ?? []),
  );
  expect(looks).toEqual(['missing', 'missing', 'add']);
});
