import { safePart } from '@scriptum/core/filing';
import { letterFile, readLetterFile, withKeptPictures, type LetterPicture } from '@scriptum/core/letter-file';
import {
  allPicturesOf,
  exceptionKey,
  isTemplateKind,
  WRITING_NAMES,
  type Exception,
  type Template,
  type WritingContent,
  type WritingKind,
} from '@scriptum/core/template';
import { raw, type Router } from 'express';
import { IsNull, Not, type DataSource, type EntityManager, type FindOptionsWhere } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Registers } from '../register/registers.js';
import { checkPicture } from '../press/check-picture.js';
import { conflict, fromProblem, notFound } from '../refusal.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { WritingRow } from '../store/entities/writing.js';
import { AssetRow, EntryRow, type FolioRow } from '../store/entities/folio.js';
import { changedBy, findFolio, lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { copiedContent } from '../store/copy-writing.js';
import { addWriting, findWriting, inOneOrder, writingOf } from '../store/writings.js';
import type { Rolls } from '../tasks/rolls.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';

/** Writings of a folio that there may be, and deleted ones that are kept. */
const WRITINGS_MOST = 200;
const DELETED_MOST = 200;
/** Exceptions of a folio, which are beside these. */
const EXCEPTIONS_MOST = 500;
/** Bytes of a letter that comes as a file, with its pictures. */
const LETTER_FILE_MOST = 40 * 1024 * 1024;

/** Which things are written in a folio: adding, copying, ordering, deleting, and having back. */
export function writingListRoutes(
  router: Router,
  {
    database,
    events,
    registers,
    rolls,
  }: { database: DataSource; events: FolioEvents; registers: Registers; rolls: Rolls },
): void {
  /** Changes what is written in a folio, alone, and tells other desks, which ask for the folio anew. */
  const changing = async <T>(
    asked: {
      schoolId: string;
      staffId: string | null;
      params: Readonly<Record<string, string>>;
      desk: string | null;
    },
    change: (inside: EntityManager, folio: FolioRow) => Promise<T>,
  ): Promise<T> => {
    const { schoolId, staffId, params, desk } = asked;
    const folioId = params['folioId']!;
    const result = await inTransaction(database, async (inside) => {
      const folio = await lockFolio(inside, schoolId, folioId);
      const done = await change(inside, folio);
      await changedBy(inside, { schoolId, folioId, staffId });
      return done;
    });
    events.tell(folioId, { kind: 'roll', desk });
    registers.changed(schoolId, folioId);
    return result;
  };

  const expectRoom = async (
    inside: EntityManager,
    { id: folioId, schoolId }: FolioRow,
    added: { readonly kind: WritingKind; readonly content: WritingContent } | null = null,
  ): Promise<void> => {
    const there = { folioId, schoolId, deletedAt: IsNull() };
    if (added?.kind === 'exception') {
      if ((await inside.countBy(WritingRow, { ...there, kind: 'exception' })) >= EXCEPTIONS_MOST)
        throw conflict(
          'too-many',
          `A folio holds ${EXCEPTIONS_MOST} exceptions at most. Take one back first.`,
        );
      await expectFree(inside, { schoolId, folioId }, added.content as Exception);
    } else if ((await inside.countBy(WritingRow, { ...there, kind: Not('exception') })) >= WRITINGS_MOST)
      throw conflict('too-many', `A folio holds ${WRITINGS_MOST} texts at most. Delete one first.`);
  };

  answer(router, 'addWriting', (asked) =>
    changing(asked, async (inside, folio) => {
      await expectRoom(inside, folio, asked.body);
      const place = { schoolId: folio.schoolId, folioId: folio.id };
      return writingOf(await addWriting(inside, place, asked.body, asked.staffId));
    }),
  );

  answer(router, 'copyWriting', (asked) =>
    changing(asked, async (inside, folio) => {
      await expectRoom(inside, folio);
      const { folioId, writingId, name } = asked.body;
      const { schoolId } = folio;
      // The other folio has to be the school's own too.
      const from = await findFolio(inside, schoolId, folioId);
      const row = await findWriting(inside, { schoolId, folioId: from.id }, writingId);
      const content = await copiedContent(inside, row, from, folio, name);
      const added = await addWriting(
        inside,
        { schoolId, folioId: folio.id },
        { kind: row.kind, name, content },
        asked.staffId,
      );
      return writingOf(added);
    }),
  );

  router.post('/folios/:folioId/letter-files', forStaff(raw({ type: () => true, limit: LETTER_FILE_MOST })));
  answer(router, 'bringLetter', async (asked) => {
    const { request, schoolId } = asked;
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const { columns } = await findFolio(database.manager, schoolId, asked.params['folioId']!);
    const read = readLetterFile(bytes, columns, newId);
    if (!read.ok) throw fromProblem(read.problem);
    const mimes = new Map<string, string>();
    const kept = new Map<string, string>();
    for (const picture of read.value.pictures) {
      if (isPdf(picture.bytes)) {
        // What lies under pages is made ready anew, beside the server, as when it is brought in.
        const place = { schoolId, folioId: asked.params['folioId']! };
        const blobHash = await keepBlob(database.manager, schoolId, Buffer.from(picture.bytes));
        const { id } = await rolls.do('addGround', { ...place, blobHash, name: picture.name });
        kept.set(picture.asset, id);
        continue;
      }
      const checked = await checkPicture(Buffer.from(picture.bytes));
      if (!checked.ok) throw fromProblem(checked.problem);
      mimes.set(picture.asset, checked.value);
    }
    return changing(asked, async (inside, folio) => {
      await expectRoom(inside, folio);
      const place = { schoolId, folioId: folio.id };
      for (const { asset, name, bytes: picture } of read.value.pictures) {
        if (kept.has(asset)) continue;
        const id = newId();
        const blobHash = await keepBlob(inside, schoolId, Buffer.from(picture));
        await inside.insert(AssetRow, { ...place, id, name, mime: mimes.get(asset)!, blobHash });
        kept.set(asset, id);
      }
      const content = withKeptPictures(read.value.letter, kept);
      const name = await freeName(inside, folio, content.name);
      const added = await addWriting(
        inside,
        place,
        { kind: content.kind, content: { ...content, name } },
        asked.staffId,
      );
      return writingOf(added);
    });
  });

  answer(router, 'letterFile', async ({ response, schoolId, params }) => {
    const { manager } = database;
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const row = await findWriting(manager, { schoolId, folioId: folio.id }, params['writingId']!);
    if (!isTemplateKind(row.kind)) throw notFound('This letter');
    const letter = row.content as Template;
    const pictures: LetterPicture[] = [];
    for (const asset of new Set(allPicturesOf(letter).map(({ attrs }) => attrs.asset))) {
      const kept = await manager.findOneBy(AssetRow, { id: asset, folioId: folio.id, schoolId });
      const bytes = kept && (await readBlob(manager, schoolId, kept.blobHash));
      if (bytes) pictures.push({ asset, name: kept.name, bytes });
    }
    response
      .attachment(`${safePart(letter.name) || 'Letter'}.zip`)
      .type('application/zip')
      .send(Buffer.from(letterFile(letter, folio.columns, pictures)));
  });

  answer(router, 'orderWritings', (asked) =>
    changing(asked, async (inside, { id: folioId, schoolId }) => {
      const { kind, ids } = asked.body;
      const rows = await inside.findBy(WritingRow, {
        folioId,
        schoolId,
        kind: inOneOrder(kind),
        deletedAt: IsNull(),
      });
      const known = new Set(rows.map(({ id }) => id));
      if (ids.length !== known.size || new Set(ids).size !== known.size || !ids.every((id) => known.has(id)))
        throw conflict(
          'changed-elsewhere',
          'Another one came or went meanwhile. Nothing was moved; look at the list as it is now.',
        );
      for (const [place, id] of ids.entries()) await inside.update(WritingRow, { id, schoolId }, { place });
      return {};
    }),
  );

  answer(router, 'deleteWriting', (asked) =>
    changing(asked, async (inside, { id: folioId, schoolId }) => {
      const at = { schoolId, folioId };
      const row = await findWriting(inside, at, asked.params['writingId']!);
      const what = WRITING_NAMES[row.kind].toLowerCase();
      const isLast = async (): Promise<boolean> =>
        (await inside.countBy(WritingRow, { ...at, kind: inOneOrder(row.kind), deletedAt: IsNull() })) < 2;
      if (row.kind !== 'exception' && row.kind !== 'form' && (await isLast()))
        throw conflict('last-of-kind', `A folio needs a ${what}. Make another one first, or clear this one.`);
      const gone = { ...at, kind: row.kind === 'exception' ? row.kind : Not('exception' as const) };
      if (row.kind === 'exception') await forgetOld(inside, gone);
      else if ((await inside.countBy(WritingRow, { ...gone, deletedAt: Not(IsNull()) })) >= DELETED_MOST)
        throw conflict(
          'too-many',
          `${DELETED_MOST} deleted texts are kept. Have one back and write on it instead.`,
        );
      await inside.update(WritingRow, { id: row.id, schoolId }, { deletedAt: new Date() });
      return {};
    }),
  );

  answer(router, 'restoreWriting', (asked) =>
    changing(asked, async (inside, folio) => {
      const at = { schoolId: folio.schoolId, folioId: folio.id };
      const row = await inside.findOneBy(WritingRow, {
        ...at,
        id: asked.params['writingId']!,
        deletedAt: Not(IsNull()),
      });
      if (!row) throw notFound('What was deleted');
      await expectRoom(inside, folio, row);
      const last = await inside.maximum(WritingRow, 'place', {
        ...at,
        kind: inOneOrder(row.kind),
        deletedAt: IsNull(),
      });
      const place = (last ?? -1) + 1;
      await inside.update(WritingRow, { id: row.id, schoolId: at.schoolId }, { deletedAt: null, place });
      return writingOf({ ...row, place });
    }),
  );

  answer(router, 'deletedWritings', async ({ schoolId, params }) => {
    const folio = await findFolio(database.manager, schoolId, params['folioId']!);
    const rows = await database.manager.find(WritingRow, {
      select: { id: true, kind: true, name: true, deletedAt: true },
      where: { folioId: folio.id, schoolId, deletedAt: Not(IsNull()) },
      order: { deletedAt: 'DESC' },
    });
    return {
      writings: rows.map(({ id, kind, name, deletedAt }) => ({
        id,
        kind,
        name,
        deletedAt: deletedAt!.toISOString(),
      })),
    };
  });
}

/** One learner has one exception in a template, of the same folio. @throws Refusal */
async function expectFree(
  manager: EntityManager,
  place: { readonly schoolId: string; readonly folioId: string },
  { entryId, of }: Exception,
): Promise<void> {
  const template = await findWriting(manager, place, of);
  if (!isTemplateKind(template.kind)) throw notFound('The letter of this exception');
  if (!(await manager.existsBy(EntryRow, { ...place, id: entryId }))) throw notFound('This learner');
  const others = await manager.findBy(WritingRow, { ...place, kind: 'exception', deletedAt: IsNull() });
  const key = exceptionKey({ entryId, of });
  if (others.some(({ content }) => exceptionKey(content as Exception) === key))
    throw conflict(
      'changed-elsewhere',
      'There is an exception for this learner already, made in another window meanwhile. Look at it and go on there.',
    );
}

/** The oldest ones that were taken back go for good where there are many; those that papers were made with stay as kept versions. */
async function forgetOld(manager: EntityManager, gone: FindOptionsWhere<WritingRow>): Promise<void> {
  const old = await manager.find(WritingRow, {
    select: { id: true, schoolId: true },
    where: { ...gone, deletedAt: Not(IsNull()) },
    order: { deletedAt: 'DESC' },
    skip: DELETED_MOST - 1,
    take: 50,
  });
  for (const { id, schoolId } of old) await manager.delete(WritingRow, { id, schoolId });
}

/** ISO 32000-1, 7.5.2. */
const isPdf = (bytes: Uint8Array): boolean =>
  Buffer.from(bytes.subarray(0, 5)).toString('latin1') === '%PDF-';

/** A name that no letter of the folio has: with a number behind it where need be. */
async function freeName(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  name: string,
): Promise<string> {
  const rows = await manager.find(WritingRow, {
    select: { id: true, name: true },
    where: { folioId, schoolId, kind: inOneOrder('letter'), deletedAt: IsNull() },
  });
  const taken = new Set(rows.map((row) => row.name));
  for (let n = 1; ; n++) {
    const free = n === 1 ? name : `${name.slice(0, 190)} ${n}`;
    if (!taken.has(free)) return free;
  }
}
