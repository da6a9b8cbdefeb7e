import type { DropOff, DropPlace } from '@scriptum/core/contract';
import path from 'node:path';
import type { Logger } from 'pino';
import { In, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Leaving } from '../ground/leaving.js';
import { SliceLost, type ClaimedSlice, type OfferedSlice, type SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import { readyPapers } from '../pack/plan-pack.js';
import { Refusal } from '../refusal.js';
import { readBlob, sha256 } from '../store/blobs.js';
import { DropOffRow, DroppedRow } from '../store/entities/drop-off.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { nextRevision } from '../store/register-state.js';
import { FolderShelf } from './folder-shelf.js';
import { PRACTICE_SHELF } from './practice-shelf.js';
import { ShelfFault, type Shelf } from './shelf.js';
import { WebDavShelf } from './webdav-shelf.js';

/** Papers that are put there before what was done is told. */
const AT_ONCE = 20;

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

export interface DropOffParts {
  readonly leaving: Leaving;
  /** The folder below which each school has one of its own. */
  readonly root: string;
  /** Where WebDAV addresses may lead, such as `https://files.school.example`. */
  readonly origins: readonly string[];
  /** The practice shelf's address, where there is one. */
  readonly practice: string | null;
  readonly wake: () => void;
}

const sliceOf = ({ schoolId, folioId }: Place): OfferedSlice => ({
  id: `drop-${folioId}`,
  kind: 'drop',
  jobId: `drop-${folioId}`,
  lane: 'upkeep',
  size: 1,
  schoolId,
  folioId,
});

/**
 * Puts papers that may leave as files into a folder or to a WebDAV address, each once; a newer one in the place of the one before it. What
 * others have put there stays.
 */
export class DropOffs implements SliceHandler {
  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly events: FolioEvents,
    private readonly log: Logger,
    private readonly parts: DropOffParts,
  ) {}

  async about({ schoolId, folioId }: Place): Promise<DropOff> {
    const { manager } = this.database;
    await findFolio(manager, schoolId, folioId);
    const row = await manager.findOneBy(DropOffRow, { folioId, schoolId });
    const [ready, dropped] = await Promise.all([
      readyPapers(manager, { schoolId, folioId }, false),
      manager.findBy(DroppedRow, { folioId, schoolId }),
    ]);
    const there = new Set(dropped.map(({ paperId }) => paperId));
    const { origins, practice } = this.parts;
    return {
      place: row && told(row.place),
      there: there.size,
      waiting: row ? ready.filter(({ id, blobHash }) => blobHash !== null && !there.has(id)).length : 0,
      fault: row?.fault ?? null,
      checkedAt: row?.checkedAt?.toISOString() ?? null,
      origins: [...origins],
      practice: practice === null ? null : { url: practice, ...PRACTICE_SHELF },
    };
  }

  /** Says where papers go from now on. What lies elsewhere stays there. @throws Refusal */
  async set({ schoolId, folioId }: Place, place: DropPlace): Promise<void> {
    if (place.kind === 'webdav' && !this.mayGoTo(place.url)) {
      const allowed = this.parts.origins.join(', ');
      throw new Refusal(
        422,
        'not-allowed',
        `Papers may not go to this address. ${allowed ? `Allowed are: ${allowed}.` : 'None is allowed yet.'} Whoever looks after Scriptum can allow others (SCRIPTUM_WEBDAV).`,
      );
    }
    await inTransaction(this.database, async (manager) => {
      await lockFolio(manager, schoolId, folioId);
      const before = await manager.findOneBy(DropOffRow, { folioId, schoolId });
      const next = withPassword(place, before?.place);
      if (before && whereOf(before.place) !== whereOf(next))
        await manager.delete(DroppedRow, { folioId, schoolId });
      await manager.save(DropOffRow, { folioId, schoolId, place: next, fault: null, checkedAt: null });
    });
    await this.begin({ schoolId, folioId });
  }

  /** Papers go nowhere any more; those that lie there stay. */
  async end({ schoolId, folioId }: Place): Promise<void> {
    await inTransaction(this.database, async (manager) => {
      await lockFolio(manager, schoolId, folioId);
      await manager.delete(DropOffRow, { folioId, schoolId });
      await manager.delete(DroppedRow, { folioId, schoolId });
      await this.queue.stop(manager, `drop-${folioId}`);
    });
    this.events.tell(folioId, { kind: 'pack' });
  }

  /** Puts there what is to be there, where the folio has a place for it. */
  async begin({ schoolId, folioId }: Place): Promise<void> {
    if (!(await this.database.manager.existsBy(DropOffRow, { folioId, schoolId }))) return;
    await inTransaction(this.database, (manager) =>
      this.queue.offer(manager, [sliceOf({ schoolId, folioId })]),
    );
    this.parts.wake();
  }

  /** What could not be put there is tried again. */
  async sweep(): Promise<void> {
    const rows = await this.database.manager.find(DropOffRow, {
      select: { folioId: true, schoolId: true, fault: true },
    });
    for (const row of rows) if (row.fault !== null) await this.begin(row);
  }

  async work(slice: ClaimedSlice, goesOn: () => boolean): Promise<void> {
    const place = { schoolId: slice.schoolId, folioId: slice.folioId };
    const { manager } = this.database;
    const row = await manager.findOneBy(DropOffRow, place);
    let fault: string | null = null;
    try {
      if (row) await this.bringIntoLine(place, row.place, goesOn);
    } catch (error) {
      if (!(error instanceof ShelfFault)) throw error;
      fault = error.message.slice(0, 1000);
      this.log.warn({ folioId: place.folioId, fault }, 'papers could not be dropped off');
    }
    if (!goesOn()) return;
    await inTransaction(this.database, async (inside) => {
      await inside.update(DropOffRow, place, { fault, checkedAt: new Date() });
      await this.queue.end(inside, slice, fault === null ? 'done' : 'failed');
    });
    this.events.tell(place.folioId, { kind: 'pack' });
    // What came meanwhile.
    if (fault === null && row && (await this.hasMore(place))) await this.begin(place);
  }

  async giveUp(slice: ClaimedSlice): Promise<void> {
    const place = { schoolId: slice.schoolId, folioId: slice.folioId };
    await inTransaction(this.database, async (manager) => {
      const fault = 'Putting papers there broke off several times. It is tried again by itself.';
      await manager.update(DropOffRow, place, { fault, checkedAt: new Date() });
      await this.queue.end(manager, slice, 'failed');
    });
  }

  private async bringIntoLine(place: Place, to: DropPlace, goesOn: () => boolean): Promise<void> {
    const shelf = this.shelfOf(place, to);
    const { manager } = this.database;
    const dropped = new Map((await manager.findBy(DroppedRow, place)).map((one) => [one.paperId, one]));
    const ready = (await readyPapers(manager, place, false)).filter(({ blobHash }) => blobHash !== null);
    const gone = await this.outOfUse(place, [...dropped.keys()]);
    // Where something of ours lies: a newer paper takes the place of the one before it.
    const ours = new Map([...dropped.values()].map((one) => [one.path.toLowerCase(), one]));
    let told = 0;
    for (const paper of ready) {
      if (!goesOn()) return;
      if (dropped.has(paper.id)) continue;
      const kept = await readBlob(manager, place.schoolId, paper.blobHash!);
      if (!kept) throw new ShelfFault('The file of a paper is not there. Press it again.');
      const bytes = await this.parts.leaving.whole(manager, place.schoolId, {
        bytes: kept,
        laidOn: paper.laidOn ?? null,
      });
      const hash = sha256(bytes);
      const { path: file, lies } = await freePlace(shelf, paper.fileName, ours, gone, hash);
      if (!lies) await shelf.put(file, bytes);
      const before = ours.get(file.toLowerCase());
      if (before) await this.forget(place, before.paperId);
      const row = { ...place, paperId: paper.id, path: file, hash, at: new Date() };
      await this.remember(row, to);
      ours.set(file.toLowerCase(), row);
      if (++told % AT_ONCE === 0) this.events.tell(place.folioId, { kind: 'pack' });
    }
    for (const id of gone) {
      const row = dropped.get(id);
      if (!goesOn() || !row || ours.get(row.path.toLowerCase())?.paperId !== id) continue;
      // What somebody has changed there is theirs.
      if ((await shelf.hashAt(row.path)) === row.hash) await shelf.remove(row.path);
      await this.forget(place, id);
    }
  }

  /** Whether papers are to be put there, or lie there and count no more. */
  private async hasMore(place: Place): Promise<boolean> {
    if ((await this.about(place)).waiting > 0) return true;
    const dropped = await this.database.manager.findBy(DroppedRow, place);
    const gone = await this.outOfUse(
      place,
      dropped.map(({ paperId }) => paperId),
    );
    return gone.size > 0;
  }

  /** Of these papers, those that count no more. */
  private async outOfUse(place: Place, ids: readonly string[]): Promise<Set<string>> {
    if (ids.length === 0) return new Set();
    const rows = await this.database.manager.find(PaperRow, {
      select: { id: true, state: true },
      where: { ...place, id: In([...ids]) },
    });
    const counts = new Set(
      rows.filter(({ state }) => state !== 'superseded' && state !== 'void').map(({ id }) => id),
    );
    return new Set(ids.filter((id) => !counts.has(id)));
  }

  /** The register says where each paper lies. @throws SliceLost where papers go elsewhere by now. */
  private async remember(row: DroppedRow, to: DropPlace): Promise<void> {
    await inTransaction(this.database, async (manager) => {
      const revision = await nextRevision(manager, row);
      const now = await manager.findOneBy(DropOffRow, { folioId: row.folioId, schoolId: row.schoolId });
      if (!now || whereOf(now.place) !== whereOf(to)) throw new SliceLost();
      await manager.save(DroppedRow, row);
      await manager.update(PaperRow, { id: row.paperId }, { revision: String(revision) });
    });
  }

  private async forget(place: Place, paperId: string): Promise<void> {
    await inTransaction(this.database, async (manager) => {
      const revision = await nextRevision(manager, place);
      await manager.delete(DroppedRow, { paperId, ...place });
      await manager.update(PaperRow, { id: paperId }, { revision: String(revision) });
    });
  }

  private shelfOf({ schoolId }: Place, place: DropPlace): Shelf {
    if (place.kind === 'folder')
      return new FolderShelf(path.join(this.parts.root, schoolId, ...place.path.split('/').filter(Boolean)));
    if (!this.mayGoTo(place.url)) throw new ShelfFault('Papers may not go to this address any more.');
    return new WebDavShelf(place.url, place.user, place.password ?? '');
  }

  private mayGoTo(url: string): boolean {
    const { origin } = new URL(url);
    const { origins, practice } = this.parts;
    return origins.includes(origin) || (practice !== null && origin === new URL(practice).origin);
  }
}

