import { writeFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { FairQueue } from '@scriptum/server/process/fair-queue';
import { ProcessPool, type PoolOptions } from '@scriptum/server/process/process-pool';

test('tenants take turns, each in its own order', () => {
  const queue = new FairQueue<{ tenant: string; n: number }>();
  for (let n = 0; n < 4; n++) queue.push({ tenant: 'large', n });
  queue.push({ tenant: 'small', n: 100 });
  const order: number[] = [];
  const any = (): boolean => true;
  order.push(queue.take(any)!.n, queue.take(any)!.n);
  queue.putBack({ tenant: 'large', n: -1 });
  expect([...order, ...Array.from({ length: 4 }, () => queue.take(any)!.n)]).toEqual([0, 100, -1, 1, 2, 3]);
  expect(queue.take(any)).toBeUndefined();
  queue.push({ tenant: 'large', n: 7 });
  expect(queue.take((tenant) => tenant !== 'large')).toBeUndefined();
  expect(queue.size).toBe(1);
});

describe('children', () => {
  let folder: string;
  let file: URL;
  beforeAll(() => {
    folder = mkdtempSync(path.join(tmpdir(), 'scriptum-pool-'));
    const child = new URL('../dist/process/child.js', import.meta.url).href;
    const script = path.join(folder, 'child.mjs');
    writeFileSync(
      script,
      `import { serveTasks } from ${JSON.stringify(child)};
       const seen = [];
       serveTasks(async (task, parts) => {
         seen.push(task.say);
         if (task.do === 'spin') for (;;);
         if (task.do === 'die') process.kill(process.pid, 'SIGABRT');
         if (task.do === 'throw') throw Object.assign(new Error('as asked'), { code: 'ASKED' });
         if (task.do === 'grow') { const all = []; for (;;) all.push(new Float64Array(1e6).fill(1)); }
         if (task.do === 'wait') await new Promise((resolve) => setTimeout(resolve, task.for));
         return { pid: process.pid, say: task.say, seen: seen.length, parts, env: Object.keys(process.env) };
       });`,
    );
    file = pathToFileURL(script);
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  interface Answer {
    pid: number;
    say: unknown;
    seen: number;
    parts: unknown[];
    env: string[];
  }
  const pools: ProcessPool<object, Answer>[] = [];
  const pool = (more: Partial<PoolOptions> = {}): ProcessPool<object, Answer> => {
    const made = new ProcessPool<object, Answer>({
      file,
      children: 1,
      timeLimit: 60_000,
      memoryLimit: 4e9,
      ...more,
    });
    pools.push(made);
    return made;
  };
  afterEach(async () => {
    await Promise.all(pools.splice(0).map((one) => one.close()));
  });

  test('a task that dies, spins or grows takes nothing but itself; what was handed ahead is done by the next', async () => {
    const one = pool({ ahead: 1, timeLimit: 3_000, memoryLimit: 400e6 });
    const outcomes = await Promise.allSettled([
      one.run({ say: 1 }),
      one.run({ do: 'die' }),
      one.run({ say: 2 }),
      one.run({ do: 'spin' }),
      one.run({ say: 3 }),
      one.run({ do: 'grow' }),
      one.run({ say: 4 }),
      one.run({ do: 'throw' }),
      one.run({ say: 5 }),
    ]);
    expect(
      outcomes.map((outcome) =>
        outcome.status === 'fulfilled'
          ? outcome.value.say
          : ((outcome.reason as { end?: string }).end ?? (outcome.reason as { code: string }).code),
      ),
    ).toEqual([1, 'died', 2, 'time', 3, 'memory', 4, 'ASKED', 5]);
  });

  test('settings and passwords of the server are not handed on', async () => {
    process.env['SCRIPTUM_TEST_PASSWORD'] = 'secret';
    const { env } = await pool().run({});
    delete process.env['SCRIPTUM_TEST_PASSWORD'];
    expect(env.filter((name) => /SCRIPTUM|PASSWORD|DATABASE/.test(name))).toEqual([]);
  });

  test('parts are sent once to each child, and again to the next', async () => {
    const one = pool();
    const part = { key: 'k', size: 10, value: new Uint8Array([1, 2, 3]) };
    const other = { key: 'big', size: 100 * 1024 * 1024, value: 'large' };
    expect((await one.run({}, { parts: [part] })).parts).toEqual([new Uint8Array([1, 2, 3])]);
    expect((await one.run({}, { parts: [{ ...part, value: 'not sent' }] })).parts).toEqual([
      new Uint8Array([1, 2, 3]),
    ]);
    // More than a child keeps: the part that was not used goes, and is sent again when it is.
    await one.run({}, { parts: [other] });
    expect((await one.run({}, { parts: [{ ...part, value: 'sent anew' }] })).parts).toEqual(['sent anew']);
  });

  test('one tenant keeps no more than its share busy, and no queue is without end', async () => {
    const one = pool({ children: 2, perTenant: 1, queueLimit: 3 });
    let ended = 0;
    const wait = (n: number): Promise<unknown> =>
      one.run({ do: 'wait', for: 50_000, say: n }, { tenant: 'slow' }).finally(() => ended++);
    const slow = Promise.allSettled([wait(1), wait(2), wait(3)]);
    expect((await one.run({ say: 'quick' }, { tenant: 'quick' })).say).toBe('quick');
    // Those of the other tenant are still at it, and more than may wait are refused at once.
    expect(ended).toBe(0);
    const more = Promise.allSettled([wait(4), wait(5), wait(6), wait(7)]);
    expect((await one.run({ say: 'again' }, { tenant: 'quick' })).say).toBe('again');
    expect(ended).toBe(3);
    await one.close();
    expect((await slow).every(({ status }) => status === 'rejected')).toBe(true);
    expect((await more).filter(({ status }) => status === 'rejected')).toHaveLength(4);
  });

  test('what nobody wants any more is not begun, and takes nobody else the room to wait', async () => {
    const one = pool({ queueLimit: 2 });
    await one.run({ say: 'there' });
    const first = one.run({ do: 'wait', for: 300 });
    const asked = [1, 2].map(() => new AbortController());
    const waiting = Promise.allSettled(asked.map(({ signal }) => one.run({}, { signal })));
    await expect(one.run({})).rejects.toMatchObject({ end: 'busy' });
    for (const each of asked) each.abort();
    expect(await waiting).toMatchObject([{ reason: { end: 'unwanted' } }, { reason: { end: 'unwanted' } }]);
    await expect(one.run({}, { signal: asked[0]!.signal })).rejects.toMatchObject({ end: 'unwanted' });
    const last = one.run({ say: 'last' });
    await first;
    // Two were begun before, and this is the third: nothing in between.
    expect(await last).toMatchObject({ say: 'last', seen: 3 });
  });

  test('what has grown is replaced between two tasks', async () => {
    const one = pool({ retireAt: 1 });
    const pids = [await one.run({}), await one.run({}), await one.run({})].map(({ pid }) => pid);
    expect(new Set(pids).size).toBe(3);
  });

  test('closing ends all, also what never ends; nothing is taken after it', async () => {
    const one = pool({ children: 2 });
    const spinning = Promise.allSettled([one.run({ do: 'spin' }), one.run({ do: 'spin' }), one.run({})]);
    await one.close();
    expect((await spinning).map(({ status }) => status)).toEqual(['rejected', 'rejected', 'rejected']);
    await expect(one.run({})).rejects.toMatchObject({ end: 'closing' });
  });

  test('a module that cannot be started ends its tasks', async () => {
    const one = pool({ file: pathToFileURL(path.join(folder, 'none.mjs')) });
    await expect(one.run({})).rejects.toMatchObject({ end: 'died' });
  });
});
