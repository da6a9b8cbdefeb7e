import type { DataSource } from 'typeorm';
import { serveTasks } from '../process/child.js';
import { Refusal } from '../refusal.js';
import { connectDatabase } from '../store/database.js';
import { ROLL_WORK, type RollTask } from './roll-tasks.js';

/** What came of a task: its value, or why it was refused. */
export type RollAnswer =
  | { readonly ok: true; readonly value: unknown }
  | {
      readonly ok: false;
      readonly refusal: {
        status: number;
        code: string;
        message: string;
        rows?: readonly number[] | undefined;
      };
    };

let database: DataSource | null = null;

async function perform({ name, given }: RollTask): Promise<RollAnswer> {
  database ??= await connectDatabase(process.env['SCRIPTUM_ROLL_DATABASE']!, 3);
  const work = ROLL_WORK[name] as (database: DataSource, given: unknown) => Promise<unknown>;
  try {
    return { ok: true, value: await work(database, given) };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const { status, code, message, rows } = error;
    return { ok: false, refusal: { status, code, message, rows } };
  }
}

serveTasks(perform, { nice: 2 });
