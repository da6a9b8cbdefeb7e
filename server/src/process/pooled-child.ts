import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { FromChild, Part, ToChild } from './messages.js';
import { residentMemory } from './resident-memory.js';

/** Why a child was ended by its pool. */
export type EndedFor = 'time' | 'memory' | 'closing';

/** Bytes of shared parts that a child keeps between tasks. */
const PARTS_KEPT = 64 * 1024 * 1024;

export interface ChildStart {
  readonly file: URL;
  readonly execArgv: readonly string[];
  readonly args: readonly string[];
  readonly env: NodeJS.ProcessEnv;
}

/** One child process as its pool sees it: what it is doing, and what it has. */
export class PooledChild<Task, Answer> {
  readonly process: ChildProcess;
  ready = false;
  /** Set where the pool has ended it. */
  endedFor: EndedFor | null = null;
  /** Whom or what it worked for last; the next of the same goes to it where it can. */
  affinity = '';
  private readonly known = new Map<string, number>();

  constructor(
    { file, execArgv, args, env }: ChildStart,
    heard: (message: FromChild<Answer>) => void,
    ended: (problem: Error | null) => void,
  ) {
    this.process = fork(fileURLToPath(file), [...args], {
      serialization: 'advanced',
      execArgv: [...execArgv],
      env,
      // What native code says before it aborts is noise in the log.
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    let over = false;
    const end = (problem: Error | null): void => {
      if (over) return;
      over = true;
      ended(problem);
    };
    this.process.on('message', heard as (message: unknown) => void);
    this.process.once('error', (error) => {
      this.process.kill('SIGKILL');
      end(error);
    });
    this.process.once('exit', () => end(null));
  }

  /** Hands a task over, with the parts that the child has not yet. */
  give(id: number, task: Task, parts: readonly Part[]): void {
    const used = new Set(parts.map(({ key }) => key));
    const message: ToChild<Task> = {
      id,
      task,
      parts: parts.map(({ key, size, value }) => {
        if (this.known.has(key)) return { key };
        this.known.set(key, size);
        return { key, value };
      }),
      forget: this.forgetAllBut(used),
    };
    this.process.send(message, () => undefined);
  }

  private forgetAllBut(used: ReadonlySet<string>): string[] {
    let size = [...this.known.values()].reduce((sum, one) => sum + one, 0);
    const forget: string[] = [];
    for (const [key, bytes] of this.known) {
      if (size <= PARTS_KEPT) break;
      if (used.has(key)) continue;
      this.known.delete(key);
      forget.push(key);
      size -= bytes;
    }
    return forget;
  }

  memory(): number {
    return this.process.pid === undefined ? 0 : residentMemory(this.process.pid);
  }

  /** Ends it at once, whatever it is doing. */
  kill(reason: EndedFor): void {
    this.endedFor ??= reason;
    this.process.kill('SIGKILL');
  }
}
