import { isDeepStrictEqual } from 'node:util';
import type { KeptVersion } from '@scriptum/core/contract';
import { exceptionKey, WRITING_NAMES, type Exception } from '@scriptum/core/template';
import type { Router } from 'express';
import { IsNull, Not, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Registers } from '../register/registers.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { WritingVersionRow } from '../store/entities/writing.js';
import { changedBy, lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { namesOf } from '../store/staff-names.js';
import { changeWriting, findWriting, writingOf } from '../store/writings.js';
import { answer } from './call.js';

/** Named versions of a writing that there may be. */
const NAMED_MOST = 100;

/** What people write in a folio: one set of operations for all kinds. */
export function writingRoutes(
  router: Router,
  { database, events, registers }: { database: DataSource; events: FolioEvents; registers: Registers },
): void {
  const { manager } = database;
  const place = (schoolId: string, params: Readonly<Record<string, string>>) => ({
    schoolId,
    folioId: params['folioId']!,
  });

  answer(router, 'getWriting', async ({ schoolId, params }) => {
    const row = await findWriting(manager, place(schoolId, params), params['writingId']!);
    const names = await namesOf(manager, schoolId, [row.changedBy]);
    return {
      writing: writingOf(row),
      changedAt: row.changedAt.toISOString(),
      changedBy: names.get(row.changedBy ?? '') ?? null,
    };
  });

  /**
   * Saves where the writing is still of the version that was changed. The folio's row is locked meanwhile, so that whatever
   * else writes texts, such as bringing in a sheet, comes before or after.
   */
  answer(router, 'saveWriting', async ({ schoolId, staffId, params, body, desk }) => {
    const saved = await inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, params['folioId']!);
      const row = await findWriting(inside, { schoolId, folioId: folio.id }, params['writingId']!);
      if (row.kind !== body.kind)
        throw new Refusal(
          400,
          'input',
          `This is a ${WRITING_NAMES[row.kind].toLowerCase()}, and cannot become another kind of text.`,
        );
      if (
        row.kind === 'exception' &&
        exceptionKey(row.content as Exception) !== exceptionKey(body.content as Exception)
      )
        throw new Refusal(400, 'input', 'An exception stays with its learner and its letter.');
      const now = (version: number) => ({ folioId: folio.id, writingId: row.id, version });
      if (row.version !== body.version) {
        // Where this very save went through already and only its answer was lost, it is sent once more.
        const same =
          row.version === body.version + 1 &&
          isDeepStrictEqual(row.content, JSON.parse(JSON.stringify(body.content)));
        if (same) return now(row.version);
        throw conflict(
          'changed-elsewhere',
          'This was changed in another window meanwhile. Yours has not been saved.',
        );
      }
      await changeWriting(inside, row, { content: body.content, name: body.name, staffId });
      await changedBy(inside, { schoolId, folioId: folio.id, staffId });
      return now(row.version + 1);
    });
    events.tell(saved.folioId, { kind: 'writing', writingId: saved.writingId, desk });
    registers.changed(schoolId, saved.folioId);
    return saved;
  });

  answer(router, 'keptVersions', async ({ schoolId, params }) => {
    const { id: writingId } = await findWriting(manager, place(schoolId, params), params['writingId']!);
    const rows = await manager.find(WritingVersionRow, {
      select: { id: true, version: true, name: true, keptAt: true, keptBy: true },
      where: { writingId, schoolId },
      order: { keptAt: 'DESC', version: 'DESC' },
    });
    const names = await namesOf(
      manager,
      schoolId,
      rows.map(({ keptBy }) => keptBy),
    );
    return { versions: rows.map((row) => keptOf(row, names)) };
  });

  answer(router, 'keepVersion', ({ schoolId, staffId, params, body }) =>
    inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, params['folioId']!);
      const row = await findWriting(inside, { schoolId, folioId: folio.id }, params['writingId']!);
      if (body.copy && body.copy.kind !== row.kind)
        throw new Refusal(
          400,
          'input',
          'A copy has to be of the same kind as the text that it is kept with.',
        );
      const kept = { writingId: row.id, schoolId };
      if ((await inside.countBy(WritingVersionRow, { ...kept, name: Not(IsNull()) })) >= NAMED_MOST)
        throw conflict('too-many', `At most ${NAMED_MOST} versions of a text can have a name.`);
      const version = body.copy ? null : row.version;
      const known = version && (await inside.findOneBy(WritingVersionRow, { ...kept, version }));
      const next = inside.create(WritingVersionRow, {
        ...kept,
        id: known ? known.id : newId(),
        version,
        name: body.name,
        content: body.copy ? body.copy.content : row.content,
        keptAt: known ? known.keptAt : new Date(),
        keptBy: staffId,
      });
      if (known) await inside.update(WritingVersionRow, { id: known.id, schoolId }, { name: body.name });
      else await inside.insert(WritingVersionRow, next);
      return keptOf(next, await namesOf(inside, schoolId, [staffId]));
    }),
  );

  answer(router, 'keptVersion', async ({ schoolId, params }) => {
    const writing = await findWriting(manager, place(schoolId, params), params['writingId']!);
    const row = await manager.findOneBy(WritingVersionRow, {
      id: params['versionId']!,
      writingId: writing.id,
      schoolId,
    });
    if (!row) throw notFound('This version');
    const { id, kind, name, place: order } = writing;
    return {
      id,
      kind,
      name: row.name ?? name,
      place: order,
      version: row.version ?? 0,
      content: row.content,
    } as never;
  });
}

function keptOf(row: WritingVersionRow, names: ReadonlyMap<string, string>): KeptVersion {
  return {
    id: row.id,
    version: row.version,
    name: row.name,
    keptAt: row.keptAt.toISOString(),
    keptBy: names.get(row.keptBy ?? '') ?? null,
  };
}
