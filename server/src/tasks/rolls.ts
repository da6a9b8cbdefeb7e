import { plainEnvironment, ProcessPool, WorkEnded } from '../process/process-pool.js';
import { Refusal } from '../refusal.js';
import type { RollAnswer } from './roll-child.js';
import type { RollTask, RollWork } from './roll-tasks.js';

/** What work over one roll may take at the most. */
export const ROLL_LIMITS = {
  /** Milliseconds. */
  time: 20_000,
  /** Milliseconds for reading a file and bringing it in. */
  bringIn: 60_000,
  /** Bytes of memory that the process may have in use. */
  memory: 2200 * 1024 * 1024,
} as const;

export interface RollsOptions {
  readonly databaseUrl: string;
  readonly timeLimit?: number;
  readonly memoryLimit?: number;
}

/** Milliseconds for which a roll that could not be worked out is not tried again, unless it changes. */
const REST = 30_000;

/** Work that changes the roll, after which a roll that was too much may be less. */
const CHANGES: ReadonlySet<string> = new Set(['bringIn', 'patchRoll', 'takeOut', 'goBack', 'takeNewer']);
/** Work that reads a file and brings it in. */
const READS: ReadonlySet<string> = new Set(['bringIn', 'takeNewer']);
/** Work that works no column out, and can be done whatever a formula asks for, so that it can be mended. */
const PLAIN: ReadonlySet<string> = new Set([
  'folio',
  'register',
  'registerFile',
  'schoolRegisterFile',
  'addGround',
  ...CHANGES,
]);

/** Does work over rolls in processes beside the server, with limits that end it. */
export class Rolls {
  private readonly pool: ProcessPool<RollTask, RollAnswer>;
  /** Rolls that were too much, with `performance.now()` from when they may be tried again. */
  private readonly resting = new Map<string, number>();

  constructor({ databaseUrl, timeLimit, memoryLimit }: RollsOptions) {
    this.pool = new ProcessPool({
      file: new URL('./roll-child.js', import.meta.url),
      execArgv: ['--max-old-space-size=1600'],
      env: { ...plainEnvironment(), SCRIPTUM_ROLL_DATABASE: databaseUrl },
      children: 3,
      // One school with a roll that is hard to work out leaves a process to the others.
      perTenant: 2,
      timeLimit: timeLimit ?? ROLL_LIMITS.time,
      memoryLimit: memoryLimit ?? ROLL_LIMITS.memory,
      retireAt: 900 * 1024 * 1024,
      queueLimit: 200,
    });
  }

  /** Starts a process, so that the first request need not wait for it. */
  warm(): void {
    this.pool.warm();
  }

  get processes(): number[] {
    return this.pool.processes;
  }

  /** Does one piece of work. @throws Refusal; `too-much-work` where it was ended, and nothing is changed then. */
  async do<Name extends keyof RollWork>(
    name: Name,
    given: Parameters<RollWork[Name]>[1],
  ): Promise<Awaited<ReturnType<RollWork[Name]>>> {
    const { schoolId, folioId } = given;
    const changes = CHANGES.has(name);
    if (!PLAIN.has(name) && (this.resting.get(folioId) ?? 0) > performance.now()) throw tooMuch(name);
    try {
      const answer = await this.pool.run({ name, given } as unknown as RollTask, {
        tenant: schoolId,
        affinity: folioId,
        ...(READS.has(name) ? { timeLimit: ROLL_LIMITS.bringIn } : {}),
      });
      if (!answer.ok) {
        const { status, code, message, rows } = answer.refusal;
        throw new Refusal(status, code, message, rows);
      }
      if (changes) this.resting.delete(folioId);
      return answer.value as Awaited<ReturnType<RollWork[Name]>>;
    } catch (error) {
      if (!(error instanceof WorkEnded)) throw error;
      if (error.end === 'busy' || error.end === 'closing')
        throw new Refusal(
          503,
          'busy',
          'Scriptum is busy just now. Nothing was changed. Try again in a moment.',
        );
      if (!PLAIN.has(name)) this.rest(folioId);
      throw tooMuch(name);
    }
  }

  private rest(folioId: string): void {
    this.resting.set(folioId, performance.now() + REST);
    for (const [id, until] of this.resting) if (until < performance.now()) this.resting.delete(id);
  }

  async close(): Promise<void> {
    await this.pool.close();
  }
}

function tooMuch(name: keyof RollWork): Refusal {
  if (name === 'addGround')
    return new Refusal(
      422,
      'ground-too-much',
      'This PDF takes too long or too much memory to read. Nothing was changed. Print it to a PDF again, with the pages that you need alone, and bring that in.',
    );
  return READS.has(name)
    ? new Refusal(
        422,
        'reading-too-much',
        'The file takes too long or too much memory to read. Nothing was changed. Save the sheet alone, without empty rows and formats, and bring that in.',
      )
    : new Refusal(
        422,
        'too-much-work',
        'This roll takes too long or too much memory to work out, and the work was ended. Nothing was changed. Look for a formula over very many or very long cells, simplify it or take the column out, and try again.',
      );
}
