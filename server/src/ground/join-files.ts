import { PDFDocument } from '@cantoo/pdf-lib';
import type { LaidOn } from '../store/laid-on.js';
import { GroundsOf, lastPages, putUnder } from './put-under.js';

/** A kept file of a pack; the PDFs that it lies on by their places among those that come with the pack. */
export interface JoinedFile {
  readonly bytes: Uint8Array;
  readonly laidOn: LaidOn | null;
}

/**
 * Joins files to one for the printer. What they lie on is in it once, however many lie on it; fields of forms become what they
 * show. Tags and claims are left out: a pack is read on paper.
 *
 * @param grounds by their hashes.
 * @param fronts whether each file begins on the front of a sheet that is printed on both sides: where one has an odd number of
 * pages an empty one of the same size follows.
 */
export async function joinFiles(
  files: readonly JoinedFile[],
  grounds: ReadonlyMap<string, Uint8Array>,
  fronts: boolean,
): Promise<Uint8Array> {
  const joined = await PDFDocument.create({ updateMetadata: false });
  const under = new GroundsOf(joined);
  for (const [n, { bytes, laidOn }] of files.entries()) {
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
  return joined.save({ useObjectStreams: true, addDefaultPage: false, updateFieldAppearances: false });
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
