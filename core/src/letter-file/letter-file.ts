import { strToU8, zipSync } from 'fflate';
import { z } from 'zod';
import type { Column } from '../column/index.js';
import { refuse, succeed, type Result } from '../table/index.js';
import {
  allPicturesOf,
  Letter,
  matchFields,
  Placed,
  readTemplateFile,
  withTemplatePictures,
  type Template,
} from '../template/index.js';
import { openArchive } from '../workbook/index.js';
import { columnsWritten, movedTo, type TitledColumn } from './move-letter.js';

/** A picture that goes along with a letter. */
export interface LetterPicture {
  /** What the letter calls it. */
  readonly asset: string;
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** A letter or a placed template that was saved as a file. */
export interface LetterFromFile {
  readonly letter: Template;
  readonly pictures: readonly LetterPicture[];
}

const LETTER = 'letter.json';
const PICTURES_MOST = 200;
/** Bytes that a file unpacks to at most, and that its letter has: it is read while others wait. */
const UNPACKED_MOST = 60 * 1024 * 1024;
const LETTER_MOST = 4 * 1024 * 1024;

const around = {
  /** Columns of the roll that it was written over. */
  columns: z.array(z.object({ id: z.string(), title: z.string().max(1000) })).max(2000),
  /** The part of the archive that each picture is, by what the letter calls it. */
  pictures: z.record(z.string(), z.string()),
};
const Saved = z.discriminatedUnion('scriptum', [
  z.object({ scriptum: z.literal('letter'), version: z.literal(2), letter: Letter, ...around }),
  z.object({ scriptum: z.literal('placed'), version: z.literal(1), letter: Placed, ...around }),
]);

/** A letter or a placed template with its pictures as a ZIP archive, as docs/template-file.md describes it. The same letter gives the same bytes. */
export function letterFile(
  letter: Template,
  columns: readonly TitledColumn[],
  pictures: readonly LetterPicture[],
): Uint8Array {
  const parts: Record<string, Uint8Array> = {};
  const places: Record<string, string> = {};
  for (const [n, { asset, name, bytes }] of pictures.entries()) {
    const part = `pictures/${n + 1}-${name.replace(/[^\p{L}\p{N}.-]+/gu, '_').slice(-80)}`;
    places[asset] = part;
    parts[part] = bytes;
  }
  // Elsewhere there is no letter that it stands in for.
  const { variant: _, ...alone } = letter;
  const saved = {
    scriptum: letter.kind,
    version: letter.kind === 'letter' ? 2 : 1,
    letter: alone,
    columns: columnsWritten(letter, columns),
    pictures: places,
  };
  const json = strToU8(`${JSON.stringify(saved, null, 2)}\n`);
  // A fixed day, which archives need and nobody reads.
  return zipSync({ [LETTER]: json, ...parts }, { mtime: new Date(2000, 0, 1), level: 6 });
}

/**
 * Reads what was saved as a file, or a template file, over the columns of a roll.
 * Refuses with `letter-file` where it is neither, `letter-large`, `letter-damaged`; see also `readTemplateFile`.
 */
export function readLetterFile(
  bytes: Uint8Array,
  columns: readonly Column[],
  newId: () => string,
): Result<LetterFromFile> {
  const isArchive = bytes[0] === 0x50 && bytes[1] === 0x4b;
  if (!isArchive) {
    if (bytes.length > LETTER_MOST) return refuse('letter-file');
    const text = new TextDecoder().decode(bytes);
    // The part of an archive that says all but its pictures can stand alone.
    const alone = Saved.safeParse(jsonOf(text));
    if (alone.success) return succeed(overColumns(alone.data, columns, () => undefined));
    const read = readTemplateFile(text, newId);
    if (!read.ok) return read;
    const { letter } = read.value;
    return succeed({ letter: { ...letter, fields: matchFields(letter.fields, columns) }, pictures: [] });
  }
  const opened = openArchive(bytes, (name) => name === LETTER || name.startsWith('pictures/'), UNPACKED_MOST);
  // What refuses archives speaks of sheets.
  if (!opened.ok)
    return opened.problem.code === 'unpacks-too-large'
      ? refuse('letter-large', { most: UNPACKED_MOST })
      : refuse('letter-damaged');
  const { parts } = opened.value;
  const part = parts[LETTER];
  if (!part || part.length > LETTER_MOST) return refuse('letter-file');
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder().decode(part));
  } catch (error) {
    return refuse('template-json', { why: (error as Error).message });
  }
  const parsed = Saved.safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    return refuse('template-shape', { place: issue.path.join('.'), why: issue.message });
  }
  return succeed(overColumns(parsed.data, columns, (name) => parts[name]));
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** What was saved, over the columns of another roll, with the pictures that it shows. */
function overColumns(
  { letter, columns: from, pictures: places }: z.infer<typeof Saved>,
  columns: readonly Column[],
  partOf: (name: string) => Uint8Array | undefined,
): LetterFromFile {
  const { variant: _, ...moved } = movedTo<Template>(letter, from, columns);
  const used = new Set(allPicturesOf(moved).map(({ attrs }) => attrs.asset));
  const pictures = Object.entries(places)
    .filter(([asset]) => used.has(asset))
    .slice(0, PICTURES_MOST)
    .flatMap(([asset, name]): LetterPicture[] => {
      const picture = partOf(name);
      return picture ? [{ asset, name: name.replace(/^pictures\/(?:\d+-)?/, ''), bytes: picture }] : [];
    });
  return { letter: { ...moved, fields: matchFields(moved.fields, columns) }, pictures };
}

/** The letter with the pictures as they are called where it was brought in. */
export const withKeptPictures = (letter: Template, kept: ReadonlyMap<string, string>): Template =>
  withTemplatePictures(letter, (asset) => kept.get(asset));
