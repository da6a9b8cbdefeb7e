import type { Pack, PackAsked } from '@scriptum/core/contract';
import type { Logger } from 'pino';
import { In, IsNull, LessThan, Not, type DataSource, type EntityManager } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { KeptFile, Leaving } from '../ground/leaving.js';
import type { ClaimedSlice, OfferedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { WorkEnded } from '../process/process-pool.js';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { notFound, Refusal } from '../refusal.js';
import { readBlob } from '../store/blobs.js';
import { PackPartRow, PackRow, type KeptLine } from '../store/entities/packs.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { namesOf } from '../store/staff-names.js';
import { PartWriter } from './pack-files.js';
import { linesOf, readyPapers, type PackPaper, type PackRequest, type PlannedPack } from './plan-pack.js';
import { separators } from './separators.js';
import { zipPack } from './zip-pack.js';

/** Days for which packs are kept, and packs of a folio at the most; the oldest ones go. */
const KEPT_DAYS = 14;
const PACKS_MOST = 20;
/** Milliseconds between two tellings of how far one has come. */
const TELL_EVERY = 400;
/** Papers that take about as long to be joined as one takes to be pressed. */
const JOINED_FOR_ONE = 4;
const BROKE = 'Making this pack broke off several times. Ask for it again, of fewer papers.';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

export interface PackParts {
  readonly typesetter: Typesetter;
  readonly programs: Programs;
  readonly leaving: Leaving;
  /** The papers of a pack; beside the server, since it looks at a whole roll. */
  readonly plan: (request: PackRequest) => Promise<PlannedPack>;
  readonly wake: () => void;
}

const sliceOf = ({ id, schoolId, folioId, papers }: PackRow): OfferedSlice => ({
  id: `pack-${id}`,
  kind: 'pack',
  jobId: `pack-${id}`,
  lane: 'bulk',
  size: Math.max(1, Math.ceil(papers / JOINED_FOR_ONE)),
  schoolId,
  folioId,
});

/** Puts many papers together in one file, in the background. */
export class Packs implements SliceHandler {
  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly parts: PackParts,
  ) {}

  /** Has a pack made. A folio has one that grows; asking for it again makes that one anew. @throws Refusal */
  async ask(place: Place, staffId: string | null, asked: PackAsked): Promise<Pack> {
    const { papers } = await this.parts.plan({ ...place, asked });
    const row = await inTransaction(this.database, async (manager) => {
      await lockFolio(manager, place.schoolId, place.folioId);
      const there = await manager.find(PackRow, { where: place, order: { askedAt: 'ASC' } });
      const grows = there.find((one) => one.asked.kind === 'growing');
      const known = asked.kind === 'growing' ? grows : undefined;
      const next = manager.create(PackRow, {
        ...place,
        id: known?.id ?? newId(),
        asked,
        state: 'waiting',
        papers: papers.length,
        done: 0,
        pages: known?.pages ?? 0,
        bytes: known?.bytes ?? 0,
        reason: null,
        staffId,
        askedAt: new Date(),
        endedAt: known?.endedAt ?? null,
        fileId: known?.fileId ?? null,
      });
      if (known)
        await manager.update(
          PackRow,
          { id: known.id },
          { asked, state: 'waiting', done: 0, papers: papers.length },
        );
      else await manager.insert(PackRow, next);
      const old = there
        .filter((one) => one !== grows && one.endedAt)
        .slice(0, Math.max(0, there.length + 1 - PACKS_MOST));
      for (const { id } of old) await manager.delete(PackRow, { id });
      await this.queue.offer(manager, [sliceOf(next)]);
      return next;
    });
    this.events.tell(place.folioId, { kind: 'pack' });
    this.parts.wake();
    return (await describe(this.database.manager, [row]))[0]!;
  }

  /** The packs of a folio, the newest first. */
  async list(place: Place): Promise<Pack[]> {
    const { manager } = this.database;
    await findFolio(manager, place.schoolId, place.folioId);
    return describe(
      manager,
      await manager.find(PackRow, { where: place, order: { askedAt: 'DESC', id: 'ASC' } }),
    );
  }

  /** @throws Refusal `not-found` */
  async find(place: Place, packId: string): Promise<PackRow> {
    const row = await this.database.manager.findOneBy(PackRow, { ...place, id: packId });
    if (!row) throw notFound('This pack');
    return row;
  }

  /** Takes a pack away; one that is being made is left. */
  async delete(place: Place, packId: string): Promise<void> {
    const { id } = await this.find(place, packId);
    await inTransaction(this.database, async (manager) => {
      await this.queue.stop(manager, `pack-${id}`);
      await manager.delete(PackRow, { id });
    });
    this.events.tell(place.folioId, { kind: 'pack' });
  }

  /** Has a folio's growing pack made anew where papers have come or gone. */
  async growWhereDue({ schoolId, folioId }: Place): Promise<void> {
    const { manager } = this.database;
    const place = { schoolId, folioId };
    const rows = await manager.findBy(PackRow, { ...place, state: In(['done', 'failed']) });
    const row = rows.find(({ asked }) => asked.kind === 'growing');
    if (!row) return;
    const lines = await linesOf(manager, row.id);
    const ready = await readyPapers(manager, place, false);
    const there = new Set(lines.map(({ paperId }) => paperId));
    if (there.size === ready.length && ready.every(({ id }) => there.has(id))) return;
    // Nothing can be made of none, and what failed fails again as long as nothing comes or goes.
    if (ready.length === 0 || (row.state === 'failed' && row.papers === ready.length)) return;
    await inTransaction(this.database, async (inside) => {
      await inside.update(PackRow, { id: row.id }, { state: 'waiting', papers: ready.length, done: 0 });
      await this.queue.offer(inside, [sliceOf({ ...row, papers: ready.length })]);
    });
    this.events.tell(place.folioId, { kind: 'pack' });
    this.parts.wake();
  }

  /** Takes packs away that are old, and parts that nobody ended. */
  async sweep(): Promise<void> {
    const { manager } = this.database;
    const before = new Date(Date.now() - KEPT_DAYS * 86_400_000);
    const rows = await manager.findBy(PackRow, { endedAt: LessThan(before), state: Not('waiting') });
    for (const { id, asked } of rows) if (asked.kind !== 'growing') await manager.delete(PackRow, { id });
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const { schoolId, folioId } = slice;
    const place = { schoolId, folioId };
    const { manager } = this.database;
    const row = await manager.findOneBy(PackRow, { ...place, id: slice.jobId.slice('pack-'.length) });
    if (!row) {
      await inTransaction(this.database, (inside) => this.queue.end(inside, slice, 'stopped'));
      return;
    }
    await manager.update(PackRow, { id: row.id }, { state: 'making', done: 0 });
    // What an earlier try has left.
    await manager.delete(PackPartRow, {
      packId: row.id,
      fileId: row.fileId === null ? Not(IsNull()) : Not(row.fileId),
    });
    try {
      const plan = await this.parts.plan({ ...place, asked: row.asked, packId: row.id });
      const made = await this.make(row, plan, goesOn);
      if (!made || !goesOn()) return;
      await this.end(slice, row, made);
      // What came while it was made.
      if (row.asked.kind === 'growing') await this.growWhereDue(place);
    } catch (error) {
      const reason = reasonOf(error);
      if (reason === null) throw error;
      await this.fail(slice, row, reason);
    }
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    await this.fail(slice, { id: slice.jobId.slice('pack-'.length), folioId: slice.folioId }, BROKE);
  }

  private async make(row: PackRow, plan: PlannedPack, goesOn: () => boolean): Promise<Made | null> {
    const { manager } = this.database;
    const { schoolId, folioId } = row;
    const file = new PartWriter(manager, row.id, newId());
    const told = this.teller(row, plan.papers.length);
    if (row.asked.kind === 'zip') {
      await zipPack(plan, {
        fileOf: async ({ blobHash, laidOn }) => {
          const bytes = await readBlob(manager, schoolId, blobHash);
          return bytes && this.parts.leaving.whole(manager, schoolId, { bytes, laidOn });
        },
        write: (bytes) => file.write(bytes),
        done: told,
        goesOn,
      });
      if (!goesOn()) return null;
      await file.end();
      return { file, pages: 0, lines: plan.papers.map((paper) => lineOf(paper, null)) };
    }
    const sheets = await separators(manager, this.parts, { schoolId, folioId }, plan);
    const { files, places } = await this.filesOf(schoolId, plan.papers, sheets, goesOn);
    if (!goesOn()) return null;
    const { bytes, starts, pages } = await this.parts.leaving.joined(
      manager,
      schoolId,
      files,
      row.asked.fronts,
      (n) => told(places.findLastIndex((place) => place <= n) + 1),
    );
    await file.write(bytes);
    await file.end();
    return {
      file,
      pages,
      lines: plan.papers.flatMap((paper, n) =>
        paper.copies > 0 ? [lineOf(paper, starts[places[n]!]!)] : [],
      ),
    };
  }

  /** The files of a pack in their order, sheets between and copies among them; and the place of each paper's first one. */
  private async filesOf(
    schoolId: string,
    papers: readonly PackPaper[],
    sheets: ReadonlyMap<string, Buffer>,
    goesOn: () => boolean,
  ): Promise<{ files: KeptFile[]; places: number[] }> {
    const files: KeptFile[] = [];
    const places: number[] = [];
    let group: string | null = null;
    for (let at = 0; at < papers.length && goesOn();) {
      // All papers of a learner, and then all of them once more.
      const own = papers.slice(at, endOfLearner(papers, at));
      const first = own[0]!;
      if (first.group !== null && first.group !== group && own.some(({ copies }) => copies > 0)) {
        group = first.group;
        files.push({ bytes: sheets.get(group)!, laidOn: null });
      }
      const kept: KeptFile[] = [];
      for (const { blobHash, laidOn } of own) {
        const bytes = await readBlob(this.database.manager, schoolId, blobHash);
        if (!bytes) throw new Refusal(500, 'file-gone', 'The file of a paper is not there. Press it again.');
        kept.push({ bytes, laidOn });
      }
      own.forEach((_, n) => places.push(files.length + n));
      for (let n = 0; n < first.copies; n++) files.push(...kept);
      at += own.length;
    }
    return { files, places };
  }

  private teller({ id, folioId }: PackRow, most: number): (done: number) => void {
    let last = 0;
    return (done) => {
      if (Date.now() - last < TELL_EVERY) return;
      last = Date.now();
      void this.database.manager
        .update(PackRow, { id, state: 'making' }, { done: Math.min(done, most) })
        .then(() => this.events.tell(folioId, { kind: 'pack' }))
        .catch(() => undefined);
    };
  }

  private async end(
    slice: ClaimedSlice,
    { id, folioId }: PackRow,
    { file, pages, lines }: Made,
  ): Promise<void> {
    await inTransaction(this.database, async (manager) => {
      await this.queue.fence(manager, slice);
      await manager.update(
        PackRow,
        { id },
        {
          state: 'done',
          papers: lines.length,
          done: lines.length,
          pages,
          bytes: file.total,
          reason: null,
          endedAt: new Date(),
          fileId: file.fileId,
          contents: [...lines],
        },
      );
      await manager.delete(PackPartRow, { packId: id, fileId: Not(file.fileId) });
      await this.queue.end(manager, slice, 'done');
    });
    this.events.tell(folioId, { kind: 'pack' });
  }

  private async fail(
    slice: ClaimedSlice,
    { id, folioId }: Pick<PackRow, 'id' | 'folioId'>,
    reason: string,
  ): Promise<void> {
    this.log.warn({ folioId, reason }, 'a pack could not be made');
    await inTransaction(this.database, async (manager) => {
      await manager.update(
        PackRow,
        { id },
        { state: 'failed', reason: reason.slice(0, 1000), endedAt: new Date() },
      );
      await this.queue.end(manager, slice, 'failed');
    });
    this.events.tell(folioId, { kind: 'pack' });
  }
}

