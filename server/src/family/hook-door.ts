import { hookDescription } from '@scriptum/core/hook';
import express, { type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { Hooks } from '../intake/hooks.js';
import { refuseOdd } from '../input.js';
import { Refusal } from '../refusal.js';

export interface HookDoorParts {
  readonly hooks: Hooks;
  readonly version: string;
  readonly address: () => string;
}

/** Bytes of a submission; requests a minute of one address. */
const MOST = 1024 * 1024;
const PER_MINUTE = 1200;

/** Where other services bring answers: apart from the rest, without a session, each request signed. */
export function hookDoor({ hooks, version, address }: HookDoorParts): Router {
  const router = express.Router();
  router.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  router.use(rateLimit({ windowMs: 60_000, limit: PER_MINUTE, legacyHeaders: false, standardHeaders: true }));
  router.get('/openapi.json', (_request, response) => {
    response.json(hookDescription(address(), version));
  });
  // As bytes: the signature is of these, and nothing is read before it is known to be right.
  router.post('/:token', express.raw({ limit: MOST, type: () => true }), async (request, response) => {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const again = await hooks.take(String(request.params['token']), {
      time: request.get('scriptum-time'),
      signatures: request.get('scriptum-signature'),
      idempotencyKey: request.get('idempotency-key') || undefined,
      bytes,
      read: () => readBody(bytes, request.is(['json', 'urlencoded'])),
    });
    response.json({ kept: true, again });
  });
  return router;
}

/** @throws Refusal */
function readBody(bytes: Buffer, type: string | false | null): unknown {
  if (type === 'urlencoded') {
    const fields: Record<string, string | string[]> = Object.create(null) as Record<string, string>;
    for (const [name, value] of new URLSearchParams(bytes.toString('utf8'))) {
      const known = fields[name];
      fields[name] = known === undefined ? value : [known, value].flat();
    }
    return fields;
  }
  if (type !== 'json')
    throw new Refusal(
      422,
      'content-type',
      'Send JSON (application/json) or a form’s data (application/x-www-form-urlencoded).',
    );
  let body: unknown;
  try {
    body = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new Refusal(422, 'not-json', 'The body is no JSON in UTF-8. Nothing was kept.');
  }
  refuseOdd(body);
  return body;
}
