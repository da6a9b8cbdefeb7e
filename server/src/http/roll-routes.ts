import { safePart } from '@scriptum/core/filing';
import { SHEET_LIMITS, tooLarge } from '@scriptum/core/table';
import { raw, type Router } from 'express';
import type { BringIn, Folio } from '@scriptum/core/contract';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Registers } from '../register/registers.js';
import { fromProblem, notFound } from '../refusal.js';
import type { FileToRead, JsonBytes } from '../tasks/roll-tasks.js';
import type { Rolls } from '../tasks/rolls.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { SourceRow } from '../store/entities/folio.js';
import { recordHappening } from '../store/happenings.js';
import { changedBy, findFolio } from '../store/folios.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';

export interface RollParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly registers: Registers;
  readonly rolls: Rolls;
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
  router.patch('/folios/:folioId/roll', forStaff(raw({ type: () => true, limit: PATCH_MOST })));
}

/** Bringing files in, changing the roll, having it back, saving it. */
export function rollRoutes(router: Router, { database, events, registers, rolls }: RollParts): void {
  const { manager } = database;
  const changed = async (
    schoolId: string,
    staffId: string | null,
    folioId: string,
    desk: string | null,
  ): Promise<void> => {
    await changedBy(manager, { schoolId, folioId, staffId });
    events.tell(folioId, { kind: 'roll', desk });
    registers.changed(schoolId, folioId);
  };
  const bytesOf = (body: unknown): Buffer => (Buffer.isBuffer(body) ? body : Buffer.alloc(0));

  const take = async (
    {
      schoolId,
      folioId,
      staffId,
      desk,
    }: { schoolId: string; folioId: string; staffId: string; desk: string | null },
    file: FileToRead,
    as: BringIn['as'],
    kind: string,
  ): Promise<JsonBytes<Folio>> => {
    const folio = await rolls.do('bringIn', { schoolId, folioId, file, as });
    await changed(schoolId, staffId, folioId, desk);
    await recordHappening(manager, { schoolId, staffId, folioId, kind });
    return folio;
  };

  answer(router, 'bringInSheet', async ({ request, schoolId, staffId, params, query, desk }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const bytes = bytesOf(request.body);
    if (bytes.length > SHEET_LIMITS.bytes) {
      const refused = tooLarge(bytes.length);
      if (!refused.ok) throw fromProblem(refused.problem, 413);
    }
    const blobHash = await keepBlob(manager, schoolId, bytes);
    const file = { name: query.name, blobHash, reading: query.reading ?? {}, ifSure: query.ifSure === 'yes' };
    return take({ schoolId, folioId, staffId, desk }, file, { kind: 'base' }, 'sheet-brought-in');
  });

  answer(router, 'keepFile', async ({ request, schoolId, params }) => {
    await findFolio(manager, schoolId, params['folioId']!);
    return { fileId: await keepBlob(manager, schoolId, bytesOf(request.body)) };
  });

  answer(router, 'bringIn', async ({ schoolId, staffId, params, body, desk }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const file = { name: body.name, blobHash: body.fileId, reading: body.reading };
    return take({ schoolId, folioId, staffId, desk }, file, body.as, `sheet-${body.as.kind}`);
  });

  answer(
    router,
    'patchRoll',
    async ({ request, schoolId, staffId, params, desk }) => {
      const folioId = params['folioId']!;
      await rolls.do('patchRoll', { schoolId, folioId, body: bytesOf(request.body) });
      await changed(schoolId, staffId, folioId, desk);
      return {};
    },
    { bodyAsItCame: true },
  );

  answer(router, 'takeOutSource', async ({ schoolId, staffId, params, desk }) => {
    const folioId = params['folioId']!;
    const folio = await rolls.do('takeOut', { schoolId, folioId, sourceId: params['sourceId']! });
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'source-taken-out' });
    await changed(schoolId, staffId, folioId, desk);
    return folio;
  });

  answer(router, 'goBack', async ({ schoolId, staffId, params, desk }) => {
    const folioId = params['folioId']!;
    const folio = await rolls.do('goBack', { schoolId, folioId, earlierId: params['earlierId']! });
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'roll-taken-back' });
    await changed(schoolId, staffId, folioId, desk);
    return folio;
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

  answer(router, 'rollFile', async ({ request, response, schoolId, params, query }) => {
    const base = `${request.protocol}://${request.get('host') ?? ''}`;
    const asked = { schoolId, folioId: params['folioId']!, ...query, base };
    const { title, bytes } = await rolls.do('rollFile', asked);
    response
      .attachment(`${safePart(title) || 'Roll'}.${query.kind}`)
      .type(MIME[query.kind])
      .send(Buffer.from(bytes));
  });
}
