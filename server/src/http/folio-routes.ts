import { isDeepStrictEqual } from 'node:util';
import { raw, type Router } from 'express';
import { fillFields } from '@scriptum/core/fill';
import { programValues } from '@scriptum/core/page';
import { PAPER_SIZES } from '@scriptum/core/template';
import type { Entry } from '@scriptum/core/roll';
import type { DataSource, EntityManager } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { checkPicture } from '../press/check-picture.js';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { conflict, fromProblem, notFound, Refusal } from '../refusal.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { AssetRow, FolioRow, TemplateRow } from '../store/entities/folio.js';
import { createFolio, findFolio, listFolios, lockFolio, lockTemplate, touchFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { note } from '../store/events.js';
import type { Rolls } from '../roll/rolls.js';
import { hasWorked, loadWorkedEntry } from '../roll/worked-roll.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';

const PICTURE_MOST = 10 * 1024 * 1024;

export interface FolioParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly typesetter: Typesetter;
  readonly programs: Programs;
  readonly rolls: Rolls;
}

export function folioRoutes(router: Router, { database, typesetter, programs, rolls }: FolioParts): void {
  const { manager } = database;
  router.post('/folios/:folioId/assets', forStaff(raw({ type: () => true, limit: PICTURE_MOST })));

  answer(router, 'listFolios', async ({ schoolId }) => ({ folios: await listFolios(database, schoolId) }));
  answer(router, 'createFolio', async ({ schoolId, staffId, body }) => {
    const folio = await database.transaction((inside) =>
      createFolio(inside, schoolId, body.title, new Date()),
    );
    await note(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-started' });
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'getFolio', ({ schoolId, params }) =>
    rolls.do('folio', { schoolId, folioId: params['folioId']! }),
  );
  answer(router, 'renameFolio', async ({ schoolId, params, body }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await inTransaction(database, (inside) =>
      inside.update(FolioRow, { id: folio.id, schoolId }, { title: body.title, changedAt: new Date() }),
    );
    return (await listFolios(database, schoolId, folio.id))[0]!;
  });
  answer(router, 'deleteFolio', async ({ schoolId, staffId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    await inTransaction(database, (inside) => inside.delete(FolioRow, { id: folio.id, schoolId }));
    await note(manager, { schoolId, staffId, folioId: folio.id, kind: 'folio-deleted' });
    return {};
  });

  /**
   * Writes one of the texts of a folio, where it is still of the version that was changed. The folio's row is locked
   * meanwhile, so that whatever else writes texts, such as bringing in a sheet, comes before or after.
   *
   * @param now the version and the text as they are.
   * @throws Refusal `changed-elsewhere`
   */
  const save = async (
    {
      schoolId,
      folioId,
      version,
      text,
    }: { schoolId: string; folioId: string; version: number; text: unknown },
    now: (inside: EntityManager, folio: FolioRow) => Promise<{ version: number; text: unknown }>,
    write: (inside: EntityManager, next: number) => Promise<unknown>,
  ): Promise<{ version: number }> =>
    inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, folioId);
      const kept = await now(inside, folio);
      if (kept.version !== version) {
        // Where this very save went through already and only its answer was lost, it is sent once more.
        const same =
          kept.version === version + 1 && isDeepStrictEqual(kept.text, JSON.parse(JSON.stringify(text)));
        if (same) return { version: kept.version };
        throw conflict(
          'changed-elsewhere',
          'This was changed in another window meanwhile. Reload to see that version; yours has not been saved.',
        );
      }
      await write(inside, version + 1);
      await touchFolio(inside, { id: folioId, schoolId });
      return { version: version + 1 };
    });

  answer(router, 'saveLetter', ({ schoolId, params, body }) => {
    const folioId = params['folioId']!;
    return save(
      { schoolId, folioId, version: body.version, text: body.letter },
      async (inside) => {
        const { version, letter } = await lockTemplate(inside, schoolId, folioId);
        return { version, text: letter };
      },
      (inside, version) =>
        inside.update(TemplateRow, { folioId, schoolId }, { letter: body.letter, version }),
    );
  });
  answer(router, 'saveNote', ({ schoolId, params, body }) => {
    const folioId = params['folioId']!;
    return save(
      { schoolId, folioId, version: body.version, text: body.note },
      async (_, { noteVersion, note: text }) => ({ version: noteVersion, text }),
      (inside, noteVersion) =>
        inside.update(FolioRow, { id: folioId, schoolId }, { note: body.note, noteVersion }),
    );
  });
  answer(router, 'saveFiling', ({ schoolId, params, body }) => {
    const folioId = params['folioId']!;
    return save(
      { schoolId, folioId, version: body.version, text: body.filing },
      async (_, { filingVersion, filing: text }) => ({ version: filingVersion, text }),
      (inside, filingVersion) =>
        inside.update(FolioRow, { id: folioId, schoolId }, { filing: body.filing, filingVersion }),
    );
  });

  answer(router, 'addPicture', async ({ request, schoolId, params, query }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const checked = await checkPicture(bytes);
    if (!checked.ok) throw fromProblem(checked.problem);
    const mime = checked.value;
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

  /** One entry; only where columns are worked out is there work over the whole roll in it. */
  const entryOf = (folio: FolioRow, entryId: string): Promise<Entry | null> =>
    hasWorked(folio)
      ? rolls.do('entry', { schoolId: folio.schoolId, folioId: folio.id, entryId })
      : loadWorkedEntry(manager, folio, entryId);

  answer(router, 'proof', async ({ schoolId, params, body }) => {
    const began = performance.now();
    const folioId = params['folioId']!;
    const folio = await findFolio(manager, schoolId, folioId);
    const [entry, program] = await Promise.all([
      body.entryId ? entryOf(folio, body.entryId) : null,
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
  answer(router, 'preflight', ({ schoolId, params }) =>
    rolls.do('preflight', { schoolId, folioId: params['folioId']! }),
  );
}
