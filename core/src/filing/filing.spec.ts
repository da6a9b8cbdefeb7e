import fc from 'fast-check';
import type { Filing } from '../template/index.js';
import { checkName, filePath, namedFor, pathSaying, safePart, uniquePaths } from './index.js';

const filing: Filing = {
  fields: [
    { id: 'c', name: 'Class', columnId: 'c' },
    { id: 'n', name: 'Name', columnId: 'n' },
  ],
  pattern: [
    { type: 'field', attrs: { fieldId: 'c' } },
    { type: 'text', text: '/' },
    { type: 'field', attrs: { fieldId: 'n' } },
  ],
};

// Microsoft Learn, "Naming Files, Paths, and Namespaces": reserved characters and names.
test('what a system does not allow is not in a name', () => {
  expect(safePart('a<b>c:d"e/f\\g|h?i*j')).toBe('a-b-c-d-e-f-g-h-i-j');
  expect(safePart('CON')).toBe('_CON');
  expect(safePart('lpt1.notes')).toBe('_lpt1.notes');
  expect(safePart('Console')).toBe('Console');
  expect(safePart(' ends in a full stop. ')).toBe('ends in a full stop');
  expect(safePart('..')).toBe('');
});

test('names keep their script, and lose what would make them look like others', () => {
  expect(safePart('محمد السعدي')).toBe('محمد السعدي');
  expect(safePart('王小明')).toBe('王小明');
  expect(safePart('annex\u202efdp.exe')).toBe('annexfdp.exe');
  // A Persian name needs its zero-width non-joiner (Unicode 16.0, 23.2).
  expect(safePart('علی\u200cرضا')).toBe('علی\u200cرضا');
});

test('a / of the pattern makes a folder, one from a value does not', () => {
  expect(filePath(filing, { c: '8A', n: 'Amara' })).toBe('8A/Amara');
  expect(filePath(filing, { c: '8/A', n: '../../etc/passwd' })).toBe('8-A/-..-etc-passwd');
});

test('long names are cut between letters, by bytes', () => {
  const cut = safePart('👩‍🏫'.repeat(60));
  expect(new TextEncoder().encode(cut).length).toBeLessThanOrEqual(180);
  expect(cut).toMatch(/^(👩‍🏫)+$/u);
});

test('every paper has a path of its own', () => {
  expect(uniquePaths(['a', 'A', 'a', '', '8A/'], (n) => `Row ${n}`)).toEqual([
    'a.pdf',
    'A (2).pdf',
    'a (3).pdf',
    'Row 3.pdf',
    '8A/Row 4.pdf',
  ]);
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'grapheme', maxLength: 6 }), { maxLength: 30 }), (names) => {
      const paths = uniquePaths(
        names.map((name) => filePath(filing, { c: '8A', n: name })),
        (n) => `Row ${n}`,
      );
      expect(new Set(paths.map((path) => path.normalize('NFC').toLowerCase())).size).toBe(names.length);
      for (const path of paths) expect(path).not.toMatch(/(^|\/)\.{0,2}(\/|$)|[<>:"\\|?*\p{Cc}]/u);
    }),
  );
});

test('a second paper of a learner says which it is', () => {
  expect(pathSaying('8A/Zoë', 'Spring report')).toBe('8A/Zoë – Spring report');
  expect(pathSaying('Zoë', 'a/b: "c"')).toBe('Zoë – a-b- -c-');
  expect(pathSaying('8A/', 'Report')).toBe('8A/');
  expect(pathSaying('Zoë', ' . ')).toBe('Zoë');
  // A file name has at most 255 bytes on common systems, with ".pdf" and a number behind it.
  const long = pathSaying(`8A/${'ñ'.repeat(90)}`, 'Ω'.repeat(100));
  expect(new TextEncoder().encode(long.split('/')[1]).length).toBeLessThanOrEqual(180);
  expect(long).toMatch(/^8A\/ñ+ – Ω+$/u);
});

test('two of one name are told apart by a column, and by a number where that is the same too', () => {
  const paths = ['Sam', 'Zoë', 'sam', 'Sam', 'Sam'];
  const asides = ['8A', '8B', '8B', '8A', ''];
  const names = uniquePaths(paths, String, [], [], asides);
  expect(names).toEqual(['Sam (8A).pdf', 'Zoë.pdf', 'sam (8B).pdf', 'Sam (8A) (2).pdf', 'Sam.pdf']);
  // Called so once, they stay so: whoever comes, and also where another one goes.
  names.forEach((name, n) => expect(namedFor(name, paths[n]!, asides[n])).toBe(true));
  expect(uniquePaths(['Sam', 'Sam'], String, ['Sam (8A).pdf'], [], ['8A', '8B'])).toEqual([
    'Sam (8A).pdf',
    'Sam (8B).pdf',
  ]);
  expect(namedFor('Sam (8C).pdf', 'Sam', '8A')).toBe(false);
  expect(uniquePaths(['a/b', 'a/b'], String, [], [], ['../..', '<8>'])).toEqual([
    'a/b (-).pdf',
    'a/b (-8-).pdf',
  ]);
});

test('no file is called as a folder of another one', () => {
  expect(uniquePaths(['x.pdf/a', 'x'], String)).toEqual(['x.pdf/a.pdf', 'x (2).pdf']);
});

test('what was done to a name is told', () => {
  expect(checkName(filing, { c: '8A', n: 'Zoë' })).toEqual({ changed: false, cut: false, blank: false });
  expect(checkName(filing, { c: '8/A', n: 'Zoë' }).changed).toBe(true);
  expect(checkName(filing, { c: '', n: 'x'.repeat(200) }).cut).toBe(true);
  expect(checkName(filing, { c: '8A', n: ' . ' }).blank).toBe(true);
});
