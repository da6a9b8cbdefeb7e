import { picturesPrinted, type PrintedValues } from '@scriptum/core/fill';
import { PDFDocument } from '@cantoo/pdf-lib';
import { typeset, type Program } from '@scriptum/core/page';
import { fillingForms, placedOf, type DressedTemplate, type FileStandard } from '@scriptum/core/template';
import { LRUCache } from 'lru-cache';
import { In, type EntityManager } from 'typeorm';
import { readBlob, sha256 } from '../store/blobs.js';
import type { LaidOn } from '../store/laid-on.js';
import { AssetRow } from '../store/entities/folio.js';
import { LetterheadPictureRow } from '../store/entities/letterhead.js';
import { checkPicture } from './check-picture.js';
import type { LoadedPicture, LoadedProgram, OwnPicture } from './typesetter.js';

/** Nothing: stands for a picture that is gone or may not be printed, so that the rest of the proof can be seen. */
const BLANK: LoadedPicture = {
  hash: 'blank',
  bytes: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"/>'),
};

/** Pages with nothing on them: stand for a ground that is gone, so that the rest of the paper can be seen. */
let blankPages: Promise<LoadedPicture> | undefined;
const blankGround = (): Promise<LoadedPicture> =>
  (blankPages ??= PDFDocument.create({ updateMetadata: false }).then(async (document) => {
    for (let n = 0; n < 50; n++) document.addPage([72, 72]);
    return { hash: 'blank pages', bytes: Buffer.from(await document.save()) };
  }));

/** Points in a millimetre. */
const POINTS = 72 / 25.4;
/** Bytes of pictures that are kept at hand. */
const KEPT = 100 * 1024 * 1024;

/** Turns templates into programs and keeps the pictures that were read last. */
export class Programs {
  private readonly pictures = new LRUCache<string, LoadedPicture>({
    maxSize: KEPT,
    sizeCalculation: ({ bytes }) => Math.max(1, bytes.length),
  });

  async load(
    manager: EntityManager,
    schoolId: string,
    folioId: string,
    written: DressedTemplate,
  ): Promise<LoadedProgram> {
    const template = await this.fillingForms(manager, schoolId, folioId, written);
    const program = typeset(template);
    if (program.assets.length === 0)
      return { ...program, pictures: [], laidOn: null, tenant: schoolId, of: folioId };
    const rows = [
      ...(await manager.findBy(AssetRow, { folioId, schoolId })),
      ...(template.dress ? await manager.findBy(LetterheadPictureRow, { schoolId }) : []),
    ];
    const hashes = new Map(rows.map((row) => [row.id, row.blobHash]));
    const grounds = new Map(
      rows.flatMap((row) => ('about' in row && row.about ? [[row.id, row.about] as const] : [])),
    );
    // The last page of each that is asked for.
    const under = new Map<number, number>();
    for (const one of program.under)
      if (one) under.set(one.asset, Math.max(one.page, under.get(one.asset) ?? 0));
    let { standard }: { standard: FileStandard | null } = program;
    const pictures: LoadedPicture[] = [];
    const grounded = new Set<number>();
    for (const [n, asset] of program.assets.entries()) {
      const drawing = program.drawings[asset];
      const page = under.get(n);
      const about = grounds.get(asset);
      if (drawing !== undefined) pictures.push({ hash: sha256(drawing), bytes: Buffer.from(drawing) });
      else if (page === undefined) pictures.push(await this.picture(manager, schoolId, hashes.get(asset)));
      else {
        const there = about && page < about.pages.length;
        const ground = there ? await this.ground(manager, schoolId, hashes.get(asset)) : null;
        pictures.push(ground ?? (await blankGround()));
        if (ground) grounded.add(n);
        // Fields have no place in the structure of a paper.
        const open = placedOf(template)?.fillable && about?.fillable;
        if (there && (!about.embedded || open)) standard = null;
      }
    }
    const laidOn = laidOnOf(program, pictures, grounded);
    return { ...program, standard, pictures, laidOn, tenant: schoolId, of: folioId };
  }

  /** A template that fills fields only of PDFs which still have them; what has no field is printed. */
  async fillingForms<T extends DressedTemplate>(
    manager: EntityManager,
    schoolId: string,
    folioId: string,
    template: T,
  ): Promise<T> {
    if (!placedOf(template)?.fillable) return template;
    const rows = await manager.findBy(AssetRow, { folioId, schoolId });
    const forms = new Set(rows.filter(({ about }) => about?.fillable).map(({ id }) => id));
    return fillingForms(template, (asset) => forms.has(asset));
  }

  /** The pictures that are printed for one entry alone. One that is gone is left free. */
  async own(
    manager: EntityManager,
    schoolId: string,
    folioId: string,
    values: PrintedValues,
  ): Promise<OwnPicture[]> {
    const ids = picturesPrinted(values);
    if (ids.length === 0) return [];
    const rows = await manager.findBy(AssetRow, { id: In(ids), folioId, schoolId });
    const hashes = new Map(rows.map((row) => [row.id, row.blobHash]));
    return Promise.all(
      ids.map(async (name) => ({ name, ...(await this.picture(manager, schoolId, hashes.get(name))) })),
    );
  }

  /** A prepared PDF that lies under pages; null where it is gone. */
  private async ground(
    manager: EntityManager,
    schoolId: string,
    hash: string | undefined,
  ): Promise<LoadedPicture | null> {
    const key = `ground ${schoolId}/${hash}`;
    const kept = this.pictures.get(key);
    if (kept) return kept;
    const bytes = hash && (await readBlob(manager, schoolId, hash));
    if (!bytes) return null;
    const ground = { hash: hash!, bytes };
    this.pictures.set(key, ground);
    return ground;
  }

  private async picture(
    manager: EntityManager,
    schoolId: string,
    hash: string | undefined,
  ): Promise<LoadedPicture> {
    if (!hash) return BLANK;
    const key = `${schoolId}/${hash}`;
    const kept = this.pictures.get(key);
    if (kept) return kept;
    const bytes = await readBlob(manager, schoolId, hash);
    // Checked again here: pictures that were taken before there was a check are kept too.
    const picture = bytes && (await checkPicture(bytes)).ok ? { hash, bytes } : BLANK;
    this.pictures.set(key, picture);
    return picture;
  }
}

/** What a program's papers lie on, by what is there of it. */
function laidOnOf(
  { under, beyond }: Program,
  pictures: readonly LoadedPicture[],
  there: ReadonlySet<number>,
): LaidOn | null {
  if (there.size === 0) return null;
  const assets = [...there];
  return {
    grounds: assets.map((asset) => pictures[asset]!.hash),
    under: under.map((one) =>
      one && there.has(one.asset) ? { ground: assets.indexOf(one.asset), page: one.page } : null,
    ),
    beyond: beyond.all * POINTS,
  };
}
