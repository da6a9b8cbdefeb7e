import { say, saying, type Code, type Given, type Saying } from '../sentences/index.js';

/** A saying with its sentence in English and, where it helps, the place. */
export interface Problem extends Saying {
  readonly message: string;
  /** 1-based line or row numbers in the file that the problem is about. */
  readonly rows?: readonly number[];
}

/** Either a value, or the reason why there is none. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export const succeed = <T>(value: T): Result<T> => ({ ok: true, value });

export const refuse = <C extends Code>(code: C, ...given: Given<C>): Result<never> =>
  refuseAt(undefined, code, ...given);

/** @param rows 1-based line or row numbers in the file that the problem is about. */
export function refuseAt<C extends Code>(
  rows: readonly number[] | undefined,
  code: C,
  ...given: Given<C>
): Result<never> {
  const said = saying(code, ...given);
  return { ok: false, problem: { ...said, message: say(said), ...(rows ? { rows } : {}) } };
}
