import { isDeepStrictEqual } from 'node:util';
import { houseSample } from '@scriptum/core/begin';
import type { LetterheadNow } from '@scriptum/core/contract';
import { programValues } from '@scriptum/core/page';
import { dressed, type Letterhead } from '@scriptum/core/template';
import { raw, type Router } from 'express';
import { In, type DataSource, type EntityManager } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import type { Registers } from '../register/registers.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { LetterheadPictureRow, LetterheadRow } from '../store/entities/letterhead.js';
import { School } from '../store/entities/people.js';
import { recordHappening } from '../store/happenings.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { currentLetterhead } from '../store/letterheads.js';
import { namesOf } from '../store/staff-names.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';
import { PICTURE_MOST, sendPicture, takePicture } from './pictures.js';

export interface LetterheadParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly registers: Registers;
  readonly typesetter: Typesetter;
  readonly programs: Programs;
}

/** Pictures that a school may have for its letterhead. */
const PICTURES_MOST = 200;

/** The school's letterhead. */
export function letterheadRoutes(
  router: Router,
  { database, events, registers, typesetter, programs }: LetterheadParts,
): void {
  const { manager } = database;
  router.post('/letterhead/pictures', forStaff(raw({ type: () => true, limit: PICTURE_MOST })));

  answer(router, 'letterhead', ({ schoolId }) => letterheadNow(manager, schoolId));

  answer(router, 'saveLetterhead', async ({ schoolId, staffId, body }) => {
    const saved = await inTransaction(database, async (inside) => {
      // One at a time for a school.
      await inside.findOneOrFail(School, { where: { id: schoolId }, lock: { mode: 'pessimistic_write' } });
      const now = await currentLetterhead(inside, schoolId);
      const same = isDeepStrictEqual(now?.content, JSON.parse(JSON.stringify(body.letterhead)));
      // Sent once more where only the answer was lost.
      if (same) return false;
      if ((now?.version ?? 0) !== body.version)
        throw conflict(
          'changed-elsewhere',
          'The letterhead was changed in another window meanwhile. Yours is not in use. Look at theirs, then change it once more.',
        );
      await refuseUnknownPictures(inside, schoolId, body.letterhead);
      await inside.insert(LetterheadRow, {
        schoolId,
        version: body.version + 1,
        content: body.letterhead,
        changedAt: new Date(),
        changedBy: staffId,
      });
      return true;
    });
    if (saved) {
      await recordHappening(manager, { schoolId, staffId, folioId: null, kind: 'letterhead-changed' });
      for (const folioId of await foliosOn(manager, schoolId)) {
        events.tell(folioId, { kind: 'roll', desk: null });
        registers.changed(schoolId, folioId);
      }
    }
    return letterheadNow(manager, schoolId);
  });

  answer(router, 'letterheadVersions', async ({ schoolId }) => {
    const rows = await manager.find(LetterheadRow, {
      select: { schoolId: true, version: true, changedAt: true, changedBy: true },
      where: { schoolId },
      order: { version: 'DESC' },
      take: 200,
    });
    const names = await namesOf(
      manager,
      schoolId,
      rows.map(({ changedBy }) => changedBy),
    );
    return {
      versions: rows.map(({ version, changedAt, changedBy }) => ({
        version,
        changedAt: changedAt.toISOString(),
        changedBy: names.get(changedBy ?? '') ?? null,
      })),
    };
  });

  answer(router, 'letterheadVersion', async ({ schoolId, params }) => {
    const version = Number(params['version']);
    const row = Number.isInteger(version) && (await manager.findOneBy(LetterheadRow, { schoolId, version }));
    if (!row) throw notFound('This version');
    return { letterhead: row.content };
  });

  answer(router, 'letterheadProof', async ({ schoolId, body }) => {
    const began = performance.now();
    const sample = dressed(houseSample(body.letterhead, body.print), body.letterhead);
    const program = await programs.load(manager, schoolId, '', sample);
    const set = await typesetter.proof(program, programValues(sample, {}));
    if (!set.ok) throw new Refusal(422, 'typesetting', set.reason);
    return { pages: [...set.pages], blocks: [...set.blocks], fits: [], took: performance.now() - began };
  });

  answer(router, 'addLetterheadPicture', async ({ request, schoolId, query }) => {
    if ((await manager.countBy(LetterheadPictureRow, { schoolId })) >= PICTURES_MOST)
      throw conflict('too-many', `A school can have at most ${PICTURES_MOST} pictures for its letterhead.`);
    const kept = await takePicture(request, manager, schoolId);
    const picture = { id: newId(), schoolId, name: query.name, ...kept };
    await manager.insert(LetterheadPictureRow, picture);
    return { id: picture.id, name: picture.name, mime: picture.mime };
  });
  answer(router, 'letterheadPicture', async ({ response, schoolId, params }) =>
    sendPicture(
      response,
      manager,
      await manager.findOneBy(LetterheadPictureRow, { id: params['pictureId']!, schoolId }),
    ),
  );
}

async function letterheadNow(manager: EntityManager, schoolId: string): Promise<LetterheadNow> {
  const [now, pictures, folios] = await Promise.all([
    currentLetterhead(manager, schoolId),
    manager.findBy(LetterheadPictureRow, { schoolId }),
    lettersOn(manager, schoolId),
  ]);
  const names = await namesOf(manager, schoolId, [now?.changedBy ?? null]);
  return {
    version: now?.version ?? 0,
    letterhead: now?.content ?? null,
    changedAt: now?.changedAt.toISOString() ?? null,
    changedBy: names.get(now?.changedBy ?? '') ?? null,
    pictures: pictures.map(({ id, name, mime }) => ({ id, name, mime })),
    letters: folios.length,
  };
}

/** The folios of the letters that stand on the letterhead or have a sign-off of it, one for each letter. */
async function lettersOn(manager: EntityManager, schoolId: string): Promise<string[]> {
  const rows = await manager.query<{ folioId: string }[]>(
    `SELECT folioId FROM writing WHERE schoolId = ? AND kind IN ('letter', 'placed') AND deletedAt IS NULL
       AND (JSON_EXISTS(content, '$.letterhead') OR content LIKE '%"type":"signOff"%')`,
    [schoolId],
  );
  return rows.map(({ folioId }) => folioId);
}

const foliosOn = async (manager: EntityManager, schoolId: string): Promise<Set<string>> =>
  new Set(await lettersOn(manager, schoolId));

/** @throws Refusal where a picture is not the school's. */
async function refuseUnknownPictures(
  manager: EntityManager,
  schoolId: string,
  { crest, signOffs }: Letterhead,
): Promise<void> {
  const ids = new Set([crest?.asset, ...signOffs.map(({ picture }) => picture?.asset)].filter(Boolean));
  if (ids.size === 0) return;
  const known = await manager.countBy(LetterheadPictureRow, { schoolId, id: In([...ids]) });
  if (known < ids.size)
    throw new Refusal(400, 'input', 'A picture of this letterhead is gone. Put it in again.');
}
