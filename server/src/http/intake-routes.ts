import type { AnswerAbout, FormDoor } from '@scriptum/core/contract';
import type { Router } from 'express';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Answers } from '../intake/answers.js';
import { formAt, listDoors, publishForm } from '../intake/doors.js';
import type { AnswerLinks } from '../intake/tickets.js';
import { notFound } from '../refusal.js';
import type { Registers } from '../register/registers.js';
import { patchRoll } from '../roll/patch-roll.js';
import { readBlob } from '../store/blobs.js';
import { FormAnswerRow, FormDoorRow, FormUploadRow } from '../store/entities/intake.js';
import { HookRow } from '../store/entities/hooks.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { WritingRow } from '../store/entities/writing.js';
import { answer } from './call.js';
import { disposition } from './disposition.js';

export interface IntakeParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly registers: Registers;
  readonly answers: Answers;
  readonly editLinks: AnswerLinks;
  /** Where families find the application. */
  readonly address: () => string;
}

/** Forms and their answers, as staff see them. */
export function intakeRoutes(router: Router, parts: IntakeParts): void {
  const { database, events, registers, answers, editLinks } = parts;
  const { manager } = database;
  const doors = async (schoolId: string, folioId: string): Promise<{ doors: FormDoor[] }> => ({
    doors: await listDoors(manager, schoolId, folioId, parts.address()),
  });
  const changed = (schoolId: string, folioId: string, desk: string | null): void => {
    events.tell(folioId, { kind: 'roll', desk });
    registers.changed(schoolId, folioId);
  };

  /** What is known of an answer that another service has brought. */
  const byHook = async (row: FormAnswerRow): Promise<AnswerAbout> => ({
    writingId: row.writingId,
    form:
      (await manager.findOneBy(HookRow, { id: row.writingId, schoolId: row.schoolId }))?.name ??
      'another service',
    receivedAt: row.receivedAt.toISOString(),
    changedAt: null,
    language: row.language,
    version: row.version,
    uploads: [],
    editLink: null,
    copy: null,
  });

  answer(router, 'formDoors', ({ schoolId, params }) => doors(schoolId, params['folioId']!));
  answer(router, 'publishForm', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    await inTransaction(database, (inside) =>
      publishForm(
        inside,
        { schoolId, folioId, staffId },
        params['writingId']!,
        body.version,
        parts.address(),
      ),
    );
    // Also to the desk that asked: the roll may have other columns now.
    changed(schoolId, folioId, null);
    return doors(schoolId, folioId);
  });
  answer(router, 'openForm', async ({ schoolId, params, body: { isOpen } }) => {
    const [folioId, writingId] = [params['folioId']!, params['writingId']!];
    const { affected } = await manager.update(FormDoorRow, { schoolId, folioId, writingId }, { isOpen });
    if (!affected && !(await manager.existsBy(FormDoorRow, { schoolId, folioId, writingId })))
      throw notFound('This form');
    events.tell(folioId, { kind: 'writing', writingId, desk: null });
    return doors(schoolId, folioId);
  });
  answer(router, 'answersOf', async ({ schoolId, params }) => {
    const [folioId, entryId] = [params['folioId']!, params['entryId']!];
    await findFolio(manager, schoolId, folioId);
    const rows = await manager.find(FormAnswerRow, {
      where: { schoolId, folioId, entryId },
      order: { receivedAt: 'ASC' },
    });
    return {
      answers: await Promise.all(
        rows.map(async (row) => {
          const door = await manager.findOneBy(FormDoorRow, { schoolId, writingId: row.writingId });
          if (!door) return byHook(row);
          const [form, writing, uploads] = await Promise.all([
            formAt(manager, door),
            manager.findOneBy(WritingRow, { schoolId, id: row.writingId }),
            manager.find(FormUploadRow, {
              where: { schoolId, answerId: row.id },
              order: { broughtAt: 'ASC', id: 'ASC' },
            }),
          ]);
          return {
            writingId: row.writingId,
            form: writing?.name ?? form.name,
            receivedAt: row.receivedAt.toISOString(),
            changedAt: row.changedAt?.toISOString() ?? null,
            language: row.language,
            version: row.version,
            uploads: uploads.map(({ id, itemId, name, mime, bytes }) => ({ id, itemId, name, mime, bytes })),
            editLink:
              form.terms.mayChange && form.terms.who !== 'roll'
                ? `${parts.address()}/f/${door.token}/change/${editLinks.of(row.id)}`
                : null,
            copy:
              row.copyState && row.copyAt
                ? { state: row.copyState, at: row.copyAt.toISOString(), says: row.copySays }
                : null,
          };
        }),
      ),
    };
  });
  answer(router, 'deleteAnswer', async ({ schoolId, params, desk }) => {
    const [folioId, entryId] = [params['folioId']!, params['entryId']!];
    await inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, folioId);
      const isOwn = await answers.delete(inside, folio, entryId);
      if (isOwn) await patchRoll(inside, schoolId, folioId, { taken: [entryId] });
    });
    changed(schoolId, folioId, desk);
    return {};
  });
  answer(router, 'answerUpload', async ({ response, schoolId, params }) => {
    const there = { schoolId, folioId: params['folioId']!, id: params['uploadId']! };
    const row = await manager.findOneBy(FormUploadRow, there);
    const bytes = row && (await readBlob(manager, schoolId, row.blobHash));
    if (!row || !bytes) throw notFound('This file');
    // Strangers brought it: it is never shown as a page, whatever is in it.
    response.set('Content-Security-Policy', "sandbox; default-src 'none'");
    disposition(response, 'attachment', row.name);
    response.type(row.mime).send(bytes);
  });
}
