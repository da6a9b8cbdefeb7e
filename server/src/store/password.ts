import argon2 from 'argon2';
import pLimit from 'p-limit';
import { Refusal } from '../refusal.js';

/** argon2id with the parameters that RFC 9106 section 4 gives second, for memory-constrained machines: 64 MiB, 3 passes. */
export const hashPassword = (password: string): Promise<string> =>
  argon2.hash(password, { type: argon2.argon2id, memoryCost: 65_536, timeCost: 3, parallelism: 4 });

/** Each check takes 64 MiB and all of a core for a while, so few are done at a time and not many wait. */
const AT_A_TIME = 2;
const WAITING_MOST = 24;
const gate = pLimit(AT_A_TIME);

/** @throws Refusal `busy` where too many passwords are being checked already. */
export function verifyPassword(hash: string, password: string): Promise<boolean> {
  if (gate.pendingCount >= WAITING_MOST)
    throw new Refusal(
      503,
      'busy',
      'Too many people are signing in just now. Wait a few seconds, then try again.',
    );
  return gate(() => argon2.verify(hash, password));
}
