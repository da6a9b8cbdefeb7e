import { writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { FromChild, ToChild } from './messages.js';

/**
 * Ends this process when its parent has ended. It runs beside native code that may never return, so the time limit that
 * the parent keeps has somebody to keep it when the parent was killed.
 */
const ORPHAN_WATCH = `
const parent = process.ppid;
setInterval(() => { if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL'); }, 1000);
`;

export interface ChildOptions {
  /** How much this process stands back for others (`nice`), 0 to 19. */
  readonly nice?: number;
  /** Collects what native code left to finalisers every so many tasks; needs `--expose-gc`. */
  readonly collectEvery?: number;
}

/** Makes this process a child of a `ProcessPool`: it does one task after the other, with the parts that they share at hand. */
export function serveTasks<Task, Answer>(
  work: (
    task: Task,
    parts: readonly unknown[],
    tell: (done: number) => Promise<void>,
  ) => Answer | Promise<Answer>,
  { nice = 0, collectEvery = 0 }: ChildOptions = {},
): void {
  new Worker(ORPHAN_WATCH, { eval: true, stdin: false }).unref();
  standBack(nice);
  const known = new Map<string, unknown>();
  const say = (message: FromChild<Answer>): Promise<void> =>
    new Promise((resolve) => process.send!(message, () => resolve()));
  let queue: Promise<void> = Promise.resolve();
  let done = 0;
  const perform = async ({ id, task, parts, forget }: ToChild<Task>): Promise<void> => {
    for (const key of forget) known.delete(key);
    for (const part of parts) if ('value' in part) known.set(part.key, part.value);
    try {
      const answer = await work(
        task,
        parts.map(({ key }) => known.get(key)),
        (far) => say({ kind: 'told', id, done: far }),
      );
      await say({ kind: 'done', id, answer, memory: process.memoryUsage.rss() });
    } catch (error) {
      const { message, stack, code } = error as NodeJS.ErrnoException;
      await say({ kind: 'threw', id, error: { message, stack, code }, memory: process.memoryUsage.rss() });
    }
    if (collectEvery > 0 && ++done % collectEvery === 0) await collect();
  };
  process.on('message', (message) => {
    queue = queue.then(() => perform(message as ToChild<Task>));
  });
  process.on('disconnect', () => process.exit(0));
  void say({ kind: 'ready' });
}

/** Finalisers of native objects run in a turn of the event loop after the collection. */
async function collect(): Promise<void> {
  (globalThis as { gc?: () => void }).gc?.();
  await new Promise((resolve) => setImmediate(resolve));
}

function standBack(nice: number): void {
  try {
    if (nice > 0) setPriority(nice);
    // Where memory runs out, the system shall end this process and not the server or the database.
    writeFileSync('/proc/self/oom_score_adj', '800');
  } catch {
    // Another system, or not allowed: it is a courtesy only.
  }
}
