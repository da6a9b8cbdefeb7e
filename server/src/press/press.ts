import { programValues } from '@scriptum/core/page';
import type { Template } from '@scriptum/core/template';
import type { DataSource } from 'typeorm';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import { notFound } from '../refusal.js';
import { giveUpClaim, Heartbeat, NOW, renewClaim, takeClaim } from '../store/claims.js';
import { isDatabaseAway } from '../store/database-away.js';
import { PressRunRow, type PaperRow } from '../store/entities/register.js';
import { keptContent } from '../store/writings.js';
import { commitPapers, endRun, RunLost, type DonePaper } from './commit-papers.js';
import type { RunRequest, StartedRun } from './plan-run.js';
import { Programs } from './programs.js';
import type { LoadedProgram, Typesetter } from './typesetter.js';
import { WaitingPapers } from './waiting-papers.js';

/** Papers that commit together, with their files: so many, or so many bytes. */
const BATCH = 48;
const BATCH_BYTES = 12 * 1024 * 1024;
/** Bytes of finished papers that may wait to be committed. */
const UNCOMMITTED_MOST = 64 * 1024 * 1024;
/** Milliseconds between two pieces of news to the desks. */
const NEWS_EVERY = 120;
/** A run that breaks off as often as this, for another reason than the database, is ended. */
const BROKEN_MOST = 5;

export interface PressOptions {
  /** Names this server process among others. */
  readonly owner: string;
  /** Milliseconds after which another server takes over what this one claimed and does not say anything about. */
  readonly term: number;
  /** Milliseconds between two looks for runs that nobody works on. */
  readonly poll: number;
  /** Writes a run and its waiting papers down. */
  readonly plan: (request: RunRequest) => Promise<StartedRun>;
}

/**
 * Presses papers: plans a run, makes its files, and takes up what a dead server or an outage of the database left. Any
 * number of servers may do so side by side: each works on the runs that it has claimed.
 */
export class Press {
  readonly programs = new Programs();
  private readonly going = new Map<string, Promise<void>>();
  private readonly brokenOff = new Map<string, number>();
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(
    private readonly database: DataSource,
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
    entryIds?: readonly string[],
  ): Promise<StartedRun> {
    const started = await this.options.plan({
      schoolId,
      folioId,
      staffId,
      ...(entryIds ? { entryIds } : {}),
    });
    if (started.run) this.go(started.run);
    return started;
  }

  /** Takes up runs that nobody works on, now and from time to time. */
  async open(): Promise<void> {
    this.timer = setInterval(() => void this.takeUp(), this.options.poll).unref();
    await this.takeUp();
  }

  /** Ends a run at once, whichever server works on it. Papers not yet made are taken out; those made stay. */
  async stop(schoolId: string, folioId: string, runId: string): Promise<void> {
    const run = await this.database.manager.findOneBy(PressRunRow, { id: runId, schoolId, folioId });
    if (!run) throw notFound('This press run');
    await endRun(this.database, run);
    this.events.tell(folioId, { kind: 'run' });
  }

  /** Resolves when this server does not work on the run any more. */
  async ended(runId: string): Promise<void> {
    await this.going.get(runId);
  }