interface Made {
  readonly file: PartWriter;
  readonly pages: number;
  readonly lines: readonly KeptLine[];
}

const lineOf = ({ paperId, group, copies, joinedAt }: PackPaper, page: number | null): KeptLine => ({
  paperId,
  group,
  copies,
  page,
  joinedAt,
});

function endOfLearner(papers: readonly PackPaper[], from: number): number {
  const { entryId } = papers[from]!;
  let at = from;
  while (papers[at]?.entryId === entryId) at++;
  return at;
}

/** Why a pack cannot be made, for people; null where it is to be tried again. */
function reasonOf(error: unknown): string | null {
  if (error instanceof Refusal) return error.message;
  if (!(error instanceof WorkEnded)) return null;
  return error.end === 'time' || error.end === 'memory'
    ? 'These papers are too much to become one file. Choose fewer learners, or take a ZIP archive.'
    : null;
}

async function describe(manager: EntityManager, rows: readonly PackRow[]): Promise<Pack[]> {
  const [first] = rows;
  if (!first) return [];
  const names = await namesOf(
    manager,
    first.schoolId,
    rows.map(({ staffId }) => staffId),
  );
  const old = await oldPapers(manager, rows);
  return rows.map((row) => {
    const { id, asked, state, papers, done, pages, bytes, reason, staffId, askedAt, endedAt } = row;
    return {
      id,
      asked,
      state,
      papers,
      done,
      pages,
      bytes,
      reason,
      madeBy: names.get(staffId ?? '') ?? null,
      askedAt: askedAt.toISOString(),
      endedAt: endedAt?.toISOString() ?? null,
      keptUntil:
        endedAt && asked.kind !== 'growing'
          ? new Date(endedAt.getTime() + KEPT_DAYS * 86_400_000).toISOString()
          : null,
      old: old.get(id) ?? 0,
    };
  });
}

/** Papers in packs that are other ones by now, or do not count any more. */
async function oldPapers(manager: EntityManager, rows: readonly PackRow[]): Promise<Map<string, number>> {
  const made = rows.filter(({ fileId }) => fileId !== null);
  const counts = new Map<string, number>();
  if (made.length === 0) return counts;
  const { schoolId, folioId } = made[0]!;
  const gone = await manager.find(PaperRow, {
    select: { id: true },
    where: [
      { schoolId, folioId, state: In(['superseded', 'void']) },
      { schoolId, folioId, outOfDate: true, state: In(['pressed', 'cleared', 'held']) },
    ],
  });
  const ids = new Set(gone.map(({ id }) => id));
  for (const { id } of made) {
    const lines = ids.size === 0 ? [] : await linesOf(manager, id);
    counts.set(id, lines.filter(({ paperId }) => ids.has(paperId)).length);
  }
  return counts;
}
