import { programValues } from '@scriptum/core/page';
import type { Letter } from '@scriptum/core/template';
import { In, Not, type DataSource } from 'typeorm';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import { notFound } from '../refusal.js';
import { keepBlobs, sha256 } from '../store/blobs.js';
import { TemplateVersionRow } from '../store/entities/folio.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { takeNamedLock } from '../store/named-lock.js';
import { planRun, PRESENT, type StartedRun } from './plan-run.js';
import { Programs } from './programs.js';
import type { LoadedProgram, SetPaper, Typesetter } from './typesetter.js';

/** Papers that commit together, with their files. */
const BATCH = 48;
/** Waiting papers that are read at a time. */
const CHUNK = 480;
/** Milliseconds between two pieces of news to the desks. */
const NEWS_EVERY = 120;

/** Presses papers: plans a run, makes its files, and takes up again what a crash left. */
export class Press {
  readonly programs = new Programs();
  private readonly going = new Map<string, Promise<void>>();
  private readonly stopping = new Set<string>();
  private closed = false;

  constructor(
    private readonly database: DataSource,
    private readonly typesetter: Typesetter,
    private readonly events: FolioEvents,
    private readonly log: Logger,
  ) {}

  /**
   * Plans a run for the entries, or all, and starts it. Entries whose present paper would come out the same are passed
   * over, so that asking twice makes nothing twice.
   */
  async start(
    schoolId: string,
    folioId: string,
    staffId: string | null,
    entryIds?: readonly string[],
  ): Promise<StartedRun> {
    const started = await this.database.transaction((manager) =>
      planRun(manager, { schoolId, folioId, staffId, entryIds }),
    );
    if (started.run) this.go(started.run);
    return started;
  }

  /** Takes up the runs that were not finished when a server ended. */
  async resume(): Promise<number> {
    const runs = await this.database.manager.findBy(PressRunRow, { state: 'running' });
    runs.forEach((run) => this.go(run));
    return runs.length;
  }

  /** Ends a run after the papers at hand. Those not yet made are taken out; those made stay. */
  async stop(schoolId: string, folioId: string, runId: string): Promise<void> {
    const run = await this.database.manager.findOneBy(PressRunRow, { id: runId, schoolId, folioId });
    if (!run) throw notFound('This press run');
    if (run.state !== 'running') return;
    this.stopping.add(runId);
    const going = this.going.get(runId);
    if (going) await going;
    else await this.finish(run);
  }

  /** Resolves when the run that this server works on has ended. */
  async ended(runId: string): Promise<void> {
    await this.going.get(runId);
  }

  /** Stops after the papers at hand; the next start goes on. */
  async close(): Promise<void> {
    this.closed = true;
    await Promise.allSettled(this.going.values());
  }

  private go(run: PressRunRow): void {
    if (this.going.has(run.id) || this.closed) return;
    const work = this.work(run)
      .catch((error: unknown) =>
        this.log.error(
          { err: error, runId: run.id },
          'a press run broke off; the next start goes on with it',
        ),
      )
      .finally(() => {
        this.going.delete(run.id);
        this.stopping.delete(run.id);
        this.events.tell(run.folioId, { kind: 'run' });
      });
    this.going.set(run.id, work);
  }

  private async work(run: PressRunRow): Promise<void> {
    const lock = await takeNamedLock(this.database, `run-${run.id}`);
    if (!lock) return;
    try {
      const { manager } = this.database;
      const version = await manager.findOneByOrFail(TemplateVersionRow, {
        templateId: run.templateId,
        version: run.templateVersion,
        schoolId: run.schoolId,
      });
      const program = await this.programs.load(manager, run.schoolId, run.folioId, version.letter);
      let told = 0;
      while (!this.closed && !this.stopping.has(run.id)) {
        const papers = await manager.find(PaperRow, {
          where: { runId: run.id, schoolId: run.schoolId, state: 'waiting' },
          order: { position: 'ASC' },
          take: CHUNK,
        });
        if (papers.length === 0) break;
        await this.pressChunk(run, version.letter, program, papers, () => {
          if (Date.now() - told > NEWS_EVERY) {
            told = Date.now();
            this.events.tell(run.folioId, { kind: 'run' });
          }
        });
      }
      if (!this.closed) await this.finish(run);
    } finally {
      await lock.release();
    }
  }

