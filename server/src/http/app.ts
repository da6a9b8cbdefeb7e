import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ENDPOINTS, openApiDocument } from '@scriptum/core/contract';
import compression from 'compression';
import { csrfSync } from 'csrf-sync';
import express, { type Express, type Request, type Response } from 'express';
import session from 'express-session';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { notFound } from '../refusal.js';
import { DatabaseSessionStore, SESSION_LIFE } from '../store/session-store.js';
import { answer } from './call.js';
import { folioRoutes, type FolioParts } from './folio-routes.js';
import { practiceRoutes } from './practice-routes.js';
import { problems } from './problems.js';
import { registerRoutes, type RegisterParts } from './register-routes.js';
import { rollBodies, rollRoutes, type RollParts } from './roll-routes.js';
import { staffRoutes, type SignInOptions } from './staff-routes.js';

export interface AppParts extends FolioParts, RollParts, RegisterParts, SignInOptions {
  readonly log: Logger;
  readonly sessionSecret: string;
  readonly secureCookies: boolean;
  readonly version: string;
  /** Folder of the built interface, or null where only the HTTP interface is served. */
  readonly webFolder: string | null;
}

/** The whole HTTP side: `/api`, and the interface for every other path. */
export function createApp(parts: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: parts.log,
      autoLogging: { ignore: (request) => request.url === '/api/health' },
      serializers: { req: plainRequest, res: plainResponse },
    }),
  );
  app.use((_request, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64');
    next();
  });
  app.use(strictPolicy(parts.secureCookies));
  app.use(
    compression({
      level: 1,
      filter: (request, response) =>
        response.getHeader('Content-Type') !== 'text/event-stream' && compression.filter(request, response),
    }),
  );
  app.use('/api', api(parts));
  if (parts.webFolder) serveInterface(app, parts.webFolder);
  app.use(problems(parts.log));
  return app;
}

function api(parts: AppParts): express.Router {
  const router = express.Router();
  router.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  answer(router, 'health', async () => {
    await parts.database.query('SELECT 1');
    return { ok: true };
  });
  const description = openApiDocument(ENDPOINTS, parts.version);
  answer(router, 'openapi', () => description);
  router.use(
    session({
      name: 'scriptum.sid',
      secret: parts.sessionSecret,
      store: new DatabaseSessionStore(parts.database),
      resave: false,
      saveUninitialized: false,
      cookie: {
        httpOnly: true,
        sameSite: 'strict',
        secure: parts.secureCookies,
        maxAge: SESSION_LIFE,
        path: '/',
      },
    }),
  );
  const csrf = csrfSync({ getTokenFromRequest: (request) => request.headers['x-csrf-token'] as string });
  router.use(csrf.csrfSynchronisedProtection);
  rollBodies(router);
  router.use(express.json({ limit: 4 * 1024 * 1024, type: 'application/json' }));
  staffRoutes(router, parts.database, parts, (request) => csrf.generateToken(request));
  folioRoutes(router, parts);
  rollRoutes(router, parts);
  registerRoutes(router, parts);
  practiceRoutes(router, parts.database);
  router.use(() => {
    throw notFound('This address');
  });
  return router;
}

function strictPolicy(secure: boolean): express.RequestHandler {
  const nonce = (_request: unknown, response: unknown): string =>
    `'nonce-${String((response as Response).locals['nonce'])}'`;
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", nonce],
        imgSrc: ["'self'", 'blob:', 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        frameSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'self'"],
      },
    },
    strictTransportSecurity: secure ? undefined : false,
    crossOriginEmbedderPolicy: false,
    originAgentCluster: false,
    referrerPolicy: { policy: 'no-referrer' },
  });
}

function serveInterface(app: Express, folder: string): void {
  const page = readFileSync(path.join(folder, 'index.html'), 'utf8');
  app.use(express.static(folder, { index: false, maxAge: '1y', immutable: true, redirect: false }));
  app.get(/^\/(?!api\/)[^.]*$/, (_request: Request, response: Response) => {
    response.set('Cache-Control', 'no-store');
    response.type('html').send(page.replaceAll('%NONCE%', String(response.locals['nonce'])));
  });
}

/** Logs hold no names, addresses or titles: the query stays out. */
function plainRequest(request: { id: unknown; method: string; url: string }): Record<string, unknown> {
  return { id: request.id, method: request.method, path: request.url.split('?')[0] };
}

function plainResponse(response: { statusCode: number }): Record<string, unknown> {
  return { status: response.statusCode };
}
