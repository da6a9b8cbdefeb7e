import { soughtWords } from '@scriptum/core/paper';
import { searchQueue } from '@scriptum/server/post/queue';
import { residentMemory } from '@scriptum/server/process/resident-memory';
import type { Running } from '@scriptum/server/server';
import { School } from '@scriptum/server/store/entities/people';
import type { BenchFolios } from './bench-trust.js';

const FEW = 500;
const MANY = 5_000;
const QUEUED = 100_000;
const LOOKS = 40;
/** Bytes. */
const MEGABYTE = 1024 * 1024;

export interface BenchPostParts extends BenchFolios {
  readonly dispatch: (running: Running, folioId: string) => Promise<unknown>;
}

/** The memory that many messages take, and how long it takes to find some among very many. */
export async function benchPost(
  say: (line: string) => void,
  running: Running,
  { makeFolio, pressWhole, dispatch }: BenchPostParts,
): Promise<void> {
  const peakOf = async (messages: number): Promise<number> => {
    const folio = await makeFolio(running, messages);
    await pressWhole(running, folio);
    let peak = 0;
    const look = setInterval(() => {
      const all = [process.pid, ...running.rolls.processes].reduce(
        (sum, pid) => sum + residentMemory(pid),
        0,
      );
      peak = Math.max(peak, all);
    }, 50);
    await dispatch(running, folio.id);
    clearInterval(look);
    return peak / MEGABYTE;
  };
  const few = await peakOf(FEW);
  const many = await peakOf(MANY);
  const again = await peakOf(MANY);
  say(
    `memory at the most in a dispatch, server and its roll processes: ${few.toFixed(0)} MB for ${FEW} messages, ${many.toFixed(0)} MB for ${MANY.toLocaleString('en')}, ${again.toFixed(0)} MB for as many once more: ratio ${(again / many).toFixed(2)} (aim at most 1.1) ${again / many <= 1.1 ? 'reached' : 'NOT reached'}`,
  );
  await fill(running);
  const { manager } = running.database;
  const { id: school } = await manager.findOneByOrFail(School, {});
  const times: number[] = [];
  const texts = ['', 'Learner 4711', 'l99', 'families', 'nobody at all'];
  for (let n = 0; n < LOOKS; n++) {
    const began = performance.now();
    await searchQueue(manager, school, { text: texts[n % texts.length]! }, 'here');
    times.push(performance.now() - began);
  }
  const slow = times.sort((a, b) => a - b)[Math.floor(LOOKS * 0.95)]!;
  say(
    `queue of ${QUEUED.toLocaleString('en')} messages searched: p95 ${slow.toFixed(0)} ms (aim at most 150) ${slow <= 150 ? 'reached' : 'NOT reached'}`,
  );
}

/** Puts messages beside those that there are, as if they had been sent. */
async function fill({ database }: Running): Promise<void> {
  const [like] = await database.query<{ id: string }[]>(
    "SELECT id FROM message WHERE state = 'sent' LIMIT 1",
  );
  for (let from = 0; from < QUEUED; from += 1000) {
    const rows = Array.from({ length: 1000 }, (_, n) => [
      `b${from + n}`,
      soughtWords(`Learner ${from + n} l${from + n}@families.example`).join(' '),
    ]);
    await database.query(
      `INSERT INTO message (id, schoolId, folioId, sendKey, messageId, recipients, envelope, subject, text, html, state, attempts, noteId,
         noteVersion, queuedAt, turn, nextAttemptAt, accountId, dispatchId, people, sought)
       SELECT v.id, m.schoolId, m.folioId, v.id, v.id, m.recipients, m.envelope, m.subject, '', '', 'sent', 1, m.noteId, m.noteVersion,
         m.queuedAt - INTERVAL v.n MINUTE, m.turn, m.nextAttemptAt, m.accountId, NULL, 1, v.sought
       FROM message m JOIN (${rows.map(() => 'SELECT ? AS id, ? AS sought, ? AS n').join(' UNION ALL ')}) v WHERE m.id = ?`,
      [...rows.flatMap(([id, sought], n) => [id, sought, from + n]), like!.id],
    );
  }
}
