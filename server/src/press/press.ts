import { fieldValues, programValues } from '@scriptum/core/page';
import { misfit } from '@scriptum/core/preflight';
import { dressed, placedOf, type Field, type Placed, type Template } from '@scriptum/core/template';
import type { DataSource } from 'typeorm';
import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { notFound } from '../refusal.js';
import { isDatabaseAway } from '../store/database-away.js';
import { PaperRow, PressRunRow } from '../store/entities/register.js';
import { inTransaction } from '../store/in-transaction.js';
import { letterheadAt } from '../store/letterheads.js';
import { madeFrom } from '../store/writings.js';
import { commitPapers, endRun, failSlice, type DonePaper } from './commit-papers.js';
import type { RunRequest, StartedRun } from './plan-run.js';
import { Programs } from './programs.js';
import { pressSlices } from './press-slices.js';
import type { LoadedProgram, SetPaper, SetProof, Typesetter } from './typesetter.js';

/** Bytes of finished papers of a slice that commit before the others are made. */
const BATCH_BYTES = 12 * 1024 * 1024;
/** Milliseconds between two pieces of news to the desks. */
const NEWS_EVERY = 120;
/** Milliseconds between two looks whether a run that is waited for has ended. */
const LOOK_EVERY = 250;
/** Runs whose programs are kept at hand. */
const RUNS_AT_HAND = 8;
const BROKE =
  'Pressing this paper broke off several times, for a reason that lies with Scriptum and not with the paper. Press it again; if it fails again, ask whoever looks after Scriptum to look into its log.';

export interface PressOptions {
  /** Milliseconds between two looks for runs of which nothing is left to do, or whose slices were lost. */
  readonly poll: number;
  /** Writes a run and its waiting papers down, and offers them in slices. */
  readonly plan: (request: RunRequest) => Promise<StartedRun>;
  /** Hears that a run has ended. */
  readonly ended: (place: { readonly schoolId: string; readonly folioId: string }) => Promise<void>;
  /** Lets this server look for slices now. */
  readonly wake: () => void;
}

