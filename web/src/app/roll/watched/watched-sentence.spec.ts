import { ChangeWatched, type WatchedFile, type WatchedList } from '@scriptum/core/contract';
import type { SentencePiece } from '../../ui/sentence/sentence-piece';
import { changeWatched, watchedSentence } from './watched-sentence';

const file = (place: WatchedFile['place'], more: Partial<WatchedFile> = {}): WatchedFile => ({
  id: 'file01',
  sourceId: 'base01',
  source: 'marks.csv',
  place,
  everyMinutes: 15,
  missing: 'leave out',
  isOn: true,
  lookedAt: null,
  nextAt: null,
  took: null,
  fault: null,
  waits: null,
  ...more,
});
const list: WatchedList = {
  files: [],
  folder: 'school01',
  there: ['Exports/marks.csv'],
  origins: ['https://marks.school.example'],
};
const around = { sources: [{ id: 'base01', fileName: 'marks.csv' }], list };
const IN_FOLDER = file({ kind: 'folder', path: 'marks-*.csv' });
const AT_ADDRESS = file({
  kind: 'web',
  url: 'https://marks.school.example/a.csv',
  user: 'office',
  hasPassword: true,
});
const say = (one: WatchedFile): string =>
  watchedSentence(one, around)
    .map((piece: SentencePiece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');

test('it reads as a sentence', () => {
  expect(say(IN_FOLDER)).toBe(
    'Newer versions of marks.csv lie in the school’s folder as marks-*.csv, and are looked for every 15 minutes. Learners who are missing there are left out.',
  );
  expect(say({ ...AT_ADDRESS, everyMinutes: 60, missing: 'keep', sourceId: 'gone01' })).toBe(
    'Newer versions of a source that is gone lie at an address, https://marks.school.example/a.csv, and are looked for every hour. Learners who are missing there stay on the roll.',
  );
});

test('each part can be changed, to what the server takes', () => {
  for (const one of [IN_FOLDER, AT_ADDRESS])
    for (const piece of watchedSentence(one, around)) {
      if (typeof piece === 'string') continue;
      for (const { value } of piece.options) {
        const change = changeWatched(one, { id: piece.id, value }, around);
        if (change !== null) expect(ChangeWatched.safeParse(change).success).toBe(true);
      }
    }
  expect(changeWatched(IN_FOLDER, { id: 'path', value: ' /Exports/m.csv ' }, around)).toEqual({
    place: { kind: 'folder', path: 'Exports/m.csv' },
  });
  expect(changeWatched(IN_FOLDER, { id: 'path', value: ' ' }, around)).toBeNull();
  expect(changeWatched(IN_FOLDER, { id: 'kind', value: 'web' }, around)).toEqual({
    place: { kind: 'web', url: 'https://marks.school.example/', user: '' },
  });
  // Who may look there stays, and so does the password, which is not told.
  expect(
    changeWatched(AT_ADDRESS, { id: 'url', value: 'https://marks.school.example/b.csv' }, around),
  ).toEqual({
    place: { kind: 'web', url: 'https://marks.school.example/b.csv', user: 'office' },
  });
  expect(changeWatched(IN_FOLDER, { id: 'every', value: '7' }, around)).toBeNull();
});
