import type { Router } from 'express';
import type { DataSource, EntityManager } from 'typeorm';
import type { WatchedList } from '@scriptum/core/contract';
import type { FolioEvents } from '../folio-events.js';
import { recordHappening } from '../store/happenings.js';
import { inTransaction } from '../store/in-transaction.js';
import type { WatchedFiles } from '../watch/watched-files.js';
import type { Watching } from '../watch/watching.js';
import { answer } from './call.js';

export interface WatchedParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly watchedFiles: WatchedFiles;
  readonly watching: Watching;
}

/** Watched files, as staff see and change them. */
export function watchedRoutes(
  router: Router,
  { database, events, watchedFiles, watching }: WatchedParts,
): void {
  const { manager } = database;
  const placeOf = (schoolId: string, params: Readonly<Record<string, string>>) => ({
    schoolId,
    folioId: params['folioId']!,
  });
  /** Changes something, tells other desks, and tells how it is then; what is due by then is looked at. */
  const change = async (
    place: { schoolId: string; folioId: string },
    work: (inside: EntityManager) => Promise<unknown>,
  ): Promise<WatchedList> => {
    await inTransaction(database, work);
    events.tell(place.folioId, { kind: 'watched' });
    void watching.look();
    return watchedFiles.list(manager, place);
  };

  answer(router, 'watched', ({ schoolId, params }) => watchedFiles.list(manager, placeOf(schoolId, params)));
  answer(router, 'addWatched', async ({ schoolId, staffId, params, body }) => {
    const place = placeOf(schoolId, params);
    const list = await change(place, (inside) => watchedFiles.add(inside, place, body));
    await recordHappening(manager, { ...place, staffId, kind: 'watched-file-added' });
    return list;
  });
  answer(router, 'changeWatched', ({ schoolId, params, body }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => watchedFiles.change(inside, place, params['watchedId']!, body));
  });
  answer(router, 'lookNow', ({ schoolId, params }) => {
    const place = placeOf(schoolId, params);
    return change(place, (inside) => watchedFiles.again(inside, place, params['watchedId']!));
  });
  answer(router, 'deleteWatched', async ({ schoolId, staffId, params }) => {
    const place = placeOf(schoolId, params);
    const list = await change(place, (inside) => watchedFiles.delete(inside, place, params['watchedId']!));
    await recordHappening(manager, { ...place, staffId, kind: 'watched-file-deleted' });
    return list;
  });
  answer(router, 'watchedVersion', async ({ response, schoolId, params }) => {
    const { name, bytes } = await watchedFiles.version(
      manager,
      placeOf(schoolId, params),
      params['watchedId']!,
    );
    response.attachment(name).type('application/octet-stream').send(bytes);
  });
}
