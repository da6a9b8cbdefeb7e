import { ENDPOINTS, type Endpoint, type EndpointName } from '@scriptum/core/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { Refusal } from '../refusal.js';

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
}

export type Handler<N extends EndpointName> = (
  call: Call<(typeof ENDPOINTS)[N]>,
) => Promise<Answer<(typeof ENDPOINTS)[N]>> | Answer<(typeof ENDPOINTS)[N]>;

/** Puts a handler behind its endpoint: the session and the input are checked before it runs. */
export function answer<N extends EndpointName>(router: Router, name: N, handler: Handler<N>): void {
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
    const call = {
      request,
      response,
      params: request.params as Record<string, string>,
      body: endpoint.body ? check(endpoint.body, request.body) : undefined,
      query: endpoint.query ? check(endpoint.query, request.query) : undefined,
      staffId: staffId ?? '',
      schoolId: schoolId ?? '',
    };
    const result = await handler(call as never);
    if (endpoint.answer && !response.headersSent) response.json(result);
  });
}

function check(schema: z.ZodType, input: unknown): unknown {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  const where = issue.path.join('.');
  throw new Refusal(400, 'input', `${where ? `At ${where}: ` : ''}${issue.message}`);
}
