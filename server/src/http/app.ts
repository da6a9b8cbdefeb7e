import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ENDPOINTS, openApiDocument } from '@scriptum/core/contract';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import { doubleCsrf } from 'csrf-csrf';
import express, { type Express, type Request, type Response } from 'express';
import session from 'express-session';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { familyPages, type FamilyParts } from '../family/routes.js';
import { formPages, type FormParts } from '../family/forms.js';
import { yesPages, type YesParts } from '../family/yes-pages.js';
import { notFound } from '../refusal.js';
import { SESSION_LIFE, type DatabaseSessionStore } from '../store/session-store.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';
import { refuseOdd } from '../input.js';
import { plainError } from './plain-error.js';
import { packRoutes, type PackRouteParts } from './pack-routes.js';
import { checkRoutes, type CheckParts } from './check-routes.js';
import { writingListRoutes } from './writing-list-routes.js';
import { writingRoutes } from './writing-routes.js';
import { folioRoutes, type FolioParts } from './folio-routes.js';
import { hookDoor, type HookDoorParts } from '../family/hook-door.js';
import { hookRoutes, type HookParts } from './hook-routes.js';
import { watchedRoutes, type WatchedParts } from './watched-routes.js';
import { intakeRoutes, type IntakeParts } from './intake-routes.js';
import { orderRoutes, type OrderParts } from './order-routes.js';
import { letterheadRoutes } from './letterhead-routes.js';
import { postRoomRoutes, type PostRoomParts } from './post-room-routes.js';
import { practiceRoutes, type PracticeParts } from './practice-routes.js';
import { problems } from './problems.js';
import { registerRoutes, type RegisterParts } from './register-routes.js';
import { rollBodies, rollRoutes, type RollParts } from './roll-routes.js';
import { staffRoutes, type StaffParts } from './staff-routes.js';

export interface AppParts
  extends
    FolioParts,
    RollParts,
    RegisterParts,
    CheckParts,
    PackRouteParts,
    PostRoomParts,
    PracticeParts,
    FamilyParts,
    Omit<FormParts, 'staffOf'>,
    IntakeParts,
    OrderParts,
    HookParts,
    WatchedParts,
    HookDoorParts,
    YesParts,
    StaffParts {
  readonly log: Logger;
  readonly sessionSecret: string;
  readonly secureCookies: boolean;
  /** Which proxies to believe about who asks, and whether by HTTPS: Express's `trust proxy`. */
  readonly trustProxy: number | string | undefined;
  readonly sessions: DatabaseSessionStore;
  readonly version: string;
  /** Folder of the built interface, or null where only the HTTP interface is served. */
  readonly webFolder: string | null;
}

/** Bytes of JSON that are read from people who are signed in, and from others. */
const STAFF_BODY = 4 * 1024 * 1024;
const STRANGERS_BODY = 16 * 1024;

/** The whole HTTP side: `/api`, and the interface for every other path. */
export function createApp(parts: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  if (parts.trustProxy !== undefined) app.set('trust proxy', parts.trustProxy);
  app.use(
    pinoHttp({
      logger: parts.log,
      autoLogging: { ignore: (request) => request.url === '/api/health' },
      serializers: { req: plainRequest, res: plainResponse, err: plainError },
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
  const sessions = sessionsOf(parts);
  app.use('/api', api(parts, sessions));
  app.use('/p', familyPages(parts));
  // Forms know no sessions but where one is for staff alone.
  const staffOf: FormParts['staffOf'] = (request, response) =>
    new Promise((resolve, reject) => {
      void sessions(request, response, (error?: unknown) => {
        if (error) reject(error as Error);
        else {
          const { staffId, schoolId } = (request.session as typeof request.session | undefined) ?? {};
          resolve(staffId && schoolId ? { staffId, schoolId } : null);
        }
      });
    });
  app.use('/f', formPages({ ...parts, staffOf }));
  app.use('/y', yesPages(parts));
  app.use('/h', hookDoor(parts));
  if (parts.familiesFolder) serveFamilies(app, parts.familiesFolder);
  if (parts.webFolder) serveInterface(app, parts.webFolder);
  app.use(problems(parts.log));
  return app;
}

function sessionsOf(parts: AppParts): express.RequestHandler {
  return session({
    name: 'scriptum.sid',
    secret: parts.sessionSecret,
    store: parts.sessions,
    resave: false,
    saveUninitialized: false,
    cookie: {
      httpOnly: true,
      sameSite: 'strict',
      secure: parts.secureCookies,
      maxAge: SESSION_LIFE.whole,
      path: '/',
    },
  });
}

function api(parts: AppParts, sessions: express.RequestHandler): express.Router {
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
  router.use(sessions);
  router.use(cookieParser());
  const csrf = doubleCsrf({
    getSecret: () => parts.sessionSecret,
    // Nobody's session is kept before sign-in, so there is nothing else to bind the token to.
    getSessionIdentifier: (request) => (request.session.staffId ? request.sessionID : 'nobody'),
    cookieName: 'scriptum.csrf',
    cookieOptions: { httpOnly: true, sameSite: 'strict', secure: parts.secureCookies, path: '/' },
    getCsrfTokenFromRequest: (request) => request.headers['x-csrf-token'],
  });
  router.use(csrf.doubleCsrfProtection);
  rollBodies(router);
  router.use(forStaff(express.json({ limit: STAFF_BODY, type: 'application/json' })));
  router.use(express.json({ limit: STRANGERS_BODY, type: 'application/json' }));
  router.use((request, _response, next) => {
    if (!Buffer.isBuffer(request.body)) refuseOdd(request.body);
    next();
  });
  staffRoutes(router, parts, (request, response) => csrf.generateCsrfToken(request, response));
  folioRoutes(router, parts);
  writingRoutes(router, parts);
  writingListRoutes(router, parts);
  letterheadRoutes(router, parts);
  rollRoutes(router, parts);
  intakeRoutes(router, parts);
  orderRoutes(router, parts);
  hookRoutes(router, parts);
  watchedRoutes(router, parts);
  registerRoutes(router, parts);
  checkRoutes(router, parts);
  packRoutes(router, parts);
  postRoomRoutes(router, parts);
  practiceRoutes(router, parts);
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

/** The families' application, and the script that puts a form into a page of another site, which is always called the same. */
function serveFamilies(app: Express, folder: string): void {
  app.get('/families/embed.js', (_request, response) => {
    response.set({ 'Cross-Origin-Resource-Policy': 'cross-origin', 'Cache-Control': 'public, max-age=3600' });
    response.sendFile(path.join(folder, 'embed.js'), { cacheControl: false });
  });
  app.use(
    '/families',
    express.static(folder, { index: false, maxAge: '1y', immutable: true, redirect: false }),
  );
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
  return { id: request.id, method: request.method, path: plainPath(request.url) };
}

/** A private link is a secret, and so are those to change an answer, to a learner's own form or paper, and to say yes: they stand in no log. */
export const plainPath = (url: string): string =>
  url
    .split('?')[0]!
    .replace(/^\/(p|y)\/[^/]+/, '/$1/…')
    .replace(/^(\/f\/[^/]+\/(?:change|for|paper))\/[^/]+/, '$1/…');

function plainResponse(response: { statusCode: number }): Record<string, unknown> {
  return { status: response.statusCode };
}
