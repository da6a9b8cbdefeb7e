import { dressed, withException, type Exception, type Template } from '@scriptum/core/template';
import { picturesPrinted } from '@scriptum/core/fill';
import type { DataSource } from 'typeorm';
import type { Logger } from 'pino';
import type { FolioEvents } from '../folio-events.js';
import type { ClaimedSlice, OfferedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { Refusal } from '../refusal.js';
import { areChecksDue, type DueCheck, type DueChecks } from '../register/checks.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { currentLetterhead } from '../store/letterheads.js';
import { findWriting } from '../store/writings.js';
import type { Programs } from './programs.js';
import type { Measured } from './typeset-task.js';
import type { LoadedProgram, Typesetter } from './typesetter.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

export interface CheckPapersOptions {
  /** The first papers of a folio of which it is not known what they come to. */
  readonly due: (place: Place) => Promise<DueChecks>;
  /** Writes down that all are known. */
  readonly end: (place: Place & { readonly checkedWith: string }) => Promise<void>;
  readonly wake: () => void;
}

/** Papers of one slice, about. */
const SOME = 240;
/** Papers that are set before what is known of them is written down. */
const AT_ONCE = 40;

/** Beside the comparing of the same folio, which is named after it. */
const sliceOf = ({ schoolId, folioId }: Place): OfferedSlice => {
  const id = `check-${folioId}`;
  return { id, kind: 'check', jobId: id, lane: 'check', size: 1, schoolId, folioId };
};

/**
 * Sets all papers that would be made now, to know how many pages they have and what does not fit, without files of them. What is
 * known of a look stays known, so only what changed is set again.
 */
export class CheckPapers implements SliceHandler {
  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly typesetter: Typesetter,
    private readonly programs: Programs,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly options: CheckPapersOptions,
  ) {}

  /** Has the papers looked at where that is due. @returns true where it is, or is going on. */
  async checkWhereDue(schoolId: string, folioId: string): Promise<boolean> {
    const { manager } = this.database;
    const folio = await findFolio(manager, schoolId, folioId);
    if (!(await areChecksDue(manager, folio))) return false;
    await inTransaction(this.database, (inside) =>
      this.queue.offer(inside, [sliceOf({ schoolId, folioId })]),
    );
    this.options.wake();
    return true;
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const place = { schoolId: slice.schoolId, folioId: slice.folioId };
    let more = false;
    try {
      const due = await this.options.due(place);
      let known = 0;
      for (let at = 0; at < due.papers.length && goesOn(); at += AT_ONCE) {
        known += await this.check(place, due, due.papers.slice(at, at + AT_ONCE));
        this.events.tell(place.folioId, { kind: 'check' });
      }
      if (!goesOn()) return;
      more = known < due.due;
      if (!more) await this.options.end({ ...place, checkedWith: due.with });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // Such as a roll that is too much to work out, or a letter that was deleted meanwhile: who asks next has it done.
    }
    await inTransaction(this.database, async (manager) => {
      await this.queue.end(manager, slice, 'done');
      // What is left waits behind what others have waited for.
      if (more) await this.queue.offer(manager, [{ ...sliceOf(place), size: SOME }]);
    });
    this.events.tell(place.folioId, { kind: 'check' });
    if (more) this.options.wake();
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    this.log.warn({ folioId: slice.folioId }, 'papers could not be looked at');
    await inTransaction(this.database, (manager) => this.queue.end(manager, slice, 'failed'));
  }

  /** @returns how many of the papers are known now. */
  private async check(place: Place, due: DueChecks, papers: readonly DueCheck[]): Promise<number> {
    const { manager } = this.database;
    const rows: unknown[][] = [];
    const at = new Date();
    const known = (one: DueCheck, { pages, fits, reason, passing }: Measured): void => {
      // The next slice sets it again.
      if (passing) return;
      const odd = fits
        .filter(({ state }) => state !== 'fits' && state !== 'shrinks')
        .map(({ box, state }) => ({ box, state }));
      const failed = reason && reason.slice(0, 1000);
      rows.push([place.folioId, one.lookHash, place.schoolId, pages, JSON.stringify(odd), failed, at]);
    };
    for (const some of bySource(papers)) {
      const program = await this.programOf(place, due, some[0]!);
      // Changed meanwhile: the next slice plans its papers anew.
      if (!program) continue;
      const [own, alone] = parted(some, ({ printed }) => picturesPrinted(printed).length > 0);
      const measured = await this.typesetter.check(
        program,
        alone.map(({ values }) => values),
      );
      alone.forEach((one, n) => known(one, measured[n]!));
      for (const one of own) {
        const pictures = await this.programs.own(manager, place.schoolId, place.folioId, one.printed);
        const [only] = await this.typesetter.check(program, [one.values], pictures);
        known(one, only!);
      }
    }
    if (rows.length > 0)
      await manager.query(
        `INSERT INTO checked_look (folioId, lookHash, schoolId, pages, fits, failed, checkedAt) VALUES ?
           ON DUPLICATE KEY UPDATE pages = VALUES(pages), fits = VALUES(fits), failed = VALUES(failed), checkedAt = VALUES(checkedAt)`,
        [rows],
      );
    return rows.length;
  }

  private async programOf(
    { schoolId, folioId }: Place,
    due: DueChecks,
    { templateId, exceptionId }: DueCheck,
  ): Promise<LoadedProgram | null> {
    const { manager } = this.database;
    const ids = [templateId, ...(exceptionId === null ? [] : [exceptionId])];
    const [common, own] = await Promise.all(ids.map((id) => findWriting(manager, { schoolId, folioId }, id)));
    const letterhead = await currentLetterhead(manager, schoolId);
    const isSame = [common!, ...(own ? [own] : [])].every(({ id, version }) => version === due.templates[id]);
    if (!isSame || (letterhead?.version ?? null) !== due.letterhead) return null;
    const now = common!.content as Template;
    const content = own ? withException(now, own.content as Exception).content : now;
    const template = dressed(content, letterhead?.content ?? null);
    return this.programs.load(manager, schoolId, folioId, template);
  }
}

/** Papers that are set from the same. */
function bySource(papers: readonly DueCheck[]): DueCheck[][] {
  const groups = new Map<string, DueCheck[]>();
  for (const paper of papers) {
    const source = paper.exceptionId ?? paper.templateId;
    groups.set(source, [...(groups.get(source) ?? []), paper]);
  }
  return [...groups.values()];
}

function parted<T>(all: readonly T[], is: (one: T) => boolean): [T[], T[]] {
  return [all.filter(is), all.filter((one) => !is(one))];
}
