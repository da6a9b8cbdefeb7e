import type { Column } from '../column/index.js';
import { learnerName, nameColumns } from './learner.js';
import { valueOf } from './cells.js';
import { isIn, type Entry, type Roll } from './roll.js';

/** What the names of pictures are compared with: a column's cells, or the learners' names. */
export type MatchedBy = { readonly columnId: string } | 'name';

export interface PictureMatches {
  /** The place of the file that is an entry's, by the entry's identity. */
  readonly fileOf: ReadonlyMap<string, number>;
  /** Entries that no file is named after, in the order of the roll. */
  readonly without: readonly Entry[];
  /** Places of files that are nobody's: named after nobody, or after several, or a second one of somebody. */
  readonly left: readonly number[];
}

/** Finds out which picture is whose by the files' names, without folders and endings. */
export function matchPictures(roll: Roll, files: readonly string[], by: MatchedBy): PictureMatches {
  const names = nameColumns(roll.columns);
  const keyOf = by === 'name' ? nameKey : fileKey;
  const owners = new Map<string, Entry | null>();
  const present = roll.entries.filter(isIn);
  for (const entry of present) {
    const key = keyOf(by === 'name' ? learnerName(entry, names) : valueOf(entry, by.columnId));
    // Two of one name: nobody can tell whose it is.
    if (key !== '') owners.set(key, owners.has(key) ? null : entry);
  }
  const fileOf = new Map<string, number>();
  const left: number[] = [];
  files.forEach((file, n) => {
    const owner = owners.get(keyOf(file));
    if (owner && !fileOf.has(owner.id)) fileOf.set(owner.id, n);
    else left.push(n);
  });
  return { fileOf, without: present.filter(({ id }) => !fileOf.has(id)), left };
}

/** What most of the files are named after; the learners' names where nothing agrees. */
export function guessMatchedBy(roll: Roll, files: readonly string[]): MatchedBy {
  const ways: MatchedBy[] = [
    'name',
    ...[...roll.columns].sort(keysFirst(roll)).map(({ id }): MatchedBy => ({ columnId: id })),
  ];
  let best: { by: MatchedBy; count: number } = { by: 'name', count: 0 };
  for (const by of ways) {
    const count = matchPictures(roll, files, by).fileOf.size;
    if (count > best.count) best = { by, count };
  }
  return best.by;
}

const keysFirst =
  ({ key = [] }: Roll) =>
  (one: Column, other: Column): number =>
    Number(key.includes(other.id)) - Number(key.includes(one.id));

const FOLDERS = /^.*[/\\]/;
const ENDING = /\.(?:png|jpe?g|gif|webp|svg|heic|heif|bmp|tiff?)$/i;

/** A file's name or a cell, without folders, ending, case and the signs that stand between words. */
export const fileKey = (text: string): string =>
  text
    .trim()
    .replace(FOLDERS, '')
    .replace(ENDING, '')
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[\s_.,-]+/gu, ' ')
    .trim();

/** The words of a name in whatever order: `Okafor, Amara` is `amara_okafor.jpg`; accents do not count. */
const nameKey = (text: string): string =>
  fileKey(text)
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .split(' ')
    .sort()
    .join(' ');
