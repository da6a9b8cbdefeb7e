import { raw, type Router } from 'express';
import { printedFor, type PrintedValues } from '@scriptum/core/fill';
import { ALONG_MOST, columnsOfField, dressed, isBlockField, type Template } from '@scriptum/core/template';
import { forMeasuring, programValues } from '@scriptum/core/page';
import { refuse } from '@scriptum/core/table';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { fitsOfAll } from '../press/fits-of-all.js';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { fromProblem, notFound, Refusal } from '../refusal.js';
import { keepBlob } from '../store/blobs.js';
import { passwordText } from '@scriptum/core/note';
import { wordOf } from '../post/enclosing.js';
import type { Secrets } from '../post/secrets.js';
import { checkAlong } from '../post/take-file.js';
import { AssetRow, FolioRow } from '../store/entities/folio.js';
import { copyFolio } from '../store/copy-folio.js';
import { findLearners } from '../store/find-learners.js';
import { createFolio, findFolio, lockFolio } from '../store/folios.js';
import { listFolios } from '../store/list-folios.js';
import { newId } from '../store/id.js';
import { currentLetterhead } from '../store/letterheads.js';
import { inTransaction } from '../store/in-transaction.js';
import { recordHappening } from '../store/happenings.js';
import { comparedWithNow } from '../register/compare-papers.js';
import { firstPage } from '../tasks/first-page.js';
import type { Rolls } from '../tasks/rolls.js';
import { dayOfSchool, hasWorked, loadWorkedEntry } from '../roll/worked-roll.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';
import { PICTURE_MOST, sendPicture, takePicture } from './pictures.js';

/** Bytes of a PDF that can be the ground of pages: it goes out with every paper. */
const GROUND_MOST = 10 * 1024 * 1024;

/** Types of columns whose values are printed alike for everybody. */
const ALIKE: ReadonlySet<string> = new Set(['number', 'percentage', 'date', 'date-time']);

export interface FolioParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly typesetter: Typesetter;
  readonly programs: Programs;
  readonly rolls: Rolls;
  readonly secrets: Secrets;
}

