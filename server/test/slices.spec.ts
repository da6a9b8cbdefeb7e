import { DatabaseSlices } from '@scriptum/server/jobs/database-slices';
import {
  SliceLost,
  type ClaimedSlice,
  type Lane,
  type OfferedSlice,
} from '@scriptum/server/jobs/slice-queue';
import { SliceWorker } from '@scriptum/server/jobs/slice-worker';
import { openDatabase } from '@scriptum/server/store/database';
import { type FolioRow } from '@scriptum/server/store/entities/folio';
import { School } from '@scriptum/server/store/entities/people';
import { createFolio } from '@scriptum/server/store/folios';
import { newId } from '@scriptum/server/store/id';
import { pino } from 'pino';
import type { DataSource } from 'typeorm';
import { newDatabase } from './testing/school.js';

let database: DataSource;
let queue: DatabaseSlices;
beforeAll(async () => {
  database = await openDatabase(await newDatabase());
  queue = new DatabaseSlices(database, 60_000);
});
afterAll(() => database.destroy());
beforeEach(() => database.query('DELETE FROM slice'));

async function newFolio(): Promise<FolioRow> {
  const id = newId();
  await database.manager.insert(School, { id, name: 'Saltmarsh', createdAt: new Date() });
  return createFolio(database.manager, id, 'Letters', new Date());
}

const slicesOf = (
  { id: folioId, schoolId }: FolioRow,
  count: number,
  more: Partial<OfferedSlice> = {},
): OfferedSlice[] => {
  const jobId = newId();
  const slice = { kind: 'press', schoolId, folioId, jobId, lane: 'bulk', size: 48 } as const;
  return Array.from({ length: count }, () => ({ ...slice, id: newId(), ...more }));
};

/** Offers slices as if it were this second by the clock of the database. */
const offerAt = (second: number, slices: readonly OfferedSlice[]): Promise<void> =>
  database.transaction(async (manager) => {
    await manager.query('SET timestamp = ?', [1_800_000_000 + second]);
    try {
      await queue.offer(manager, slices);
    } finally {
      await manager.query('SET timestamp = DEFAULT');
    }
  });

const BOTH: readonly Lane[] = ['quick', 'bulk'];
async function claimAll(): Promise<ClaimedSlice[]> {
  const all: ClaimedSlice[] = [];
  for (;;) {
    const slice = await queue.claim(BOTH);
    if (!slice) return all;
    all.push(slice);
  }
}

test('a school with few papers does not wait behind one with thousands, however late it comes', async () => {
  const [large, small] = [await newFolio(), await newFolio()];
  await offerAt(0, slicesOf(large, 125));
  await offerAt(1, slicesOf(small, 1, { size: 5 }));
  // 6,000 papers count for a minute. The five come after what counts for the second that has gone.
  const order = (await claimAll()).map(({ folioId }) => folioId);
  expect(order).toHaveLength(126);
  expect(order.indexOf(small.id)).toBe(2);
  // Both with much to do take turns.
  await offerAt(0, slicesOf(large, 4));
  await offerAt(0, slicesOf(small, 4));
  const turns = (await claimAll()).map(({ folioId }) => (folioId === large.id ? 'L' : 'S')).join('');
  expect(turns).toMatch(/^(LS|SL){4}$/);
});

test('what a school asks for later comes behind what it asked for before, and its own order is kept', async () => {
  const folio = await newFolio();
  const [first, second] = [slicesOf(folio, 3), slicesOf(folio, 2)];
  await offerAt(0, first);
  await offerAt(0, second);
  expect((await claimAll()).map(({ id }) => id)).toEqual([...first, ...second].map(({ id }) => id));
});

test('a slice goes to one of those who ask at the same time', async () => {
  const slices = slicesOf(await newFolio(), 30);
  await offerAt(0, slices);
  const claimed = await Promise.all(Array.from({ length: 40 }, () => queue.claim(BOTH)));
  const ids = claimed.flatMap((slice) => slice?.id ?? []);
  expect(ids.sort()).toEqual(slices.map(({ id }) => id).sort());
});

test('lanes: who takes quick slices alone takes no long one; offered twice is there once', async () => {
  const folio = await newFolio();
  const [quick] = slicesOf(folio, 1, { lane: 'quick', size: 1 });
  await offerAt(0, slicesOf(folio, 2));
  await offerAt(5, [quick!]);
  await offerAt(6, [quick!]);
  expect(await queue.claim(['quick'])).toMatchObject({ id: quick!.id });
  expect(await queue.claim(['quick'])).toBeNull();
  expect(await queue.claim(['upkeep'])).toBeNull();
});

