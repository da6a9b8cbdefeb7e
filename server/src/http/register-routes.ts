import { ZipArchive } from 'archiver';
import type { Response, Router } from 'express';
import { In, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { planDispatch, queueDispatch } from '../post/dispatch.js';
import type { Outbox } from '../post/outbox.js';
import { PRESENT } from '../press/plan-run.js';
import type { Press } from '../press/press.js';
import { notFound, Refusal } from '../refusal.js';
import { readBlob } from '../store/blobs.js';
import { PaperRow } from '../store/entities/register.js';
import { note } from '../store/events.js';
import { findFolio } from '../store/folios.js';
import { describeRun, loadRegister } from '../store/register.js';
import { answer } from './call.js';

export interface RegisterParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly press: Press;
  readonly outbox: Outbox;
  /** Domain of the Message-IDs. */
  readonly domain: string;
}

export function registerRoutes(
  router: Router,
  { database, events, press, outbox, domain }: RegisterParts,
): void {
  const { manager } = database;

  answer(router, 'startRun', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const { run, upToDate } = await press.start(schoolId, folioId, staffId, body.entryIds);
    if (run) await note(manager, { schoolId, staffId, folioId, kind: 'run-started', count: run.total });
    return { run: run && (await describeRun(manager, run)), upToDate };
  });
  answer(router, 'stopRun', async ({ schoolId, params }) => {
    await press.stop(schoolId, params['folioId']!, params['runId']!);
    return {};
  });
  answer(router, 'register', ({ schoolId, params }) => loadRegister(database, schoolId, params['folioId']!));

  answer(router, 'events', async ({ request, response, schoolId, params }) => {
    const folioId = params['folioId']!;
    await findFolio(manager, schoolId, folioId);
    response.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    });
    response.flushHeaders();
    response.write('retry: 2000\n\n');
    const stop = events.listen(folioId, (news) => response.write(`data: ${JSON.stringify(news)}\n\n`));
    const pulse = setInterval(() => response.write(': still here\n\n'), 20_000);
    request.on('close', () => {
      stop();
      clearInterval(pulse);
    });
  });

  answer(router, 'paperFile', async ({ response, schoolId, params, query }) => {
    const paper = await manager.findOneBy(PaperRow, {
      id: params['paperId']!,
      folioId: params['folioId']!,
      schoolId,
    });
    const bytes = paper?.blobHash && (await readBlob(manager, schoolId, paper.blobHash));
    if (!paper || !bytes) throw notFound('This paper');
    disposition(response, query.download ? 'attachment' : 'inline', paper.fileName.split('/').at(-1)!);
    response.type('application/pdf').send(bytes);
  });
  answer(router, 'allFiles', async ({ response, schoolId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const papers = await manager.find(PaperRow, {
      where: { folioId: folio.id, schoolId, state: In([...PRESENT]) },
      order: { position: 'ASC' },
    });
    if (papers.length === 0)
      throw new Refusal(404, 'no-papers', 'There are no papers to download yet. Press them first.');
    disposition(response, 'attachment', `${folio.title}.zip`);
    response.type('application/zip');
    const zip = new ZipArchive({ zlib: { level: 1 } });
    zip.on('error', (error) => response.destroy(error));
    zip.pipe(response);
    const taken = new Set<string>();
    for (const paper of papers) {
      const bytes = paper.blobHash && (await readBlob(manager, schoolId, paper.blobHash));
      // Papers from different runs can share a name; both go in.
      let name = paper.fileName;
      for (let n = 2; taken.has(name.toLowerCase()); n++)
        name = paper.fileName.replace(/\.pdf$/, ` (${n}).pdf`);
      taken.add(name.toLowerCase());
      if (bytes) zip.append(bytes, { name, date: paper.pressedAt ?? new Date() });
    }
    await zip.finalize();
  });
  answer(router, 'holdPapers', async ({ schoolId, params, body }) => {
    const where = { schoolId, folioId: params['folioId']!, id: In(body.paperIds) };
    await manager.update(
      PaperRow,
      { ...where, state: In(body.hold ? ['pressed', 'cleared'] : ['held']) },
      { state: body.hold ? 'held' : 'cleared' },
    );
    events.tell(params['folioId']!, { kind: 'run' });
    return {};
  });

  answer(router, 'dispatchPlan', ({ schoolId, params }) =>
    planDispatch(manager, schoolId, params['folioId']!),
  );
  answer(router, 'dispatch', async ({ schoolId, staffId, params, body }) => {
    const folioId = params['folioId']!;
    const queued = await database.transaction((inside) =>
      queueDispatch(inside, schoolId, folioId, body, domain),
    );
    await note(manager, { schoolId, staffId, folioId, kind: 'dispatched', count: queued });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { queued };
  });
  answer(router, 'sendAgain', async ({ schoolId, staffId, params }) => {
    await outbox.again(schoolId, params['folioId']!, params['messageId']!);
    await note(manager, { schoolId, staffId, folioId: params['folioId']!, kind: 'sent-again', count: 1 });
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
