import { QueryFailedError } from 'typeorm';

/** An error as it may stand in the log. */
export interface PlainError {
  readonly type: string;
  readonly message: string;
  readonly code?: string | undefined;
  readonly stack?: string | undefined;
}

/**
 * An error without what people typed. A statement that failed carries its values, and the database quotes them in its
 * message; both stay out, and only code and place are told.
 */
export function plainError(error: unknown): PlainError {
  if (!(error instanceof Error)) return { type: typeof error, message: 'no error object' };
  const { code } = error as NodeJS.ErrnoException;
  const ofDatabase =
    error instanceof QueryFailedError || /^ER_/.test(code ?? '') || 'sql' in error || 'sqlMessage' in error;
  return {
    type: error.name,
    message: ofDatabase ? 'a statement failed; its text and values are not logged' : error.message,
    ...(code ? { code } : {}),
    stack: ofDatabase ? placesOf(error) : error.stack,
  };
}

/** The lines of the stack that name places; the first ones repeat the message. */
const placesOf = (error: Error): string =>
  (error.stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .join('\n');
