import { safePart } from '@scriptum/core/filing';
import { once } from 'node:events';
import { ZipArchive } from 'archiver';
import type { Response, Router } from 'express';
import { In, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { KeptFile, Leaving } from '../ground/leaving.js';
import type { Outbox } from '../post/outbox.js';
import type { Tries } from '../post/tries.js';
import { PRESENT } from '../register/present-papers.js';
import type { Press } from '../press/press.js';
import { notFound, Refusal } from '../refusal.js';
import { readBlob } from '../store/blobs.js';
import { School } from '../store/entities/people.js';
import { PaperRow } from '../store/entities/register.js';
import { recordHappening } from '../store/happenings.js';
import { findFolio } from '../store/folios.js';
import type { Rolls } from '../tasks/rolls.js';
import { inTransaction } from '../store/in-transaction.js';
import { clearingOf, judgePapers } from '../register/judge-papers.js';
import { paperHistory } from '../register/paper-history.js';
import { voidPapers } from '../register/void-papers.js';
import { listRuns } from '../register/list-runs.js';
import { describeRun, loadRegister } from '../register/register.js';
import type { Registers } from '../register/registers.js';
import { answer } from './call.js';
import type { Streams } from './streams.js';

/** What of a paper its file needs. */
const WITH_FILE = { id: true, fileName: true, blobHash: true, laidOn: true, pressedAt: true } as const;

const SHEET_TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

/** States of papers that are printed; out of date ones are not. */
const PRINTED = PRESENT.filter((state) => state !== 'held');
/** Papers of one print pack, and bytes of all of them together, at the most. */
const PACK_MOST = 2_000;
const PACK_BYTES = 200 * 1024 * 1024;

export interface RegisterParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly press: Press;
  readonly outbox: Outbox;
  readonly registers: Registers;
  readonly rolls: Rolls;
  readonly leaving: Leaving;
  readonly tries: Tries;
  readonly streams: Streams;
  /** Domain of the Message-IDs. */
  readonly domain: string;
}

