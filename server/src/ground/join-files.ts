import { PDFDocument } from '@cantoo/pdf-lib';
import type { LaidOn } from '../store/laid-on.js';
import { shareFonts } from './share-fonts.js';
import { shareStreams } from './share-streams.js';
import { GroundsOf, lastPages, putUnder } from './put-under.js';

/** A kept file of a pack; the PDFs that it lies on by their places among those that come with the pack. */
export interface JoinedFile {
  readonly bytes: Uint8Array;
  readonly laidOn: LaidOn | null;
}

/** Files as one. */
export interface Joined {
  readonly bytes: Uint8Array;
  /** The page on which each file begins, counted from 1. */
  readonly starts: readonly number[];
  readonly pages: number;
}

/** Files that are joined between two tellings of how far it has come. */
const TELL_EVERY = 10;

/**
 * Joins files to one for the printer. What they lie on is in it once, however many lie on it; fields of forms become what they
 * show. Typefaces and pictures are in it once too. Tags and claims are left out: a pack is read on paper.
 *
 * @param grounds by their hashes.
 * @param fronts whether each file begins on the front of a sheet that is printed on both sides: where one has an odd number of
 * pages an empty one of the same size follows.
 * @param tell hears how many files are joined.
 */
export async function joinFiles(
  files: readonly JoinedFile[],
  grounds: ReadonlyMap<string, Uint8Array>,
  fronts: boolean,
  tell: (done: number) => Promise<void> = async () => undefined,
): Promise<Joined> {
  const starts: number[] = [];
  const joined = await PDFDocument.create({ updateMetadata: false });
  const under = new GroundsOf(joined);
  for (const [n, { bytes, laidOn }] of files.entries()) {
    if (n % TELL_EVERY === 0) await tell(n);
    starts.push(joined.getPageCount() + 1);
    const open = laidOn?.fields !== undefined;
    const file = open ? await flat(bytes, laidOn, grounds) : bytes;
    const document = await PDFDocument.load(file, { updateMetadata: false });
    const pages = await joined.copyPages(document, document.getPageIndices());
    const added = pages.map((page) => joined.addPage(page));
    if (laidOn && !open)
      for (const [page, wanted] of lastPages(added, laidOn.under)) {
        const ground = wanted && grounds.get(laidOn.grounds[wanted.ground]!);
        if (ground) await under.put(page, ground, wanted.page, laidOn.beyond);
      }
    const last = added.at(-1);
    if (fronts && last && added.length % 2 === 1 && n < files.length - 1)
      joined.addPage([last.getWidth(), last.getHeight()]);
  }
  await joined.flush();
  shareFonts(joined);
  shareStreams(joined);
  const pages = joined.getPageCount();
  const bytes = await joined.save({
    useObjectStreams: true,
    addDefaultPage: false,
    updateFieldAppearances: false,
  });
  return { bytes, starts, pages };
}

/** A file whose fields are filled, with these as they look. */
async function flat(
  bytes: Uint8Array,
  { grounds: hashes, under, beyond, fields }: LaidOn,
  grounds: ReadonlyMap<string, Uint8Array>,
): Promise<Uint8Array> {
  const from = hashes.flatMap((hash) => grounds.get(hash) ?? []);
  const document = await PDFDocument.load(await putUnder(bytes, from, under, beyond, fields), {
    updateMetadata: false,
  });
  document.getForm().flatten({ updateFieldAppearances: false });
  return document.save({ useObjectStreams: true, addDefaultPage: false });
}
