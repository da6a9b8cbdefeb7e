import { FairQueue } from './fair-queue.js';
import type { FromChild, Part, Thrown } from './messages.js';
import { PooledChild, type ChildStart } from './pooled-child.js';

export interface PoolOptions extends Partial<Omit<ChildStart, 'file'>> {
  /** The module that the children run; it calls `serveTasks`. */
  readonly file: URL;
  /** Children at the most; they are started when there is work for them. */
  readonly children: number;
  /** Milliseconds that a task may take, unless it says otherwise. */
  readonly timeLimit: number;
  /** Bytes of memory that a child may have in use while it works. */
  readonly memoryLimit: number;
  /** A child that has more bytes than this in use after a task is replaced before the next one. */
  readonly retireAt?: number;
  /** Tasks that are handed to a child ahead, so that it need not wait for the next one. */
  readonly ahead?: number;
  /** Children that one tenant may keep busy; the others stay free for others. */
  readonly perTenant?: number;
  /** Tasks of one tenant that may wait; more are refused, and the others' are not. */
  readonly queueLimit?: number;
}

export interface TaskOptions {
  /** Who it is done for. Tenants take turns. */
  readonly tenant?: string;
  /** Goes to the child that did the last of the same, where that is free. */
  readonly affinity?: string;
  readonly parts?: readonly Part[];
  /** Milliseconds. */
  readonly timeLimit?: number;
  /** Tells that nobody wants it any more: then it is not begun. */
  readonly signal?: AbortSignal | undefined;
  /** Hears how far it has come, where the work says so. */
  readonly told?: ((done: number) => void) | undefined;
}

/** What can become of a task besides its answer. */
export type WorkEnd = 'time' | 'memory' | 'died' | 'busy' | 'closing' | 'unwanted';

/** A task that was not done. `end` says why: past its limit of time or memory, its process died, or it never began. */
export class WorkEnded extends Error {
  override name = 'WorkEnded';
  constructor(readonly end: WorkEnd) {
    super(`The work was not done: ${end}.`);
  }
}

interface PooledTask<Task, Answer> {
  readonly id: number;
  readonly task: Task;
  readonly tenant: string;
  readonly affinity: string;
  readonly parts: readonly Part[];
  readonly timeLimit: number;
  readonly told: ((done: number) => void) | undefined;
  resolve(answer: Answer): void;
  reject(error: Error): void;
}

const MEMORY_EVERY = 50;
/** Milliseconds that a child may take to start; after as many failures in a row nothing is tried any more for its tasks. */
const STARTUP = 60_000;
const STARTS_FAILED = 3;

/**
 * Child processes for work that must be fenced: each task has a limit of time and of memory that really ends it, since
 * the process is killed, and a task that makes native code abort takes nothing but its own process with it. Which task
 * that was is known, because a child does one at a time and in order.
 */
export class ProcessPool<Task, Answer> {
  private readonly queue = new FairQueue<PooledTask<Task, Answer>>();
  private readonly children = new Map<PooledChild<Task, Answer>, PooledTask<Task, Answer>[]>();
  private readonly clocks = new Map<PooledChild<Task, Answer>, NodeJS.Timeout>();
  private watch: NodeJS.Timeout | null = null;
  private lastId = 0;
  private failedStarts = 0;
  private closing = false;

  constructor(private readonly options: PoolOptions) {}

  /** Identities of the processes that there are now. */
  get processes(): number[] {
    return [...this.children.keys()].flatMap(({ process }) => process.pid ?? []);
  }

  /** @throws WorkEnded, or what the work itself threw, as an `Error` with its `code`. */
  run(task: Task, options: TaskOptions = {}): Promise<Answer> {
    const { signal } = options;
    if (this.closing) return Promise.reject(new WorkEnded('closing'));
    if (signal?.aborted) return Promise.reject(new WorkEnded('unwanted'));
    if (this.queue.of(options.tenant ?? '') >= (this.options.queueLimit ?? Infinity))
      return Promise.reject(new WorkEnded('busy'));
    return new Promise((resolve, reject) => {
      const waiting: PooledTask<Task, Answer> = {
        id: ++this.lastId,
        task,
        tenant: options.tenant ?? '',
        affinity: options.affinity ?? '',
        parts: options.parts ?? [],
        timeLimit: options.timeLimit ?? this.options.timeLimit,
        told: options.told,
        resolve,
        reject,
      };
      const drop = (): void => {
        if (this.queue.remove(waiting)) reject(new WorkEnded('unwanted'));
      };
      signal?.addEventListener('abort', drop, { once: true });
      this.queue.push(waiting);
      this.handOut();
    });
  }

  /** Starts a child, so that the first task need not wait for it. */
  warm(): void {
    if (this.children.size === 0 && !this.closing) this.start();
  }

  /** Ends all children; what they are doing, and what waits, is not done. */
  async close(): Promise<void> {
    this.closing = true;
    for (const task of this.queue.clear()) task.reject(new WorkEnded('closing'));
    const gone = [...this.children.keys()].map(
      (child) =>
        new Promise<void>((resolve) => {
          child.process.once('exit', () => resolve());
          if (child.process.exitCode !== null || child.process.signalCode !== null) resolve();
          child.kill('closing');
        }),
    );
    if (this.watch) clearInterval(this.watch);
    this.watch = null;
    await Promise.all(gone);
  }

