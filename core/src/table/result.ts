/** A sentence for the person, with a stable code for programs and, where it helps, the place. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  /** 1-based line or row numbers in the file that the problem is about. */
  readonly rows?: readonly number[];
}

/** Either a value, or the reason why there is none. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export const succeed = <T>(value: T): Result<T> => ({ ok: true, value });

export const refuse = (code: string, message: string, rows?: readonly number[]): Result<never> => ({
  ok: false,
  problem: rows ? { code, message, rows } : { code, message },
});