export function folioRoutes(router: Router, parts: FolioParts): void {
  const { database, typesetter, programs, rolls, secrets } = parts;
  const { manager } = database;
  router.post('/folios/:folioId/assets', forStaff(raw({ type: () => true, limit: PICTURE_MOST })));
  router.post('/folios/:folioId/along', forStaff(raw({ type: () => true, limit: ALONG_MOST.bytes })));
  router.post('/folios/:folioId/grounds', forStaff(raw({ type: () => true, limit: GROUND_MOST })));

  answer(router, 'listFolios', async ({ schoolId }) => ({ folios: await listFolios(database, schoolId) }));
  answer(router, 'createFolio', async ({ schoolId, staffId, body }) => {
    const folio = await database.transaction((inside) =>
      createFolio(inside, schoolId, body.title, new Date(), staffId),
    );
    await recordHappening(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-started' });
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'getFolio', ({ schoolId, params }) =>
    rolls.do('folio', { schoolId, folioId: params['folioId']! }),
  );
  answer(router, 'renameFolio', async ({ schoolId, staffId, params, body }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await inTransaction(database, (inside) =>
      inside.update(
        FolioRow,
        { id: folio.id, schoolId },
        { title: body.title, changedAt: new Date(), changedBy: staffId },
      ),
    );
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'copyFolio', async ({ schoolId, staffId, params, body }) => {
    const copy = await inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, params['folioId']!);
      return copyFolio(inside, folio, { ...body, staffId });
    });
    await recordHappening(manager, { schoolId, staffId, folioId: copy.id, kind: 'folio-copied' });
    return (await listFolios(database, schoolId, copy.id))[0]!;
  });
  answer(router, 'archiveFolio', async ({ schoolId, staffId, params, body: { archived } }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    // Being put away is no change to it.
    await manager.update(FolioRow, { id: folio.id, schoolId }, { archivedAt: archived ? new Date() : null });
    const kind = archived ? 'folio-archived' : 'folio-taken-back';
    await recordHappening(manager, { schoolId, staffId, folioId: folio.id, kind });
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'findLearners', async ({ schoolId, query: { text } }) => ({
    learners: await findLearners(manager, schoolId, text),
  }));
  answer(router, 'folioPicture', async ({ request, response, schoolId, params, gone }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const tag = `"${await comparedWithNow(manager, folio)}"`;
    // What it is made from says whether it is the same.
    response.set({ ETag: tag, 'Cache-Control': 'private, no-cache' });
    if (request.headers['if-none-match'] === tag) {
      response.status(304).end();
      return;
    }
    const page = await firstPage(parts, folio, gone);
    if (!page) throw notFound('A paper of this folio');
    response.set(
      'Content-Security-Policy',
      "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:",
    );
    response.type('image/svg+xml').send(page);
  });
  answer(router, 'deleteFolio', async ({ schoolId, staffId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await inTransaction(database, (inside) => inside.delete(FolioRow, { id: folio.id, schoolId }));
    await recordHappening(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-deleted' });
    return {};
  });

  answer(router, 'addPicture', async ({ request, schoolId, params, query }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const kept = await takePicture(request, manager, schoolId);
    const asset = { id: newId(), schoolId, folioId: folio.id, name: query.name, ...kept };
    await manager.insert(AssetRow, asset);
    return { id: asset.id, name: asset.name, mime: asset.mime };
  });
  answer(router, 'addAlong', async ({ request, schoolId, params, query: { name } }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const mime = await checkAlong(name, bytes);
    const blobHash = await keepBlob(manager, schoolId, bytes);
    const asset = { id: newId(), schoolId, folioId: folio.id, name, mime, blobHash, along: true };
    await manager.insert(AssetRow, asset);
    return { asset: asset.id, name, bytes: bytes.length };
  });
  answer(router, 'sealPassword', async ({ schoolId, params, body }) => {
    await findFolio(manager, schoolId, params['folioId']!);
    return { sealed: secrets.seal(passwordText(body.word), wordOf(schoolId)) };
  });
  answer(router, 'addGround', async ({ request, schoolId, params, query }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    // Nothing else is kept (ISO 32000-1, 7.5.2: the head of the file).
    if (!bytes.subarray(0, 1024).includes('%PDF-')) {
      const refused = refuse('ground-damaged');
      if (!refused.ok) throw fromProblem(refused.problem);
    }
    const blobHash = await keepBlob(manager, schoolId, bytes);
    return rolls.do('addGround', { schoolId, folioId: folio.id, blobHash, name: query.name });
  });
  answer(router, 'getGround', async ({ schoolId, params }) => {
    const { folioId, groundId: id } = params;
    const row = await manager.findOneBy(AssetRow, { id: id!, folioId: folioId!, schoolId });
    if (!row?.about) throw notFound('This PDF');
    return { id: row.id, name: row.name, mime: row.mime, about: row.about };
  });
  answer(router, 'getPicture', async ({ response, schoolId, params }) => {
    const asset = await manager.findOneBy(AssetRow, {
      id: params['assetId']!,
      folioId: params['folioId']!,
      schoolId,
    });
    return sendPicture(response, manager, asset);
  });

  /** True where a template prints numbers or days, which look alike in the whole roll. */
  const looksAlike = (template: Template, { columns }: FolioRow): boolean => {
    const used = new Set(template.fields.flatMap(columnsOfField));
    return columns.some(({ id, type = 'text' }) => used.has(id) && ALIKE.has(type));
  };

  /** What is printed for an entry; only where something is worked out or compared is there work over the whole roll in it. */
  const printed = async (
    folio: FolioRow,
    template: Template,
    entryId: string,
  ): Promise<PrintedValues | null> => {
    const place = { schoolId: folio.schoolId, folioId: folio.id };
    if (hasWorked(folio) || template.fields.some(isBlockField) || looksAlike(template, folio))
      return rolls.do('printed', { ...place, template, entryId });
    const entry = await loadWorkedEntry(manager, folio, entryId);
    const day = await dayOfSchool(manager, folio.schoolId);
    return entry && printedFor(template, entry, { columns: folio.columns, day });
  };

  answer(router, 'proof', async ({ schoolId, params, body, gone }) => {
    const began = performance.now();
    const folioId = params['folioId']!;
    const folio = await findFolio(manager, schoolId, folioId);
    const letterhead = await currentLetterhead(manager, schoolId);
    const template = dressed(body.template, letterhead?.content ?? null);
    const [program, values] = await Promise.all([
      programs.load(manager, schoolId, folioId, template),
      body.entryId ? printed(folio, template, body.entryId) : null,
    ]);
    const own = await programs.own(manager, schoolId, folioId, values ?? {});
    const set = await typesetter.proof(program, programValues(template, values ?? {}), own, gone);
    if (!set.ok) throw new Refusal(422, 'typesetting', set.reason);
    return {
      pages: [...set.pages],
      blocks: [...set.blocks],
      fits: [...set.fits],
      took: performance.now() - began,
    };
  });
  answer(router, 'fits', async ({ schoolId, params, body, gone }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const letterhead = await currentLetterhead(manager, schoolId);
    const { template, boxIds } = forMeasuring(dressed(body.template, letterhead?.content ?? null));
    const [program, all] = await Promise.all([
      programs.load(manager, schoolId, folioId, template),
      rolls.do('toMeasure', { schoolId, folioId, template, templateId: body.templateId }),
    ]);
    return { boxes: await fitsOfAll(typesetter, program, boxIds, all, gone) };
  });
  answer(router, 'preflight', ({ schoolId, params }) =>
    rolls.do('preflight', { schoolId, folioId: params['folioId']! }),
  );
}