/** A place for a file where nothing of somebody else's lies, or this very file does already. */
async function freePlace(
  shelf: Shelf,
  fileName: string,
  ours: ReadonlyMap<string, DroppedRow>,
  gone: ReadonlySet<string>,
  hash: string,
): Promise<{ path: string; lies: boolean }> {
  for (let n = 1; ; n++) {
    const file = n === 1 ? fileName : fileName.replace(/\.pdf$/, ` (${n}).pdf`);
    const own = ours.get(file.toLowerCase());
    // Another paper that counts lies there.
    if (own && !gone.has(own.paperId)) continue;
    const there = await shelf.hashAt(file);
    if (there === hash) return { path: file, lies: true };
    if (there === null || there === own?.hash) return { path: file, lies: false };
  }
}

const told = (place: DropPlace): DropOff['place'] =>
  place.kind === 'folder'
    ? place
    : { kind: 'webdav', url: place.url, user: place.user, hasPassword: Boolean(place.password) };

const whereOf = (place: DropPlace): string => (place.kind === 'folder' ? place.path : place.url);

/** A password that is not given stays, as long as the address does. */
function withPassword(place: DropPlace, before: DropPlace | undefined): DropPlace {
  if (place.kind !== 'webdav' || place.password !== undefined) return place;
  const same = before?.kind === 'webdav' && before.url === place.url && before.user === place.user;
  return { ...place, password: same ? (before.password ?? '') : '' };
}