  /** Stops after the papers at hand; another server, or the next start, goes on. */
  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearInterval(this.timer);
    await Promise.allSettled(this.going.values());
  }

  private async takeUp(): Promise<void> {
    try {
      const runs = await this.database.manager
        .createQueryBuilder(PressRunRow, 'r')
        .where(
          `r.state = 'running' AND (r.claimedUntil IS NULL OR r.claimedUntil <= ${NOW} OR r.owner = :owner)`,
          {
            owner: this.options.owner,
          },
        )
        .getMany();
      for (const run of runs) this.go(run);
    } catch (error) {
      if (!isDatabaseAway(error))
        this.log.error({ err: error }, 'unfinished press runs could not be looked for');
    }
  }

  private go(run: PressRunRow): void {
    if (this.going.has(run.id) || this.closed) return;
    const work = this.work(run)
      .then(() => void this.brokenOff.delete(run.id))
      .catch((error: unknown) => this.broke(run, error))
      .finally(() => {
        this.going.delete(run.id);
        this.events.tell(run.folioId, { kind: 'run' });
      });
    this.going.set(run.id, work);
  }

  private async broke(run: PressRunRow, error: unknown): Promise<void> {
    if (error instanceof RunLost || this.closed) return;
    this.log.error({ err: error, runId: run.id }, 'a press run broke off; it is taken up again');
    if (isDatabaseAway(error)) return;
    const times = (this.brokenOff.get(run.id) ?? 0) + 1;
    this.brokenOff.set(run.id, times);
    if (times < BROKEN_MOST) return;
    this.brokenOff.delete(run.id);
    await endRun(this.database, run, this.options.owner).catch(() => undefined);
  }

  private async work(run: PressRunRow): Promise<void> {
    const { owner, term } = this.options;
    const { manager } = this.database;
    const claim = { id: run.id, owner, state: 'running', term };
    const taken = performance.now();
    if (!(await takeClaim(manager, 'press_run', claim))) return;
    const heartbeat = new Heartbeat(taken, term, () => renewClaim(manager, 'press_run', claim));
    try {
      const whole = await this.pressAll(run, heartbeat);
      if (whole) await endRun(this.database, run, owner);
      else await giveUpClaim(manager, 'press_run', claim);
    } finally {
      heartbeat.stop();
    }
  }

  /**
   * Keeps every typesetter busy while finished papers commit in batches behind it.
   *
   * @returns false where it was left before all were made.
   */
  private async pressAll(run: PressRunRow, heartbeat: Heartbeat): Promise<boolean> {
    const papers = new WaitingPapers(this.database.manager, run);
    const programOf = this.programsOf(run);
    let done: DonePaper[] = [];
    let bytes = 0;
    let uncommitted = 0;
    let broken = false;
    let commits: Promise<void> = Promise.resolve();
    let told = 0;
    const commit = (): void => {
      const batch = done;
      const size = bytes;
      done = [];
      bytes = 0;
      commits = commits.then(async () => {
        await commitPapers(this.database, run, this.options.owner, batch);
        uncommitted -= size;
        if (Date.now() - told < NEWS_EVERY) return;
        told = Date.now();
        this.events.tell(run.folioId, { kind: 'run' });
      });
      // Awaited below; until then the lanes are told to stop.
      commits.catch(() => (broken = true));
    };
    const goesOn = (): boolean => !this.closed && !broken && heartbeat.held;
    const lane = async (): Promise<void> => {
      while (goesOn()) {
        const paper = await papers.next();
        if (!paper) return;
        const { template, program } = await programOf(paper);
        const values = programValues(template, paper.values);
        const set = await this.typesetter.paper(program, values, run.startedAt);
        done.push({ paper, set });
        const size = set.ok ? set.bytes.length : 0;
        bytes += size;
        uncommitted += size;
        if (done.length >= BATCH || bytes >= BATCH_BYTES) commit();
        if (uncommitted > UNCOMMITTED_MOST) await commits;
      }
    };
    // Two for each typesetter: one at work, one handed ahead; one more that is being fetched.
    const lanes = await Promise.allSettled(Array.from({ length: this.typesetter.workers * 2 + 1 }, lane));
    if (done.length > 0 && !broken) commit();
    await commits;
    for (const result of lanes) if (result.status === 'rejected') throw result.reason;
    return goesOn();
  }

  /** The programs of a run's papers, each made once. */
  private programsOf(run: PressRunRow): (paper: PaperRow) => Promise<ReadyTemplate> {
    const { manager } = this.database;
    const { schoolId, folioId } = run;
    const made = new Map<string, Promise<ReadyTemplate>>();
    const make = async ({ templateId, templateVersion }: PaperRow): Promise<ReadyTemplate> => {
      const template = await keptContent<'letter' | 'placed'>(manager, schoolId, templateId, templateVersion);
      return { template, program: await this.programs.load(manager, schoolId, folioId, template) };
    };
    return (paper) => {
      const key = `${paper.templateId} ${paper.templateVersion}`;
      let ready = made.get(key);
      if (!ready) made.set(key, (ready = make(paper)));
      return ready;
    };
  }
}

/** A template as it was when the run was planned, with its program. */
interface ReadyTemplate {
  readonly template: Template;
  readonly program: LoadedProgram;
}
