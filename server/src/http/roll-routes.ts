import { SHEET_LIMITS } from '@scriptum/core/table';
import { json, raw, type RequestHandler, type Router } from 'express';
import type { BringIn } from '@scriptum/core/contract';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { notFound } from '../refusal.js';
import { bringIn, takeOut, type ReadFile } from '../roll/bring-in.js';
import { goBack } from '../roll/earlier.js';
import { patchRoll } from '../roll/patch-roll.js';
import { rollFile } from '../roll/roll-file.js';
import type { SheetReader } from '../roll/sheet-reader.js';
import { loadWorkedRoll } from '../roll/worked-roll.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { SourceRow } from '../store/entities/folio.js';
import { note } from '../store/events.js';
import { findFolio, loadFolio, lockFolio } from '../store/folios.js';
import { answer } from './call.js';

export interface RollParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly sheetReader: SheetReader;
}

/** A patch may change every cell of a large roll. */
const PATCH_MOST = 48 * 1024 * 1024;
const MIME = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
} as const;

/** What reads bodies larger than usual; to be put before the usual reader. */
export function rollBodies(router: Router): void {
  const file = forStaff(raw({ type: () => true, limit: SHEET_LIMITS.bytes }));
  router.post('/folios/:folioId/sheet', file);
  router.post('/folios/:folioId/files', file);
  router.patch('/folios/:folioId/roll', forStaff(json({ limit: PATCH_MOST })));
}

/** Nobody else gets a large body read. */
function forStaff(read: RequestHandler): RequestHandler {
  return (request, response, next) => {
    if (request.session.staffId) void read(request, response, next);
    else next();
  };
}

/** Bringing files in, changing the roll, having it back, saving it. */
export function rollRoutes(router: Router, { database, events, sheetReader }: RollParts): void {
  const { manager } = database;
  const bytesOf = (body: unknown): Buffer => (Buffer.isBuffer(body) ? body : Buffer.alloc(0));

  const take = async (
    schoolId: string,
    folioId: string,
    file: ReadFile,
    as: BringIn['as'],
  ): Promise<void> => {
    await database.transaction((inside) => bringIn(inside, schoolId, folioId, file, as));
    events.tell(folioId, { kind: 'folio' });
  };

  answer(router, 'bringInSheet', async ({ request, schoolId, staffId, params, query }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const bytes = bytesOf(request.body);
    const laidOut = await sheetReader.read(bytes, query.reading ?? {});
    const blobHash = await keepBlob(manager, schoolId, bytes);
    await take(schoolId, folioId, { name: query.name, blobHash, laidOut }, { kind: 'base' });
    await note(manager, { schoolId, staffId, folioId, kind: 'sheet-brought-in' });
    return loadFolio(manager, schoolId, folioId);
  });

  answer(router, 'keepFile', async ({ request, schoolId, params }) => {
    await findFolio(manager, schoolId, params['folioId']!);
    return { fileId: await keepBlob(manager, schoolId, bytesOf(request.body)) };
  });

  answer(router, 'bringIn', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const bytes = await readBlob(manager, schoolId, body.fileId);
    if (!bytes) throw notFound('The file');
    const laidOut = await sheetReader.read(bytes, body.reading);
    await take(schoolId, folioId, { name: body.name, blobHash: body.fileId, laidOut }, body.as);
    await note(manager, { schoolId, staffId, folioId, kind: `sheet-${body.as.kind}` });
    return loadFolio(manager, schoolId, folioId);
  });

  answer(router, 'patchRoll', async ({ schoolId, params, body }) => {
    const folioId = params['folioId']!;
    await database.transaction((inside) => patchRoll(inside, schoolId, folioId, body));
    return {};
  });

  answer(router, 'takeOutSource', async ({ schoolId, staffId, params }) => {
    const folioId = params['folioId']!;
    await database.transaction((inside) => takeOut(inside, schoolId, folioId, params['sourceId']!));
    await note(manager, { schoolId, staffId, folioId, kind: 'source-taken-out' });
    events.tell(folioId, { kind: 'folio' });
    return loadFolio(manager, schoolId, folioId);
  });

  answer(router, 'goBack', async ({ schoolId, staffId, params }) => {
    const folioId = params['folioId']!;
    await database.transaction(async (inside) => {
      await goBack(inside, await lockFolio(inside, schoolId, folioId), params['earlierId']!);
    });
    await note(manager, { schoolId, staffId, folioId, kind: 'roll-taken-back' });
    events.tell(folioId, { kind: 'folio' });
    return loadFolio(manager, schoolId, folioId);
  });

  answer(router, 'sourceFile', async ({ response, schoolId, params }) => {
    const source = await manager.findOneBy(SourceRow, {
      id: params['sourceId']!,
      folioId: params['folioId']!,
      schoolId,
    });
    const bytes = source && (await readBlob(manager, schoolId, source.blobHash));
    if (!source || !bytes) throw notFound('The file of this source');
    response.attachment(source.fileName).type('application/octet-stream').send(bytes);
  });

  answer(router, 'rollFile', async ({ response, schoolId, params, query }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const bytes = rollFile((await loadWorkedRoll(manager, folio)).roll, folio.title, query.kind, query.who);
    response
      .attachment(`${folio.title.replace(/[\\/:*?"<>|]/g, ' ').trim() || 'Roll'}.${query.kind}`)
      .type(MIME[query.kind])
      .send(Buffer.from(bytes));
  });
}
