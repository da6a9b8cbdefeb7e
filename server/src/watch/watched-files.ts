import type {
  AddWatched,
  ChangeWatched,
  WatchedFile,
  WatchedList,
  WatchPlace,
} from '@scriptum/core/contract';
import path from 'node:path';
import type { EntityManager } from 'typeorm';
import { SHEET_LIMITS } from '@scriptum/core/table';
import { WrongKey, type Secrets } from '../post/secrets.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { readBlob } from '../store/blobs.js';
import { SourceRow } from '../store/entities/folio.js';
import { WatchedRow } from '../store/entities/watched.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { WatchedAddress } from './watched-address.js';
import { WatchedFolder } from './watched-folder.js';
import { WatchFault, type Found } from './watched-place.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

export interface WatchedFilesOptions {
  /** The folder below which each school has one of its own; null where none is watched. */
  readonly root: string | null;
  /** Where addresses may lead, such as `https://marks.school.example`. */
  readonly origins: readonly string[];
  readonly secrets: Secrets;
}

/** Watched files of a folio. */
const MOST = 10;
const passwordOf = (id: string): string => `password of watched file ${id}`;

/** Which files are watched, and where they may lie. */
export class WatchedFiles {
  private readonly address: WatchedAddress;

  constructor(private readonly options: WatchedFilesOptions) {
    this.address = new WatchedAddress(options.origins, SHEET_LIMITS.bytes);
  }

  async list(manager: EntityManager, { schoolId, folioId }: Place): Promise<WatchedList> {
    await findFolio(manager, schoolId, folioId);
    const [rows, sources, there] = await Promise.all([
      manager.find(WatchedRow, { where: { schoolId, folioId }, order: { createdAt: 'ASC' } }),
      manager.findBy(SourceRow, { schoolId, folioId }),
      this.folderOf(schoolId)?.list() ?? null,
    ]);
    const files = rows.map((row): WatchedFile => {
      const source = sources.find(({ id }) => id === row.sourceId);
      // Somebody has brought this very version in meanwhile.
      const waits = row.waits !== null && source?.blobHash !== row.seenHash ? row.waits : null;
      return {
        id: row.id,
        sourceId: row.sourceId,
        source: source?.fileName ?? null,
        place: told(row),
        everyMinutes: row.everyMinutes as WatchedFile['everyMinutes'],
        missing: row.missing,
        isOn: row.isOn,
        lookedAt: row.lookedAt?.toISOString() ?? null,
        nextAt: row.isOn ? (row.nextAt?.toISOString() ?? null) : null,
        took: row.took,
        fault: row.fault,
        waits: waits === null ? null : { says: waits, name: row.seenName ?? '' },
      };
    });
    const folder = this.options.root === null ? null : schoolId;
    return { files, folder, there, origins: [...this.options.origins] };
  }

  /** Asked for twice it is there once. @throws Refusal */
  async add(manager: EntityManager, place: Place, { id, sourceId, ...asked }: AddWatched): Promise<void> {
    await lockFolio(manager, place.schoolId, place.folioId);
    const known = await manager.findOneBy(WatchedRow, { id });
    if (known?.schoolId === place.schoolId && known.folioId === place.folioId) return;
    if (known) throw new Refusal(409, 'identity-taken', 'This file could not be watched. Try once more.');
    if ((await manager.countBy(WatchedRow, { ...place })) >= MOST)
      throw conflict(
        'watched-many',
        `A folio has ${MOST} watched files at the most. Delete one that is not needed.`,
      );
    this.expectAllowed(asked.place);
    await this.expectFree(manager, place, sourceId);
    await manager.insert(WatchedRow, {
      id,
      ...place,
      sourceId,
      ...this.sealed(id, asked.place, null),
      everyMinutes: asked.everyMinutes,
      missing: asked.missing,
      isOn: asked.isOn,
      ...UNSEEN,
      nextAt: asked.isOn ? new Date() : null,
      lookedAt: null,
      took: null,
      createdAt: new Date(),
    });
  }

  /** @throws Refusal */
  async change(manager: EntityManager, place: Place, id: string, change: ChangeWatched): Promise<void> {
    await lockFolio(manager, place.schoolId, place.folioId);
    const row = await this.find(manager, place, id);
    const { place: to, sourceId, ...more } = change;
    if (to) this.expectAllowed(to);
    if (sourceId !== undefined && sourceId !== row.sourceId) await this.expectFree(manager, place, sourceId);
    const isOn = more.isOn ?? row.isOn;
    if (isOn && sourceId === undefined && !(await this.hasSource(manager, row)))
      throw conflict(
        'no-source',
        'Its source is not on the roll any more. Choose what it is a newer version of first.',
      );
    // What lies elsewhere, or becomes something else, is looked at as if for the first time.
    const isOther = to !== undefined || sourceId !== undefined || (more.isOn === true && !row.isOn);
    await manager.update(
      WatchedRow,
      { id: row.id },
      {
        ...more,
        ...(sourceId === undefined ? {} : { sourceId }),
        ...(to ? this.sealed(id, to, row) : {}),
        ...(isOther ? UNSEEN : {}),
        nextAt: isOn ? new Date() : null,
      },
    );
  }

