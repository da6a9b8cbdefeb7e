import { raw, type Router } from 'express';
import { fileTypeFromBuffer } from 'file-type';
import { preflight } from '@scriptum/core/preflight';
import { fillFields } from '@scriptum/core/fill';
import { programValues } from '@scriptum/core/page';
import { PAPER_SIZES } from '@scriptum/core/template';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { AssetRow, FolioRow, TemplateRow } from '../store/entities/folio.js';
import {
  createFolio,
  findFolio,
  findTemplate,
  listFolios,
  loadAssets,
  loadFolio,
  touchFolio,
} from '../store/folios.js';
import { newId } from '../store/id.js';
import { note } from '../store/events.js';
import { presentRoll } from '@scriptum/core/roll';
import { loadWorkedEntry, loadWorkedRoll } from '../roll/worked-roll.js';
import { answer } from './call.js';

const PICTURE_MOST = 10 * 1024 * 1024;
const PICTURES = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/svg+xml']);

export interface FolioParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly typesetter: Typesetter;
  readonly programs: Programs;
}

export function folioRoutes(router: Router, { database, typesetter, programs }: FolioParts): void {
  const { manager } = database;
  router.post('/folios/:folioId/assets', raw({ type: () => true, limit: PICTURE_MOST }));

  answer(router, 'listFolios', async ({ schoolId }) => ({ folios: await listFolios(database, schoolId) }));
  answer(router, 'createFolio', async ({ schoolId, staffId, body }) => {
    const folio = await database.transaction((inside) =>
      createFolio(inside, schoolId, body.title, new Date()),
    );
    await note(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-started' });
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'getFolio', ({ schoolId, params }) => loadFolio(manager, schoolId, params['folioId']!));
  answer(router, 'renameFolio', async ({ schoolId, params, body }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await manager.update(FolioRow, { id: folio.id, schoolId }, { title: body.title, changedAt: new Date() });
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'deleteFolio', async ({ schoolId, staffId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await manager.delete(FolioRow, { id: folio.id, schoolId });
    await note(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-deleted' });
    return {};
  });

  const changed = (): Refusal =>
    conflict(
      'changed-elsewhere',
      'This was changed in another window meanwhile. Reload to see that version; yours has not been saved.',
    );
  answer(router, 'saveLetter', async ({ schoolId, params, body }) => {
    const template = await findTemplate(manager, schoolId, params['folioId']!);
    const saved = await manager.update(
      TemplateRow,
      { id: template.id, schoolId, version: body.version },
      { letter: body.letter, version: body.version + 1 },
    );
    if (!saved.affected) throw changed();
    await touchFolio(manager, { id: template.folioId, schoolId });
    return { version: body.version + 1 };
  });
  answer(router, 'saveNote', async ({ schoolId, params, body }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const saved = await manager.update(
      FolioRow,
      { id: folio.id, schoolId, noteVersion: body.version },
      { note: body.note, noteVersion: body.version + 1, changedAt: new Date() },
    );
    if (!saved.affected) throw changed();
    return { version: body.version + 1 };
  });
  answer(router, 'saveFiling', async ({ schoolId, params, body }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const saved = await manager.update(
      FolioRow,
      { id: folio.id, schoolId, filingVersion: body.version },
      { filing: body.filing, filingVersion: body.version + 1, changedAt: new Date() },
    );
    if (!saved.affected) throw changed();
    return { version: body.version + 1 };
  });

  answer(router, 'addPicture', async ({ request, schoolId, params, query }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const mime = await pictureType(bytes);
    const blobHash = await keepBlob(manager, schoolId, bytes);
    const asset = { id: newId(), schoolId, folioId: folio.id, name: query.name, mime, blobHash };
    await manager.insert(AssetRow, asset);
    return { id: asset.id, name: asset.name, mime };
  });
  answer(router, 'getPicture', async ({ response, schoolId, params }) => {
    const asset = await manager.findOneBy(AssetRow, {
      id: params['assetId']!,
      folioId: params['folioId']!,
      schoolId,
    });
    const bytes = asset && (await readBlob(manager, schoolId, asset.blobHash));
    if (!asset || !bytes) throw notFound('This picture');
    // An SVG may hold scripts; opened by itself it must not run them.
    response.set({
      'Content-Security-Policy': "sandbox; default-src 'none'; style-src 'unsafe-inline'",
      'Cache-Control': 'private, max-age=31536000, immutable',
    });
    response.type(asset.mime).send(bytes);
  });

  answer(router, 'proof', async ({ schoolId, params, body }) => {
    const began = performance.now();
    const folioId = params['folioId']!;
    const folio = await findFolio(manager, schoolId, folioId);
    const [entry, program] = await Promise.all([
      body.entryId ? loadWorkedEntry(manager, folio, body.entryId) : null,
      programs.load(manager, schoolId, folioId, body.letter),
    ]);
    const values = entry ? fillFields(body.letter.fields, entry) : {};
    const set = await typesetter.proof(program, programValues(body.letter, values));
    if (!set.ok) throw new Refusal(422, 'typesetting', set.reason);
    const { width, height } = PAPER_SIZES[body.letter.page.size];
    const points = (mm: number): number => (mm * 72) / 25.4;
    return {
      svg: set.svg,
      pages: set.pages,
      width: points(width),
      height: points(height),
      took: performance.now() - began,
    };
  });
  answer(router, 'preflight', async ({ schoolId, params }) => {
    const folio = await loadFolio(manager, schoolId, params['folioId']!);
    const assets = new Set((await loadAssets(manager, schoolId, folio.id)).map(({ id }) => id));
    const { roll, findings } = await loadWorkedRoll(manager, await findFolio(manager, schoolId, folio.id));
    return { findings: preflight({ ...folio, roll: presentRoll(roll), marks: findings(), assets }) };
  });
}

async function pictureType(bytes: Buffer): Promise<string> {
  const type = await fileTypeFromBuffer(bytes);
  const head = bytes.subarray(0, 2000).toString('utf8');
  const mime =
    type && PICTURES.has(type.mime)
      ? type.mime
      : /^\s*(<\?xml|<!--|<!doctype svg|<svg)/i.test(head) && /<svg[\s>]/i.test(head)
        ? 'image/svg+xml'
        : null;
  if (!mime)
    throw new Refusal(
      422,
      'picture-kind',
      'This file is no picture that can be printed. Use PNG, JPEG, GIF, WebP or SVG.',
    );
  return mime;
}
