import type { ProblemDetails } from '@scriptum/core/contract';
import { SHEET_LIMITS, tooLarge } from '@scriptum/core/table';
import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { isDatabaseAway, isDiskFull, isLockConflict } from '../store/database-away.js';
import { fromProblem, Refusal } from '../refusal.js';

/** Sends problem details (RFC 9457). @param more what a kind of problem says besides (3.2). */
export function sendProblem(
  response: Response,
  refusal: Refusal,
  more: Readonly<Record<string, unknown>> = {},
): void {
  const body: ProblemDetails = {
    ...more,
    type: `urn:scriptum:problem:${refusal.code}`,
    title: TITLES[refusal.status] ?? 'Refused',
    status: refusal.status,
    detail: refusal.message,
    code: refusal.code,
    ...(refusal.rows ? { rows: [...refusal.rows] } : {}),
    ...(refusal.parameters ? { parameters: refusal.parameters } : {}),
  };
  response.status(refusal.status).type('application/problem+json').send(JSON.stringify(body));
}

const TITLES: Readonly<Record<number, string>> = {
  400: 'The request is not right',
  401: 'Signed out',
  403: 'Not allowed',
  404: 'Not there',
  409: 'Cannot be done as things stand',
  413: 'Too large',
  422: 'Cannot be taken as it is',
  429: 'Too many tries',
  500: 'Scriptum failed',
  503: 'Not just now',
};

interface BodyError {
  readonly type?: string;
  readonly status?: number;
  readonly length?: number;
  readonly limit?: number;
  readonly code?: string;
}

/** Turns every error into problem details. What nobody foresaw is logged, and shown without its innards. */
export function problems(log: Logger): ErrorRequestHandler {
  return (error: Error & BodyError, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const refusal = asRefusal(error, request.path);
    if (refusal?.status === 503) response.set('Retry-After', '2');
    if (isDiskFull(error)) log.error({ path: request.path }, DISK_FULL);
    if (!refusal) log.error({ err: error, path: request.path }, 'a request failed');
    sendProblem(
      response,
      refusal ??
        new Refusal(
          500,
          'internal',
          'Something went wrong in Scriptum itself. Nothing was changed. Try again; if it stays, tell whoever looks after this server.',
        ),
    );
  };
}

const DISK_FULL = 'the disk of the database is full';

function asRefusal(error: Error & BodyError, path: string): Refusal | null {
  if (error instanceof Refusal) return error;
  if (isDiskFull(error)) {
    return new Refusal(
      503,
      'disk-full',
      'There is no room left on the disk of the database. Nothing was changed, and nothing is lost. Tell whoever looks after this server; once there is room it goes on.',
    );
  }
  if (isDatabaseAway(error)) {
    return new Refusal(
      503,
      'database-away',
      'The database does not answer just now. Nothing is lost; it is tried again.',
    );
  }
  if (isLockConflict(error)) {
    return new Refusal(
      503,
      'busy',
      'Somebody else is changing the same thing just now. Nothing was changed. Try again in a moment.',
    );
  }
  if (error.code === 'EBADCSRFTOKEN') {
    return new Refusal(403, 'csrf', 'This page was open for too long. Reload it and try again.');
  }
  if (error.type === 'entity.too.large') {
    const size = error.length ?? 0;
    if (!path.endsWith('/sheet'))
      return new Refusal(
        413,
        'too-large',
        `That is too large: at most ${Math.floor((error.limit ?? 0) / 1_048_576)} MB can be taken.`,
      );
    const refused = tooLarge(Math.max(size, SHEET_LIMITS.bytes + 1));
    return refused.ok ? null : fromProblem(refused.problem, 413);
  }
  if (error.type === 'entity.parse.failed') return new Refusal(400, 'json', 'The request is not valid JSON.');
  if (error.type === 'request.aborted')
    return new Refusal(400, 'aborted', 'The file did not arrive whole. Send it again.');
  if (typeof error.status === 'number' && error.status >= 400 && error.status < 500)
    return new Refusal(error.status, 'request', error.message);
  return null;
}
