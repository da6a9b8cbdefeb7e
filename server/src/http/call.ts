import { ENDPOINTS, type Endpoint, type EndpointName } from '@scriptum/core/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { notFound, Refusal } from '../refusal.js';
import type { JsonBytes } from '../tasks/roll-tasks.js';
import { checkInput } from '../input.js';

declare module 'express-session' {
  interface SessionData {
    staffId: string;
    schoolId: string;
  }
}

type Answer<E> = E extends { answer: infer T extends z.ZodType } ? z.input<T> : void;
type Body<E> = E extends { body: infer T extends z.ZodType } ? z.output<T> : undefined;
type Query<E> = E extends { query: infer T extends z.ZodType } ? z.output<T> : undefined;

/** One checked request. `schoolId` is the signed-in person's school; every query must be scoped to it. */
export interface Call<E extends Endpoint> {
  readonly request: Request;
  readonly response: Response;
  readonly params: Readonly<Record<string, string>>;
  readonly body: Body<E>;
  readonly query: Query<E>;
  readonly staffId: string;
  readonly schoolId: string;
  /** The window that asks, where it says so. */
  readonly desk: string | null;
  /** Tells that whoever asked does not wait any more. */
  readonly gone: AbortSignal;
}

type Answered<E> = Answer<E> | JsonBytes<Answer<E>>;

export type Handler<N extends EndpointName> = (
  call: Call<(typeof ENDPOINTS)[N]>,
) => Promise<Answered<(typeof ENDPOINTS)[N]>> | Answered<(typeof ENDPOINTS)[N]>;

export interface AnswerOptions {
  /** The body is checked where the work is done: it may be too large for the thread that answers requests. */
  readonly bodyAsItCame?: boolean;
}

/** What may stand in a path: an identity, or a number. */
const PARAM = /^[0-9a-z]{1,64}$/;

/** Puts a handler behind its endpoint: the session and the input are checked before it runs. */
export function answer<N extends EndpointName>(
  router: Router,
  name: N,
  handler: Handler<N>,
  { bodyAsItCame = false }: AnswerOptions = {},
): void {
  const endpoint: Endpoint = ENDPOINTS[name];
  const path = endpoint.path.replace(/\{(\w+)\}/g, ':$1');
  router[endpoint.method](path, async (request: Request, response: Response) => {
    // What is served without a session, such as the description, comes before it is looked up.
    const { staffId, schoolId } = (request.session as typeof request.session | undefined) ?? {};
    if (!endpoint.open && (!staffId || !schoolId)) {
      throw new Refusal(
        401,
        'signed-out',
        'You are signed out. Sign in again; what you had saved is still there.',
      );
    }
    if (Object.values(request.params).some((param) => !PARAM.test(String(param)))) throw notFound('This');
    const gone = new AbortController();
    response.once('close', () => gone.abort());
    const call = {
      request,
      response,
      params: request.params as Record<string, string>,
      body: endpoint.body && !bodyAsItCame ? checkInput(endpoint.body, request.body) : undefined,
      query: endpoint.query ? checkInput(endpoint.query, request.query) : undefined,
      staffId: staffId ?? '',
      schoolId: schoolId ?? '',
      desk: deskOf(request),
      gone: gone.signal,
    };
    const result = await handler(call as never);
    if (!endpoint.answer || response.headersSent) return;
    if (isJsonBytes(result)) response.type('application/json').send(asBuffer(result.json));
    else response.json(result);
  });
}

/** Told on to other desks, so nothing but an identity. */
function deskOf(request: Request): string | null {
  const desk = request.get('x-desk') ?? '';
  return /^[0-9a-z]{1,40}$/.test(desk) ? desk : null;
}

const asBuffer = ({ buffer, byteOffset, byteLength }: Uint8Array): Buffer =>
  Buffer.from(buffer, byteOffset, byteLength);

const isJsonBytes = (result: unknown): result is JsonBytes<unknown> =>
  typeof result === 'object' && result !== null && 'json' in result && result.json instanceof Uint8Array;
