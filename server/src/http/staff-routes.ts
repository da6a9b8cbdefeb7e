import type { Me } from '@scriptum/core/contract';
import argon2 from 'argon2';
import type { Request, Router } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusal.js';
import { School, Staff } from '../store/entities/people.js';
import { hashPassword } from '../store/password.js';
import { answer } from './call.js';
import { sendProblem } from './problems.js';

export interface SignInOptions {
  readonly demo: { email: string; password: string } | null;
  readonly practicePost: boolean;
}

const TRIES = 10;
const WINDOW = 15 * 60 * 1000;

export function staffRoutes(
  router: Router,
  database: DataSource,
  options: SignInOptions,
  csrfToken: (request: Request) => string,
): void {
  const { manager } = database;
  // Checked against where there is no such account, so that the time taken tells nothing.
  const nobody = hashPassword('nobody has this password');

  const me = async (staffId: string | undefined): Promise<Me> => {
    const staff = staffId ? await manager.findOneBy(Staff, { id: staffId }) : null;
    const school = staff && (await manager.findOneBy(School, { id: staff.schoolId }));
    return {
      staff: staff && school ? { name: staff.name, email: staff.email, school: school.name } : null,
      demo: options.demo,
      practicePost: options.practicePost,
    };
  };

  router.post(
    '/sign-in',
    rateLimit({
      windowMs: WINDOW,
      limit: TRIES,
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      keyGenerator: (request) => {
        const { email } = (request.body ?? {}) as { email?: unknown };
        return `${ipKeyGenerator(request.ip ?? '')} ${typeof email === 'string' ? email.trim().toLowerCase() : ''}`;
      },
      handler: (_request, response) =>
        sendProblem(
          response,
          new Refusal(
            429,
            'too-many-tries',
            'Too many tries with a wrong password. Wait a quarter of an hour, then try again.',
          ),
        ),
    }),
  );
  answer(router, 'me', ({ request }) => me(request.session.staffId));
  answer(router, 'csrf', ({ request }) => ({ token: csrfToken(request) }));
  answer(router, 'signIn', async ({ request, body }) => {
    const staff = await manager.findOneBy(Staff, { email: body.email.trim().toLowerCase() });
    const right = await argon2.verify(staff?.passwordHash ?? (await nobody), body.password);
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
  answer(router, 'signOut', async ({ request, response }) => {
    await new Promise<void>((resolve, reject) =>
      request.session.destroy((error: unknown) => (error ? reject(error as Error) : resolve())),
    );
    response.clearCookie('scriptum.sid');
    return me(undefined);
  });
}