export function registerRoutes(
  router: Router,
  { database, events, press, outbox, registers, rolls, leaving, tries, streams, domain }: RegisterParts,
): void {
  const { manager } = database;
  /** A paper's file as it leaves; null where there is none. */
  const fileOf = async (schoolId: string, { blobHash, laidOn }: PaperRow): Promise<Buffer | null> => {
    const bytes = blobHash && (await readBlob(manager, schoolId, blobHash));
    return bytes ? leaving.whole(manager, schoolId, { bytes, laidOn: laidOn ?? null }) : null;
  };

  answer(router, 'startRun', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const { run, upToDate } = await press.start(schoolId, folioId, staffId, body);
    if (run)
      await recordHappening(manager, { schoolId, staffId, folioId, kind: 'run-started', count: run.total });
    return { run: run && (await describeRun(manager, run)), upToDate };
  });
  answer(router, 'runs', async ({ schoolId, params }) => {
    const { id } = await findFolio(manager, schoolId, params['folioId']!);
    return { runs: await listRuns(manager, schoolId, id) };
  });
  answer(router, 'tryPapers', ({ schoolId, staffId, params, body, gone }) =>
    tries.send({ schoolId, staffId: staffId!, folioId: params['folioId']!, entryIds: body.entryIds, gone }),
  );
  answer(router, 'stopRun', async ({ schoolId, params }) => {
    await press.stop(schoolId, params['folioId']!, params['runId']!);
    return {};
  });
  answer(router, 'register', async ({ schoolId, params, query: { since } }) => {
    const folioId = params['folioId']!;
    const comparing = await registers.compareWhereDue(schoolId, folioId);
    if (since === undefined) return rolls.do('register', { schoolId, folioId, comparing });
    return { ...(await loadRegister(manager, { schoolId, folioId, since })), comparing };
  });

  answer(router, 'events', async ({ request, response, schoolId, params }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    const send = streams.begin(request, response, () => stop());
    const stop = events.listen(folioId, send);
  });

  answer(router, 'paperFile', async ({ response, schoolId, params, query }) => {
    const paper = await manager.findOne(PaperRow, {
      select: WITH_FILE,
      where: { id: params['paperId']!, folioId: params['folioId']!, schoolId },
    });
    const bytes = paper && (await fileOf(schoolId, paper));
    if (!paper || !bytes) throw notFound('This paper');
    disposition(response, query.download ? 'attachment' : 'inline', paper.fileName.split('/').at(-1)!);
    response.type('application/pdf').send(bytes);
  });
  answer(router, 'allFiles', async ({ response, schoolId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const papers = await manager.find(PaperRow, {
      select: WITH_FILE,
      where: { folioId: folio.id, schoolId, state: In([...PRESENT]) },
      order: { position: 'ASC' },
    });
    if (papers.length === 0)
      throw new Refusal(404, 'no-papers', 'There are no papers to download yet. Press them first.');
    disposition(response, 'attachment', `${safePart(folio.title) || 'Papers'}.zip`);
    response.type('application/zip');
    const zip = new ZipArchive({ zlib: { level: 1 } });
    zip.on('error', (error) => response.destroy(error));
    const closed = once(response, 'close').then(() => zip.abort());
    zip.pipe(response);
    const taken = new Set<string>();
    for (const paper of papers) {
      const bytes = await fileOf(schoolId, paper);
      // Papers from different runs can share a name; both go in.
      let name = paper.fileName;
      for (let n = 2; taken.has(name.toLowerCase()); n++)
        name = paper.fileName.replace(/\.pdf$/, ` (${n}).pdf`);
      taken.add(name.toLowerCase());
      if (!bytes) continue;
      // One after the other, so that a slow line does not fill the memory with papers.
      const packed = once(zip, 'entry');
      zip.append(bytes, { name, date: paper.pressedAt ?? new Date() });
      await Promise.race([packed, closed]);
      if (response.destroyed) return;
    }
    await zip.finalize();
  });
  answer(router, 'printPack', async ({ response, schoolId, params, query, gone }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    // What may not be mailed is not printed either: neither what is held, nor what is out of date or not cleared where it has to be.
    const wanted = await clearingOf(manager, schoolId);
    const printed = wanted === 'free' ? PRINTED : PRINTED.filter((state) => state !== 'pressed');
    const papers = await manager.find(PaperRow, {
      select: { ...WITH_FILE, bytes: true },
      where: [
        { folioId: folio.id, schoolId, state: In(printed), outOfDate: false },
        { folioId: folio.id, schoolId, state: 'dispatched' },
      ],
      order: { position: 'ASC', place: 'ASC' },
    });
    if (papers.length === 0)
      throw new Refusal(
        404,
        'no-papers',
        'There are no papers to print. Press them first, and clear those that are held or have to be cleared.',
      );
    if (papers.length > PACK_MOST)
      throw new Refusal(
        422,
        'pack-large',
        `These are ${papers.length.toLocaleString('en')} papers; at most ${PACK_MOST.toLocaleString('en')} can be printed in one go. Download all as a ZIP archive instead.`,
      );
    const files: KeptFile[] = [];
    let size = 0;
    for (const { blobHash, laidOn } of papers) {
      const bytes = blobHash && (await readBlob(manager, schoolId, blobHash));
      if (bytes) files.push({ bytes, laidOn: laidOn ?? null });
      size += bytes?.length ?? 0;
      if (size > PACK_BYTES)
        throw new Refusal(
          422,
          'pack-large',
          'These papers are too large to be printed in one go. Download all as a ZIP archive instead.',
        );
    }
    const pack = await leaving.joined(manager, schoolId, files, query.fronts === 'yes', gone);
    disposition(response, 'inline', `${safePart(folio.title) || 'Papers'}.pdf`);
    response.type('application/pdf').send(pack);
  });
  answer(router, 'holdPapers', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const judged = await inTransaction(database, (inside) =>
      judgePapers(inside, { schoolId, folioId, staffId, ...body }),
    );
    const kind = body.hold ? 'held' : 'cleared';
    await recordHappening(manager, { schoolId, staffId, folioId, kind, count: judged.done });
    events.tell(folioId, { kind: 'run' });
    return judged;
  });
  answer(router, 'voidPapers', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const voided = await inTransaction(database, (inside) =>
      voidPapers(inside, { schoolId, folioId, staffId, ...body }),
    );
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'voided', count: voided.done });
    events.tell(folioId, { kind: 'run' });
    return voided;
  });
  answer(router, 'paperHistory', ({ schoolId, params }) =>
    paperHistory(manager, { schoolId, folioId: params['folioId']!, paperId: params['paperId']! }),
  );
  answer(router, 'registerFile', async ({ response, schoolId, params, query: { kind } }) => {
    const { title, bytes } = await rolls.do('registerFile', { schoolId, folioId: params['folioId']!, kind });
    disposition(response, 'attachment', `${safePart(title) || 'Folio'} – register.${kind}`);
    response.type(SHEET_TYPES[kind]).send(Buffer.from(bytes));
  });
  answer(router, 'paperProof', async ({ schoolId, params, gone }) => {
    const began = performance.now();
    const place = { schoolId, folioId: params['folioId']!, paperId: params['paperId']! };
    const set = await press.proofOf(place, gone);
    if (!set.ok) throw new Refusal(422, 'typesetting', set.reason);
    return { pages: [...set.pages], blocks: [], fits: [], took: performance.now() - began };
  });
  answer(router, 'wishes', async ({ schoolId }) => ({ clearing: await clearingOf(manager, schoolId) }));
  answer(router, 'setWishes', async ({ schoolId, staffId, body: { clearing } }) => {
    await manager.update(School, { id: schoolId }, { clearing });
    await recordHappening(manager, { schoolId, staffId, folioId: null, kind: `clearing-${clearing}` });
    return { clearing };
  });

  answer(router, 'dispatchPlan', ({ schoolId, params }) =>
    rolls.do('planDispatch', { schoolId, folioId: params['folioId']! }),
  );
  answer(router, 'dispatch', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const queued = await rolls.do('queueDispatch', {
      schoolId,
      folioId,
      asked: { ...body, staffId },
      domain,
    });
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'dispatched', count: queued });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { queued };
  });
  answer(router, 'tryMailAgain', async ({ schoolId }) => ({
    waiting: await outbox.tryAccountAgain(schoolId),
  }));
  answer(router, 'sendAgain', async ({ schoolId, staffId, params }) => {
    await outbox.again(schoolId, params['folioId']!, params['messageId']!);
    await recordHappening(manager, {
      schoolId,
      staffId,
      folioId: params['folioId']!,
      kind: 'sent-again',
      count: 1,
    });
    events.tell(params['folioId']!, { kind: 'dispatch' });
    return {};
  });
}

/** Content-Disposition with any file name (RFC 6266; RFC 8187 for what is not ASCII). */
export function disposition(response: Response, kind: 'inline' | 'attachment', name: string): void {
  response.attachment(name);
  if (kind === 'inline')
    response.set(
      'Content-Disposition',
      String(response.get('Content-Disposition')).replace(/^attachment/, 'inline'),
    );
}
