import argon2 from 'argon2';

/** argon2id with the parameters that RFC 9106 section 4 gives second, for memory-constrained machines: 64 MiB, 3 passes. */
export const hashPassword = (password: string): Promise<string> =>
  argon2.hash(password, { type: argon2.argon2id, memoryCost: 65_536, timeCost: 3, parallelism: 4 });
