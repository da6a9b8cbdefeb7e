import { SignIn, type Me } from '@scriptum/core/contract';
import type { NextFunction, Request, Response, Router } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusal.js';
import { School, Staff } from '../store/entities/people.js';
import { MailAccountRow } from '../store/entities/post.js';
import { DatabaseLimits } from '../store/limits.js';
import { hashPassword, verifyPassword } from '../store/password.js';
import type { DatabaseSessionStore } from '../store/session-store.js';
import { answer } from './call.js';
import { checkInput } from '../input.js';
import { sendProblem } from './problems.js';
import type { Streams } from './streams.js';

export interface StaffParts {
  readonly database: DataSource;
  readonly sessions: DatabaseSessionStore;
  readonly streams: Streams;
  readonly demo: { email: string; password: string } | null;
  readonly practicePost: boolean;
  /** What the way that the server knows by itself is called. */
  readonly builtIn: string;
}

/** Wrong passwords in a window: for one account, from wherever; and from one network address, for whatever account. */
const TRIES = { account: 10, address: 60 } as const;
const WINDOW = 15 * 60 * 1000;

export function staffRoutes(
  router: Router,
  { database, sessions, streams, demo, practicePost, builtIn }: StaffParts,
  csrfToken: (request: Request, response: Response) => string,
): void {
  const { manager } = database;
  // Checked against where there is no such account, so that the time taken tells nothing.
  const nobody = hashPassword('nobody has this password');

  /** What a school's mail leaves through, as it is told on every page. */
  const postOf = async ({ id: schoolId, accountId }: School): Promise<NonNullable<Me['post']>> => {
    const account = accountId && (await manager.findOneBy(MailAccountRow, { id: accountId, schoolId }));
    if (account) return { kind: 'account', name: account.name };
    return { kind: practicePost ? 'practice' : 'server', name: builtIn };
  };

  const me = async (staffId: string | undefined): Promise<Me> => {
    const staff = staffId ? await manager.findOneBy(Staff, { id: staffId }) : null;
    const school = staff && (await manager.findOneBy(School, { id: staff.schoolId }));
    return {
      staff:
        staff && school
          ? { name: staff.name, email: staff.email, school: school.name, timeZone: school.timeZone }
          : null,
      demo,
      practicePost,
      post: school ? await postOf(school) : null,
    };
  };

  // In this order: what is no address at all costs nothing, and counts for nobody.
  router.post('/sign-in', (request: Request, _response: Response, next: NextFunction) => {
    request.body = checkInput(SignIn, request.body);
    next();
  });
  const limit = (name: string, most: number, keyOf: (request: Request) => string) =>
    rateLimit({
      windowMs: WINDOW,
      limit: most,
      store: new DatabaseLimits(database, name),
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      identifier: name,
      legacyHeaders: false,
      // Behind a proxy that is not named in the settings all come from one address; docs/settings.md says so.
      validate: { xForwardedForHeader: false, forwardedHeader: false },
      keyGenerator: keyOf,
      handler: (_request, response) =>
        sendProblem(
          response,
          new Refusal(
            429,
            'too-many-tries',
            'Too many tries with a wrong password. Wait a quarter of an hour, then try again.',
          ),
        ),
    });
  router.post(
    '/sign-in',
    limit('sign-in address', TRIES.address, (request) => ipKeyGenerator(request.ip ?? '')),
    limit('sign-in account', TRIES.account, (request) => (request.body as SignIn).email),
  );

  answer(router, 'me', ({ request }) => me(request.session.staffId));
  answer(router, 'csrf', ({ request, response }) => ({ token: csrfToken(request, response) }));
  answer(router, 'signIn', async ({ request, body }) => {
    const staff = await manager.findOneBy(Staff, { email: body.email });
    const right = await verifyPassword(staff?.passwordHash ?? (await nobody), body.password);
    if (!staff || !right)
      throw new Refusal(401, 'sign-in', 'The email address or the password is not right.');
    // A new session identity at sign-in, so that one planted before is worth nothing.
    await new Promise<void>((resolve, reject) =>
      request.session.regenerate((error: unknown) => (error ? reject(error as Error) : resolve())),
    );
    request.session.staffId = staff.id;
    request.session.schoolId = staff.schoolId;
    return me(staff.id);
  });

  const signOut = async (request: Request, response: Response): Promise<Me> => {
    await new Promise<void>((resolve, reject) =>
      request.session.destroy((error: unknown) => (error ? reject(error as Error) : resolve())),
    );
    response.clearCookie('scriptum.sid');
    return me(undefined);
  };
  answer(router, 'signOut', async ({ request, response }) => {
    streams.endSession(request.sessionID);
    return signOut(request, response);
  });
  answer(router, 'signOutEverywhere', async ({ request, response, staffId }) => {
    await sessions.endAll(staffId);
    streams.endStaff(staffId);
    return signOut(request, response);
  });
}