/** Presses papers: plans runs, and makes the papers of their slices. Any number of servers do so side by side. */
export class Press implements SliceHandler {
  readonly programs = new Programs();
  private readonly atHand = new Map<string, Promise<RunAtHand>>();
  private readonly told = new LRUCache<string, number>({ max: 500 });
  private readonly seats = new LRUCache<string, pLimit.Limit>({ max: 500 });
  /** Those who wait for a run to end, to be told when one may have. */
  private waiting: (() => void)[] = [];
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly typesetter: Typesetter,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly options: PressOptions,
  ) {}

  /**
   * Plans a run for the entries, or all, and starts it. Entries whose present paper would come out the same are passed
   * over, so that asking twice makes nothing twice.
   */
  async start(
    schoolId: string,
    folioId: string,
    staffId: string | null,
    asked: Pick<RunRequest, 'entryIds' | 'only' | 'reissue'> = {},
  ): Promise<StartedRun> {
    const started = await this.options.plan({
      schoolId,
      folioId,
      staffId,
      ...asked,
    });
    if (started.run) this.options.wake();
    return started;
  }

  /** A paper that was pressed, as pictures for the screen: from the versions and values that it was made from. */
  async proofOf(
    { schoolId, folioId, paperId }: { schoolId: string; folioId: string; paperId: string },
    gone?: AbortSignal,
  ): Promise<SetProof> {
    const { manager } = this.database;
    const paper = await manager.findOneBy(PaperRow, { id: paperId, schoolId, folioId });
    const run = paper && (await manager.findOneBy(PressRunRow, { id: paper.runId, schoolId }));
    if (!paper || !run) throw notFound('This paper');
    const { template, program } = await this.programsOf(run)(paper);
    const own = await this.programs.own(manager, schoolId, folioId, paper.values);
    return this.typesetter.proof(program, programValues(template, paper.values), own, gone);
  }

  /** Looks after runs that no slice carries on, now and from time to time. */
  async open(): Promise<void> {
    this.timer = setInterval(() => void this.lookAfter(), this.options.poll).unref();
    await this.lookAfter();
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Ends a run at once, whichever servers work on it. Papers not yet made are taken out; those made stay. */
  async stop(schoolId: string, folioId: string, runId: string): Promise<void> {
    const run = await this.database.manager.findOneBy(PressRunRow, { id: runId, schoolId, folioId });
    if (!run) throw notFound('This press run');
    await endRun(this.database, this.queue, run);
    this.events.tell(folioId, { kind: 'run' });
  }

  /** Resolves when the run has ended, here or at another server. */
  async ended(runId: string): Promise<void> {
    while (await this.database.manager.existsBy(PressRunRow, { id: runId, state: 'running' }))
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, LOOK_EVERY);
        this.waiting.push(() => {
          clearTimeout(timer);
          resolve();
        });
      });
  }

  /** Keeps the typesetters busy with the papers of a slice. They commit together, large ones some at a time. */
  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const { run, readyFor } = await this.runOf(slice);
    const papers = await this.database.manager.find(PaperRow, {
      where: { sliceId: slice.id, schoolId: slice.schoolId, state: 'waiting' },
      order: { position: 'ASC', place: 'ASC', id: 'ASC' },
    });
    let done: DonePaper[] = [];
    let bytes = 0;
    let commits: Promise<void> = Promise.resolve();
    let broken = false;
    const commit = (last: boolean): void => {
      const batch = done;
      done = [];
      bytes = 0;
      commits = commits.then(() => commitPapers(this.database, this.queue, slice, batch, last));
      // Awaited below; until then the lanes are told to stop.
      commits.catch(() => (broken = true));
    };
    const make = async (paper: PaperRow): Promise<void> => {
      if (!goesOn() || broken) return;
      const { template, program } = await readyFor(paper);
      const values = programValues(template, paper.values);
      const { schoolId, folioId } = slice;
      const own = await this.programs.own(this.database.manager, schoolId, folioId, paper.values);
      const set = await this.typesetter.paper(program, values, run.startedAt, own);
      const { fields } = template;
      const placed = placedOf(template);
      // What does not fit its place leaves only once somebody has looked at it.
      const heldFor = set.ok && placed ? misfit(placed, set.fits, titlesOf(fields)) : null;
      done.push({ paper, set: withFields(set, placed, paper.values), heldFor, fields });
      bytes += set.ok ? set.bytes.length : 0;
      if (bytes < BATCH_BYTES) return;
      commit(false);
      await commits;
    };
    const inTurn = this.seatsOf(slice);
    const made = await Promise.allSettled(papers.map((paper) => inTurn(() => make(paper))));
    const whole = goesOn() && made.every(({ status }) => status === 'fulfilled');
    if (!broken) commit(whole);
    await commits;
    for (const result of made) if (result.status === 'rejected') throw result.reason;
    await this.sliceEnded(slice, run);
  }

  /**
   * Papers of a school that are at a typesetter, in the order in which their slices were taken: so one slice is made while
   * the one before it is written down. Those of other schools, and short runs, have seats of their own.
   */
  private seatsOf({ schoolId, lane }: ClaimedSlice): pLimit.Limit {
    const key = `${schoolId} ${lane}`;
    let seats = this.seats.get(key);
    // Two for each typesetter: one at work, one handed ahead; and one more that is being made ready.
    if (!seats) this.seats.set(key, (seats = pLimit(this.typesetter.workers * 2 + 1)));
    return seats;
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    await failSlice(this.database, this.queue, slice, BROKE);
    await this.sliceEnded(slice, { id: slice.jobId, schoolId: slice.schoolId, folioId: slice.folioId });
  }

  private async sliceEnded(
    slice: ClaimedSlice,
    run: Pick<PressRunRow, 'id' | 'schoolId' | 'folioId'>,
  ): Promise<void> {
    if (await this.queue.isOpen(this.database.manager, run.id)) {
      if (Date.now() - (this.told.get(run.id) ?? 0) < NEWS_EVERY) return;
      this.told.set(run.id, Date.now());
    } else {
      await endRun(this.database, this.queue, run, 'done');
      this.told.delete(run.id);
      this.atHand.delete(run.id);
      for (const resolve of this.waiting.splice(0)) resolve();
      const { schoolId, folioId } = slice;
      // Whatever comes of that, the run has ended.
      await this.options.ended({ schoolId, folioId }).catch((error: unknown) => {
        if (!isDatabaseAway(error)) this.log.error({ err: error }, 'what follows a run could not be begun');
      });
    }
    this.events.tell(slice.folioId, { kind: 'run' });
  }

  /** Runs whose last slice was done by a server that died before it could say so, and runs whose slices got lost. */
  private async lookAfter(): Promise<void> {
    try {
      const runs = await this.database.query<Pick<PressRunRow, 'id' | 'schoolId' | 'folioId'>[]>(
        `SELECT r.id, r.schoolId, r.folioId FROM press_run r WHERE r.state = 'running'
           AND NOT EXISTS (SELECT 1 FROM slice s WHERE s.jobId = r.id AND s.state IN ('queued', 'claimed'))`,
      );
      for (const run of runs) {
        if (await this.offerAgain(run)) this.options.wake();
        else await endRun(this.database, this.queue, run, 'done');
        this.events.tell(run.folioId, { kind: 'run' });
      }
    } catch (error) {
      if (!isDatabaseAway(error)) this.log.error({ err: error }, 'press runs could not be looked after');
    }
  }

  private offerAgain(run: Pick<PressRunRow, 'id' | 'schoolId' | 'folioId'>): Promise<boolean> {
    return inTransaction(this.database, async (manager) => {
      const left = await manager.query<{ id: string; size: string }[]>(
        "SELECT sliceId AS id, COUNT(*) AS size FROM paper WHERE runId = ? AND state = 'waiting' GROUP BY sliceId",
        [run.id],
      );
      const slices = pressSlices(
        run,
        left.map(({ id, size }) => ({ id, size: Number(size) })),
      );
      await this.queue.offer(manager, slices);
      return slices.length > 0;
    });
  }

  /** A run with the programs of its papers, each made once. */
  private runOf({ jobId, schoolId, folioId }: ClaimedSlice): Promise<RunAtHand> {
    let known = this.atHand.get(jobId);
    if (!known) {
      if (this.atHand.size >= RUNS_AT_HAND) this.atHand.delete(this.atHand.keys().next().value!);
      known = this.database.manager
        .findOneByOrFail(PressRunRow, { id: jobId, schoolId, folioId })
        .then((run) => ({ run, readyFor: this.programsOf(run) }));
      this.atHand.set(jobId, known);
      known.catch(() => this.atHand.delete(jobId));
    }
    return known;
  }

  private programsOf({ schoolId, folioId, letterheadVersion }: PressRunRow): RunAtHand['readyFor'] {
    const { manager } = this.database;
    const made = new Map<string, Promise<ReadyTemplate>>();
    const make = async (paper: PaperRow): Promise<ReadyTemplate> => {
      const kept = await madeFrom(manager, paper);
      const whole = dressed(kept, await letterheadAt(manager, schoolId, letterheadVersion));
      const template = await this.programs.fillingForms(manager, schoolId, folioId, whole);
      return { template, program: await this.programs.load(manager, schoolId, folioId, template) };
    };
    return (paper) => {
      const { templateId, templateVersion, exceptionId, exceptionVersion } = paper;
      const key = [templateId, templateVersion, exceptionId, exceptionVersion].join(' ');
      let ready = made.get(key);
      if (!ready) {
        made.set(key, (ready = make(paper)));
        ready.catch(() => made.delete(key));
      }
      return ready;
    };
  }
}

/** Where the form below stays one, what its fields are filled with goes along. */
function withFields(set: SetPaper, placed: Placed | null, values: PaperRow['values']): SetPaper {
  if (!set.ok || !set.laidOn || !placed?.fillable) return set;
  return { ...set, laidOn: { ...set.laidOn, fields: fieldValues(placed, values) } };
}

/** Columns as far as the template knows them: by what they were called when they were put in. */
const titlesOf = (fields: readonly Field[]): { id: string; title: string }[] =>
  fields.flatMap(({ columnId, name }) => (columnId === null ? [] : [{ id: columnId, title: name }]));

/** A template as it was when the run was planned, with its program. */
interface ReadyTemplate {
  readonly template: Template;
  readonly program: LoadedProgram;
}

interface RunAtHand {
  readonly run: PressRunRow;
  readonly readyFor: (paper: PaperRow) => Promise<ReadyTemplate>;
}
