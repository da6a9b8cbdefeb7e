import type { Problem } from '@scriptum/core/table';

/** A request that cannot be done as it is. `code` is stable, `message` a sentence for the person. */
export class Refusal extends Error {
  override name = 'Refusal';
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly rows?: readonly number[],
    /** What the sentence is made from, where it is one of core’s. */
    readonly parameters?: Problem['parameters'],
  ) {
    super(message);
  }
}

export const notFound = (what: string): Refusal =>
  new Refusal(404, 'not-found', `${what} is not there. It may have been deleted.`);
export const conflict = (code: string, message: string): Refusal => new Refusal(409, code, message);
export const fromProblem = (problem: Problem, status = 422): Refusal =>
  new Refusal(status, problem.code, problem.message, problem.rows, problem.parameters);
