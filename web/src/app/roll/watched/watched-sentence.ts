import { WATCH_EVERY, type ChangeWatched, type WatchedFile, type WatchedList } from '@scriptum/core/contract';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../../ui/sentence/sentence-piece';

/** What the sentence of a watched file is made for. */
export interface WatchedSurroundings {
  readonly sources: readonly { readonly id: string; readonly fileName: string }[];
  readonly list: WatchedList;
}

const EVERY: Readonly<Record<WatchedFile['everyMinutes'], string>> = {
  1: 'every minute',
  5: 'every 5 minutes',
  15: 'every 15 minutes',
  60: 'every hour',
  360: 'every 6 hours',
  1440: 'every day',
};

const part = (
  id: string,
  label: string,
  text: string,
  value: string,
  options: readonly SentenceOption[],
  more: Partial<SentencePart> = {},
): SentencePart => ({ id, label, text, value, options, ...more });

/** A watched file as sentences: of what it is a newer version, where it lies, how often it is looked at, and who is missing there. */
export function watchedSentence(file: WatchedFile, { sources, list }: WatchedSurroundings): SentencePiece[] {
  const { place } = file;
  const source = sources.find(({ id }) => id === file.sourceId);
  const kinds: SentenceOption[] = [
    ...(list.there !== null || place.kind === 'folder'
      ? [{ value: 'folder', label: 'in the school’s folder' }]
      : []),
    ...(list.origins.length > 0 || place.kind === 'web' ? [{ value: 'web', label: 'at an address' }] : []),
  ];
  return [
    'Newer versions of ',
    part(
      'source',
      'what it is a newer version of',
      source?.fileName ?? 'a source that is gone',
      file.sourceId,
      sources.map(({ id, fileName }) => ({ value: id, label: fileName })),
      source ? {} : { look: 'missing' },
    ),
    ' lie ',
    part(
      'kind',
      'where they lie',
      place.kind === 'folder' ? 'in the school’s folder' : 'at an address',
      place.kind,
      kinds,
    ),
    place.kind === 'folder' ? ' as ' : ', ',
    place.kind === 'folder'
      ? part(
          'path',
          'the file',
          place.path,
          place.path,
          (list.there ?? []).map((path) => ({ value: path, label: path })),
          { typed: 'This name; a * stands for anything in it' },
        )
      : part(
          'url',
          'the address',
          place.url,
          place.url,
          list.origins.map((one) => ({ value: `${one}/`, label: `${one}/ …` })),
          {
            typed: 'This address',
          },
        ),
    ', and are looked for ',
    part(
      'every',
      'how often',
      EVERY[file.everyMinutes],
      String(file.everyMinutes),
      WATCH_EVERY.map((minutes) => ({ value: String(minutes), label: EVERY[minutes] })),
    ),
    '. Learners who are missing there ',
    part('missing', 'what becomes of learners who are missing there', MISSING[file.missing], file.missing, [
      { value: 'leave out', label: MISSING['leave out'], hint: 'they get no papers' },
      { value: 'keep', label: MISSING.keep },
    ]),
    '.',
  ];
}

const MISSING = { 'leave out': 'are left out', keep: 'stay on the roll' } as const;

/** What a change of a part of the sentence comes to; null where it cannot be taken. */
export function changeWatched(
  file: WatchedFile,
  { id, value }: SentenceChange,
  { list }: WatchedSurroundings,
): ChangeWatched | null {
  const { place } = file;
  switch (id) {
    case 'source':
      return { sourceId: value };
    case 'kind':
      if (value === place.kind) return null;
      return value === 'folder'
        ? { place: { kind: 'folder', path: list.there?.[0] ?? file.source ?? 'File.csv' } }
        : { place: { kind: 'web', url: `${list.origins[0] ?? 'https://'}/`, user: '' } };
    case 'path':
      return value.trim() === ''
        ? null
        : { place: { kind: 'folder', path: value.trim().replace(/^[/\\]+/, '') } };
    case 'url':
      return { place: { kind: 'web', url: value.trim(), user: place.kind === 'web' ? place.user : '' } };
    case 'every': {
      const minutes = WATCH_EVERY.find((one) => String(one) === value);
      return minutes === undefined ? null : { everyMinutes: minutes };
    }
    case 'missing':
      return { missing: value === 'keep' ? 'keep' : 'leave out' };
    default:
      return null;
  }
}