  /** Has it looked at now, also what could not be taken before. */
  async again(manager: EntityManager, place: Place, id: string): Promise<void> {
    await lockFolio(manager, place.schoolId, place.folioId);
    const row = await this.find(manager, place, id);
    if (!row.isOn) throw conflict('watched-off', 'This file is not watched just now. Switch it on first.');
    const stamp = row.stamp === null ? null : unsettled(row.stamp);
    await manager.update(
      WatchedRow,
      { id },
      { stamp, seenHash: null, fault: null, waits: null, nextAt: new Date() },
    );
  }

  async delete(manager: EntityManager, place: Place, id: string): Promise<void> {
    await this.find(manager, place, id);
    await manager.delete(WatchedRow, { id, ...place });
  }

  /** The version that waits. @throws Refusal */
  async version(manager: EntityManager, place: Place, id: string): Promise<{ name: string; bytes: Buffer }> {
    const { waits, seenHash, seenName } = await this.find(manager, place, id);
    const bytes =
      waits !== null && seenHash !== null ? await readBlob(manager, place.schoolId, seenHash) : null;
    if (!bytes) throw notFound('The version that waited');
    return { name: seenName ?? 'File', bytes };
  }

  async find(manager: EntityManager, { schoolId, folioId }: Place, id: string): Promise<WatchedRow> {
    const row = await manager.findOneBy(WatchedRow, { id, schoolId, folioId });
    if (!row) throw notFound('This watched file');
    return row;
  }

  /** Looks for it where it lies. @throws WatchFault */
  async look(row: WatchedRow): Promise<Found> {
    const known = {
      stamp: row.stamp?.replace(UNSETTLED, '') ?? null,
      isRead: row.stamp !== null && !UNSETTLED.test(row.stamp),
    };
    const { place } = row;
    if (place.kind === 'folder') {
      const folder = this.folderOf(row.schoolId);
      if (!folder) throw new WatchFault(noFolder());
      return folder.find(place.path, known);
    }
    return this.address.find({ url: place.url, user: place.user, password: this.opened(row) }, known);
  }

  hasSource(manager: EntityManager, { schoolId, folioId, sourceId }: WatchedRow): Promise<boolean> {
    return manager.existsBy(SourceRow, { id: sourceId, schoolId, folioId });
  }

  /** One source has one watched file, so that two never take turns with each other. */
  private async expectFree(manager: EntityManager, place: Place, sourceId: string): Promise<void> {
    if (!(await manager.existsBy(SourceRow, { ...place, id: sourceId }))) throw notFound('This source');
    if (await manager.existsBy(WatchedRow, { ...place, sourceId }))
      throw conflict(
        'watched-already',
        'A file is watched for newer versions of this source already. Change that one.',
      );
  }

  private expectAllowed(place: WatchPlace): void {
    if (place.kind === 'folder') {
      if (this.options.root === null) throw new Refusal(422, 'not-allowed', noFolder());
      return;
    }
    if (this.address.mayGoTo(place.url)) return;
    const allowed = this.options.origins.join(', ');
    throw new Refusal(
      422,
      'not-allowed',
      `Files may not be read from this address. ${allowed ? `Allowed are: ${allowed}.` : 'None is allowed yet.'} Whoever looks after Scriptum can allow others (SCRIPTUM_WATCH_ADDRESSES).`,
    );
  }

  private folderOf(schoolId: string): WatchedFolder | null {
    const { root } = this.options;
    return root === null ? null : new WatchedFolder(path.join(root, schoolId), SHEET_LIMITS.bytes);
  }

  /** The place without its password, and that sealed. One that is not given stays, as long as the address does. */
  private sealed(
    id: string,
    place: WatchPlace,
    before: WatchedRow | null,
  ): Pick<WatchedRow, 'place' | 'sealedPassword'> {
    if (place.kind === 'folder') return { place, sealedPassword: null };
    const { password, ...rest } = place;
    if (password !== undefined)
      return {
        place: rest,
        sealedPassword: password === '' ? null : this.options.secrets.seal(password, passwordOf(id)),
      };
    const was = before?.place;
    const isSame =
      was?.kind === 'web' && new URL(was.url).origin === new URL(rest.url).origin && was.user === rest.user;
    return { place: rest, sealedPassword: isSame ? before!.sealedPassword : null };
  }

  private opened({ id, sealedPassword }: WatchedRow): string {
    if (sealedPassword === null) return '';
    try {
      return this.options.secrets.open(sealedPassword, passwordOf(id));
    } catch (error) {
      if (!(error instanceof WrongKey)) throw error;
      throw new WatchFault('Its password cannot be read any more. Type it again.');
    }
  }
}

/** Before the stamp of a file that was not read under it yet. */
const UNSETTLED = /^\? /;
export const unsettled = (stamp: string): string => (UNSETTLED.test(stamp) ? stamp : `? ${stamp}`);

/** As if nobody had looked yet. */
const UNSEEN = { stamp: null, seenHash: null, seenName: null, fault: null, waits: null } as const;

const noFolder = (): string =>
  'No folder is watched here. Whoever looks after Scriptum can name one (SCRIPTUM_WATCH_FOLDER).';

function told({ place, sealedPassword }: WatchedRow): WatchedFile['place'] {
  return place.kind === 'folder'
    ? place
    : { kind: 'web', url: place.url, user: place.user, hasPassword: sealedPassword !== null };
}