  private handOut(): void {
    if (this.closing) return;
    for (;;) {
      if (this.queue.size === 0) return;
      const task = this.queue.take((tenant) => this.mayWork(tenant));
      if (!task) return;
      const child = this.childFor(task);
      if (!child) {
        this.queue.putBack(task);
        if (this.children.size < this.options.children) this.start();
        return;
      }
      this.give(child, task);
    }
  }

  private mayWork(tenant: string): boolean {
    const most = this.options.perTenant ?? Infinity;
    if (most === Infinity) return true;
    let busy = 0;
    for (const tasks of this.children.values()) if (tasks.some((task) => task.tenant === tenant)) busy++;
    return busy < most;
  }

  /** An idle child, one that knows the matter first; else one with room for a task ahead, once all have been started. */
  private childFor(task: PooledTask<Task, Answer>): PooledChild<Task, Answer> | null {
    let idle: PooledChild<Task, Answer> | null = null;
    let room: PooledChild<Task, Answer> | null = null;
    for (const [child, tasks] of this.children) {
      if (!child.ready || child.endedFor) continue;
      if (tasks.length === 0) {
        if (child.affinity === task.affinity) return child;
        idle ??= child;
      } else if (tasks.length <= (this.options.ahead ?? 0)) {
        if (!room || tasks.length < this.children.get(room)!.length) room = child;
      }
    }
    if (idle || this.children.size < this.options.children) return idle;
    return room;
  }

  private give(child: PooledChild<Task, Answer>, task: PooledTask<Task, Answer>): void {
    const tasks = this.children.get(child)!;
    tasks.push(task);
    child.affinity = task.affinity;
    child.give(task.id, task.task, task.parts);
    if (tasks.length === 1) this.startClock(child, task);
  }

  private startClock(child: PooledChild<Task, Answer>, task: PooledTask<Task, Answer>): void {
    clearTimeout(this.clocks.get(child));
    this.clocks.set(
      child,
      setTimeout(() => child.kill('time'), task.timeLimit),
    );
    this.watch ??= setInterval(() => this.lookAtMemory(), MEMORY_EVERY).unref();
  }

  private lookAtMemory(): void {
    let working = false;
    for (const [child, tasks] of this.children) {
      if (tasks.length === 0) continue;
      working = true;
      if (!child.endedFor && child.memory() > this.options.memoryLimit) child.kill('memory');
    }
    if (working || !this.watch) return;
    clearInterval(this.watch);
    this.watch = null;
  }

  private start(): void {
    const { file, execArgv = [], args = [], env = plainEnvironment() } = this.options;
    const child = new PooledChild<Task, Answer>(
      { file, execArgv, args, env },
      (message) => this.heard(child, message),
      () => this.ended(child),
    );
    this.children.set(child, []);
    this.clocks.set(
      child,
      setTimeout(() => child.kill('time'), STARTUP),
    );
  }

  private heard(child: PooledChild<Task, Answer>, message: FromChild<Answer>): void {
    if (message.kind === 'ready') {
      child.ready = true;
      this.failedStarts = 0;
      clearTimeout(this.clocks.get(child));
      this.handOut();
      // More waits than one child can take.
      if (this.queue.size > 0 && this.children.size < this.options.children) this.handOut();
      return;
    }
    const tasks = this.children.get(child);
    const task = tasks?.[0];
    if (!tasks || task?.id !== message.id) return;
    if (message.kind === 'told') {
      task.told?.(message.done);
      return;
    }
    tasks.shift();
    clearTimeout(this.clocks.get(child));
    if (message.memory > (this.options.retireAt ?? Infinity)) this.retire(child, tasks);
    else if (tasks[0]) this.startClock(child, tasks[0]);
    if (message.kind === 'done') task.resolve(message.answer);
    else task.reject(rebuilt(message.error));
    this.handOut();
  }

  /** A child that has grown goes; what it was handed ahead is put back. */
  private retire(child: PooledChild<Task, Answer>, ahead: PooledTask<Task, Answer>[]): void {
    for (const task of ahead.splice(0).reverse()) this.queue.putBack(task);
    this.children.delete(child);
    this.clocks.delete(child);
    child.kill('closing');
  }

  private ended(child: PooledChild<Task, Answer>): void {
    clearTimeout(this.clocks.get(child));
    this.clocks.delete(child);
    const tasks = this.children.get(child);
    if (!tasks) return;
    this.children.delete(child);
    const [blamed, ...ahead] = tasks;
    for (const task of ahead.reverse()) this.queue.putBack(task);
    blamed?.reject(new WorkEnded(child.endedFor ?? 'died'));
    if (!child.ready && !this.closing && ++this.failedStarts >= STARTS_FAILED) {
      this.failedStarts = 0;
      for (const task of this.queue.clear()) task.reject(new WorkEnded('died'));
    }
    this.handOut();
  }
}

/** What a child needs of the environment: no settings, so no passwords. */
export function plainEnvironment(): NodeJS.ProcessEnv {
  return Object.fromEntries(
    ['PATH', 'HOME', 'TMPDIR', 'TMP', 'TEMP', 'TZ', 'LANG', 'SystemRoot'].flatMap((name) =>
      process.env[name] === undefined ? [] : [[name, process.env[name]]],
    ),
  );
}

function rebuilt({ message, stack, code }: Thrown): Error {
  const error = new Error(message);
  if (stack) error.stack = stack;
  return code ? Object.assign(error, { code }) : error;
}
