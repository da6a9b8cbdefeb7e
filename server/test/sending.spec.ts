import type { Due } from '@scriptum/server/post/message-claims';
import type { Outcome } from '@scriptum/server/post/record-outcomes';
import { Sending } from '@scriptum/server/post/sending';
import type { DataSource } from 'typeorm';

/** A database that has so many messages due, and fails from the given question on. */
function database(messages: number, failsFrom = Infinity): DataSource & { asked: number } {
  let left = messages;
  const stub = {
    asked: 0,
    query: async (sql: string, values: unknown[]) => {
      // The files belong to the question before.
      if (/^SELECT c\.messageId/.test(sql)) return [];
      if (++stub.asked > failsFrom) throw Object.assign(new Error('away'), { code: 'ECONNREFUSED' });
      if (/^UPDATE message m SET/.test(sql)) return { affectedRows: (values[2] as string[]).length };
      if (/^SELECT m\.id/.test(sql)) {
        const count = Math.min(left, values.at(-2) as number);
        left -= count;
        return Array.from({ length: count }, (_, n) => ({
          id: `m${left + n}`,
          schoolId: 's',
          dispatchId: null,
          recipients: '[]',
          envelope: null,
        }));
      }
      return { affectedRows: 0 };
    },
  };
  return Object.assign(stub, { manager: stub }) as never;
}

const ACCOUNT = { schoolId: 'school', accountId: 'school' };
const sent = async (): Promise<{ state: 'sent'; answer: string }> => ({ state: 'sent', answer: '' });

test('what is known is written down, also where the database goes away and comes back', async () => {
  // It answers while the first are taken; then nothing more can be taken, and the writing takes its time.
  const recorded: string[] = [];
  let release: () => void = () => undefined;
  const slow = new Promise<void>((resolve) => (release = resolve));
  let delivered = 0;
  const run = new Sending(database(16, 2), {
    account: ACCOUNT,
    term: 60_000,
    goesOn: () => true,
    deliver: async () => {
      if (++delivered === 16) release();
      return sent();
    },
    record: async (_claim: string, outcomes: readonly Outcome[], left: readonly string[]) => {
      await slow;
      recorded.push(...outcomes.map(({ message }) => message.id), ...left);
    },
  }).run();
  // Some were delivered, the others are put back; none is forgotten.
  setTimeout(() => release(), 50);
  await expect(run).rejects.toMatchObject({ code: 'ECONNREFUSED' });
  expect(new Set(recorded).size).toBe(16);
});

test('never more than twenty-four are at risk, and all are sent', async () => {
  let risk = 0;
  let most = 0;
  const ids: string[] = [];
  const source = database(200);
  const query = source.query.bind(source);
  source.query = (async (sql: string, values: unknown[]) => {
    const answer = await query(sql, values);
    if (/^UPDATE message m SET/.test(sql))
      most = Math.max(most, (risk += (answer as { affectedRows: number }).affectedRows));
    return answer;
  }) as never;
  await new Sending(source, {
    account: ACCOUNT,
    term: 60_000,
    goesOn: () => true,
    deliver: async ({ message }: Due) => {
      ids.push(message.id);
      return sent();
    },
    record: async (_claim: string, outcomes: readonly Outcome[]) => {
      await new Promise((resolve) => setImmediate(resolve));
      risk -= outcomes.length;
    },
  }).run();
  expect(most).toBeLessThanOrEqual(24);
  expect(ids).toHaveLength(200);
});

test('where the claim may be lost nothing more leaves, and what was taken is put back', async () => {
  let delivered = 0;
  const left: string[] = [];
  const source = database(16);
  let taken = 0;
  const query = source.query.bind(source);
  source.query = (async (sql: string, values: unknown[]) => {
    const answer = await query(sql, values);
    if (/^UPDATE message m SET/.test(sql)) taken += (answer as { affectedRows: number }).affectedRows;
    return answer;
  }) as never;
  await new Sending(source, {
    account: ACCOUNT,
    // A term that has ended by the time the first one was delivered, and that nobody lengthens in time.
    term: 40,
    goesOn: () => true,
    deliver: async () => {
      delivered++;
      const until = performance.now() + 80;
      while (performance.now() < until);
      return sent();
    },
    record: async (_claim: string, _outcomes: readonly Outcome[], back: readonly string[]) => {
      left.push(...back);
    },
  }).run();
  expect(delivered).toBeLessThanOrEqual(3);
  expect(delivered + left.length).toBe(taken);
});