test('whose term has ended writes nothing; another does the slice, and it is known how often it was begun', async () => {
  await offerAt(0, slicesOf(await newFolio(), 1));
  const slow = (await queue.claim(BOTH))!;
  await database.transaction((manager) => queue.fence(manager, slow));
  expect(await queue.reclaim()).toBe(0);
  await database.query('UPDATE slice SET claimedUntil = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND');
  await expect(database.transaction((manager) => queue.fence(manager, slow))).rejects.toThrow(SliceLost);
  expect(await queue.reclaim()).toBe(1);
  const next = (await queue.claim(BOTH))!;
  expect(next).toMatchObject({ id: slow.id, tries: 1 });
  // The slow one is still at it, and says so too late.
  expect(await queue.beat(slow)).toBe(false);
  expect(await queue.beat(next)).toBe(true);
  await queue.giveBack(slow);
  await expect(database.transaction((manager) => queue.end(manager, slow, 'done'))).rejects.toThrow(
    SliceLost,
  );
  await database.transaction(async (manager) => {
    await queue.fence(manager, next);
    await queue.end(manager, next, 'done');
  });
  expect(await queue.isOpen(database.manager, next.jobId)).toBe(false);
});

test('a job that was stopped takes its slices with it, also those that are being done', async () => {
  const slices = slicesOf(await newFolio(), 3);
  await offerAt(0, slices);
  const claimed = (await queue.claim(BOTH))!;
  await database.transaction((manager) => queue.stop(manager, claimed.jobId));
  await expect(database.transaction((manager) => queue.fence(manager, claimed))).rejects.toThrow(SliceLost);
  expect(await queue.claim(BOTH)).toBeNull();
  expect(await database.query('SELECT DISTINCT state FROM slice')).toEqual([{ state: 'stopped' }]);
  await queue.sweep();
  expect(await database.query('SELECT id FROM slice')).toHaveLength(3);
  await database.query('UPDATE slice SET endedAt = endedAt - INTERVAL 2 DAY');
  await queue.sweep();
  expect(await database.query('SELECT id FROM slice')).toEqual([]);
});

const log = pino({ level: 'silent' });

/** A worker that gives slices to a function; others than `press` are not asked for here. */
function workerOf(
  work: (slice: ClaimedSlice, goesOn: () => boolean) => Promise<void>,
  gaveUp: string[] = [],
): SliceWorker {
  const handler = {
    work,
    giveUp: async (slice: ClaimedSlice) => {
      gaveUp.push(slice.id);
      await database.transaction((manager) => queue.end(manager, slice, 'failed'));
    },
  };
  const handlers = {
    press: handler,
    compare: handler,
    check: handler,
    pack: handler,
    drop: handler,
    order: handler,
    watch: handler,
    copy: handler,
  };
  return new SliceWorker({ queue, handlers, term: 60_000, poll: 60_000, log });
}

test('a slice that breaks off is left until its term ends, and given up after five times', async () => {
  const [slice] = slicesOf(await newFolio(), 1);
  await offerAt(0, [slice!]);
  let begun = 0;
  const gaveUp: string[] = [];
  for (let time = 0; time < 7; time++) {
    const worker = workerOf(() => {
      begun++;
      return Promise.reject(new Error('out of order'));
    }, gaveUp);
    await worker.open();
    await worker.close();
    await database.query("UPDATE slice SET claimedUntil = UTC_TIMESTAMP(3) WHERE state = 'claimed'");
  }
  expect([begun, gaveUp]).toEqual([5, [slice!.id]]);
});

test('who closes gives back what it has begun, and another does it at once', async () => {
  const [slice] = slicesOf(await newFolio(), 1);
  await offerAt(0, [slice!]);
  let begun: () => void;
  const isBegun = new Promise<void>((resolve) => (begun = resolve));
  const first = workerOf(async (_, goesOn) => {
    begun();
    while (goesOn()) await new Promise((resolve) => setTimeout(resolve, 5));
  });
  const opened = first.open();
  await isBegun;
  await Promise.all([opened, first.close()]);
  const done: ClaimedSlice[] = [];
  const second = workerOf(async (one) => {
    done.push(one);
    await database.transaction((manager) => queue.end(manager, one, 'done'));
  });
  await second.open();
  await second.close();
  expect(done).toMatchObject([{ id: slice!.id, tries: 0 }]);
});
