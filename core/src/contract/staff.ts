import { z } from 'zod';

export const SignIn = z
  .object({
    /** RFC 5321 4.5.3.1: at most 254 characters. Letters, digits and signs that can be seen. */
    email: z
      .string()
      .max(254)
      .trim()
      .toLowerCase()
      .regex(/^[\p{L}\p{N}!-~]+$/u, 'Write the email address without spaces or invisible signs.'),
    password: z.string().min(1).max(1000),
  })
  .meta({ id: 'SignIn' });
export type SignIn = z.infer<typeof SignIn>;

export const DemoAccount = z.object({ email: z.string(), password: z.string() });

/** Whether papers leave without being cleared, once cleared, or once somebody else than who pressed them has cleared them. */
export const Clearing = z.enum(['free', 'cleared', 'other']);
export type Clearing = z.infer<typeof Clearing>;
export const SchoolWishes = z.object({ clearing: Clearing }).meta({ id: 'SchoolWishes' });
export type SchoolWishes = z.infer<typeof SchoolWishes>;

/** Who is signed in, and what the sign-in page may show. */
export const Me = z
  .object({
    staff: z
      .object({
        name: z.string(),
        email: z.string(),
        school: z.string(),
        /** The school's time zone, of the IANA database. */
        timeZone: z.string(),
      })
      .nullable(),
    /** The demo account, in demo mode only. */
    demo: DemoAccount.nullable(),
    /** True where there is a practice post. */
    practicePost: z.boolean(),
    /** What the school's mail leaves through; null while nobody is signed in. */
    post: z.object({ kind: z.enum(['practice', 'server', 'account']), name: z.string() }).nullable(),
  })
  .meta({ id: 'Me' });
export type Me = z.infer<typeof Me>;

export const CsrfToken = z.object({ token: z.string() }).meta({ id: 'CsrfToken' });
