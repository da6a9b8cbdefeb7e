import { safePart } from '@scriptum/core/filing';
import type { Router } from 'express';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Leaving } from '../ground/leaving.js';
import type { Outbox } from '../post/outbox.js';
import { changeLink } from '../post/private-links.js';
import type { Posting } from '../post/dispatch.js';
import type { Tries } from '../post/tries.js';
import type { DropOffs } from '../drop/drop-off.js';
import type { Packs } from '../pack/packs.js';
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
import { classesOf, searchRegister } from '../register/school-register.js';
import type { Registers } from '../register/registers.js';
import { answer } from './call.js';
import { disposition } from './disposition.js';
import type { Streams } from './streams.js';

/** What of a paper its file needs. */
const WITH_FILE = { id: true, fileName: true, blobHash: true, laidOn: true, pressedAt: true } as const;

const SHEET_TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

export interface RegisterParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly press: Press;
  readonly outbox: Outbox;
  readonly registers: Registers;
  readonly packs: Packs;
  readonly drops: DropOffs;
  readonly rolls: Rolls;
  readonly leaving: Leaving;
  readonly tries: Tries;
  readonly streams: Streams;
  /** Domain of the Message-IDs. */
  /** What is known where messages are written; the address is known once it is listened to. */
  readonly posting: () => Posting;
}

export function registerRoutes(
  router: Router,
  {
    database,
    events,
    press,
    outbox,
    registers,
    packs,
    drops,
    rolls,
    leaving,
    tries,
    streams,
    posting,
  }: RegisterParts,
): void {
  const { manager } = database;
  /** What papers that may leave, or may not any more, bring with them. */
  const follow = async (place: { schoolId: string; folioId: string }): Promise<void> => {
    await packs.growWhereDue(place);
    await drops.begin(place);
  };
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
    tries.send({ schoolId, staffId: staffId!, folioId: params['folioId']!, ...body, gone }),
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
  answer(router, 'holdPapers', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const judged = await inTransaction(database, (inside) =>
      judgePapers(inside, { schoolId, folioId, staffId, ...body }),
    );
    const kind = body.hold ? 'held' : 'cleared';
    await recordHappening(manager, { schoolId, staffId, folioId, kind, count: judged.done });
    events.tell(folioId, { kind: 'run' });
    await follow({ schoolId, folioId });
    return judged;
  });
  answer(router, 'voidPapers', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const voided = await inTransaction(database, (inside) =>
      voidPapers(inside, { schoolId, folioId, staffId, ...body }),
    );
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'voided', count: voided.done });
    events.tell(folioId, { kind: 'run' });
    await follow({ schoolId, folioId });
    return voided;
  });
  answer(router, 'issueAgain', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const { run, upToDate } = await press.start(schoolId, folioId, staffId, { reissue: body });
    await recordHappening(manager, {
      schoolId,
      staffId,
      folioId,
      kind: 'issued-again',
      count: body.paperIds.length,
    });
    return { run: run && (await describeRun(manager, run)), upToDate };
  });
  answer(router, 'paperHistory', ({ schoolId, params }) =>
    paperHistory(manager, { schoolId, folioId: params['folioId']!, paperId: params['paperId']! }),
  );
  answer(router, 'registerFile', async ({ response, schoolId, params, query: { kind } }) => {
    const { title, bytes } = await rolls.do('registerFile', { schoolId, folioId: params['folioId']!, kind });
    disposition(response, 'attachment', `${safePart(title) || 'Folio'} – register.${kind}`);
    response.type(SHEET_TYPES[kind]).send(Buffer.from(bytes));
  });
  answer(router, 'schoolRegister', ({ schoolId, query }) => searchRegister(manager, schoolId, query));
  answer(router, 'schoolClasses', async ({ schoolId }) => ({ classes: await classesOf(manager, schoolId) }));
  answer(router, 'schoolRegisterFile', async ({ response, schoolId, query }) => {
    const { bytes } = await rolls.do('schoolRegisterFile', { schoolId, folioId: '', asked: query });
    disposition(response, 'attachment', `Register.${query.kind}`);
    response.type(SHEET_TYPES[query.kind]).send(Buffer.from(bytes));
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
    rolls.do('planDispatch', { schoolId, folioId: params['folioId']!, address: posting().address }),
  );
  answer(router, 'dispatch', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const queued = await rolls.do('queueDispatch', {
      schoolId,
      folioId,
      asked: { ...body, staffId },
      posting: posting(),
    });
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'dispatched', count: queued });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { queued };
  });
  answer(router, 'againPlan', ({ schoolId, params, query }) =>
    rolls.do('planAgain', { schoolId, folioId: params['folioId']!, posting: posting(), asked: query }),
  );
  answer(router, 'sendManyAgain', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const given = { schoolId, folioId, staffId, posting: posting(), asked: body };
    const queued = await rolls.do('sendManyAgain', given);
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'sent-again', count: queued });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { queued };
  });
  answer(router, 'changeLink', async ({ schoolId, staffId, params, body }) => {
    const place = { schoolId, folioId: params['folioId']!, messageId: params['messageId']! };
    const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
    await changeLink(manager, { ...place, staffId, timeZone }, body);
    await recordHappening(manager, { schoolId, staffId, folioId: place.folioId, kind: `link-${body.do}` });
    events.tell(place.folioId, { kind: 'dispatch' });
    return {};
  });
  answer(router, 'sendPapersAgain', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const queued = await rolls.do('sendPapersAgain', {
      schoolId,
      folioId,
      staffId,
      posting: posting(),
      asked: body,
    });
    await recordHappening(manager, { schoolId, staffId, folioId, kind: 'sent-again', count: queued });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { queued };
  });
  answer(router, 'tryMailAgain', async ({ schoolId }) => ({
    waiting: await outbox.tryAccountsAgain(schoolId),
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