  /** Keeps every compiler busy while finished papers commit in batches behind it. */
  private async pressChunk(
    run: PressRunRow,
    letter: Letter,
    program: LoadedProgram,
    papers: readonly PaperRow[],
    onCommit: () => void,
  ): Promise<void> {
    let next = 0;
    let done: { paper: PaperRow; set: SetPaper }[] = [];
    let commits: Promise<void> = Promise.resolve();
    const commit = (): void => {
      const batch = done;
      done = [];
      commits = commits.then(() => this.commit(run, batch)).then(onCommit);
      // Awaited below; this keeps an early failure from being reported as unhandled meanwhile.
      commits.catch(() => undefined);
    };
    const worker = async (): Promise<void> => {
      while (next < papers.length && !this.closed && !this.stopping.has(run.id)) {
        const paper = papers[next++]!;
        const set = await this.typesetter.paper(program, programValues(letter, paper.values), run.startedAt);
        done.push({ paper, set });
        if (done.length >= BATCH) commit();
      }
    };
    await Promise.all(Array.from({ length: this.typesetter.workers + 1 }, worker));
    if (done.length > 0) commit();
    await commits;
  }

  /** Files and states in one transaction: a paper is either pressed and has its file, or it is still waiting. */
  private async commit(
    run: PressRunRow,
    batch: readonly { paper: PaperRow; set: SetPaper }[],
  ): Promise<void> {
    const blobs = batch.flatMap(({ set }) => (set.ok ? [{ hash: sha256(set.bytes), bytes: set.bytes }] : []));
    const hashOf = new Map(blobs.map(({ hash, bytes }) => [bytes, hash]));
    await this.database.transaction(async (manager) => {
      await keepBlobs(manager, run.schoolId, blobs);
      const entryIds = batch.map(({ paper }) => paper.entryId);
      const earlier = {
        schoolId: run.schoolId,
        folioId: run.folioId,
        templateId: run.templateId,
        entryId: In(entryIds),
        runId: Not(run.id),
      };
      const held = new Set(
        (
          await manager.find(PaperRow, {
            select: { id: true, entryId: true },
            where: { ...earlier, state: 'held' },
          })
        ).map((paper) => paper.entryId),
      );
      const now = new Date();
      await Promise.all(
        batch.map(({ paper, set }) =>
          set.ok
            ? manager.query(
                "UPDATE paper SET state = ?, blobHash = ?, pages = ?, bytes = ?, pressedAt = ? WHERE id = ? AND state = 'waiting'",
                [
                  held.has(paper.entryId) ? 'held' : 'pressed',
                  hashOf.get(set.bytes),
                  set.pages,
                  set.bytes.length,
                  now,
                  paper.id,
                ],
              )
            : manager.query(
                "UPDATE paper SET state = 'failed', reason = ?, pressedAt = ? WHERE id = ? AND state = 'waiting'",
                [set.reason.slice(0, 1000), now, paper.id],
              ),
        ),
      );
      const replaced = batch.filter(({ set }) => set.ok).map(({ paper }) => paper.entryId);
      if (replaced.length > 0) {
        await manager.update(
          PaperRow,
          { ...earlier, entryId: In(replaced), state: In([...PRESENT, 'failed']) },
          { state: 'superseded' },
        );
      }
    });
  }

  private async finish(run: PressRunRow): Promise<void> {
    await this.database.transaction(async (manager) => {
      const taken = await manager.delete(PaperRow, {
        runId: run.id,
        schoolId: run.schoolId,
        state: 'waiting',
      });
      const state = taken.affected ? 'stopped' : 'finished';
      await manager.update(PressRunRow, { id: run.id, state: 'running' }, { state, finishedAt: new Date() });
    });
  }
}
