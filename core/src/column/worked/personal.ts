import { sha256 } from '@noble/hashes/sha2.js';
import { z } from 'zod';
import { Identity } from '../identity.js';

/** Each entry's own way to a form: a link, or the code in it alone. */
export const PersonalColumn = z.object({
  kind: z.literal('personal'),
  formId: Identity,
  /** Where the form is answered, without a slash at its end. */
  base: z.url({ protocol: /^https?$/ }).max(1000),
  /** What nobody can guess, of this form alone: 128 random bits in hexadecimal. */
  seed: z.string().regex(/^[0-9a-f]{32}$/),
  give: z.enum(['link', 'code']),
});
export type PersonalColumn = z.infer<typeof PersonalColumn>;

/** Crockford's base 32: no letter that is taken for a digit, or for another one. */
const SIGNS = '0123456789abcdefghjkmnpqrstvwxyz';
const LENGTH = 10;

/**
 * The code of an entry for a form: ten signs, 50 bits of SHA-256 (FIPS 180-4) over the seed and the entry's identity. So it stands in no
 * table, is the same wherever it is worked out, and tells nothing of another one.
 */
export function personalCode(seed: string, entryId: string): string {
  const hash = sha256(new TextEncoder().encode(`${seed} ${entryId}`));
  let code = '';
  for (let n = 0; n < LENGTH; n++) {
    const bit = n * 5;
    const pair = (hash[bit >> 3]! << 8) | hash[(bit >> 3) + 1]!;
    code += SIGNS[(pair >> (11 - (bit & 7))) & 31];
  }
  return code;
}

/** A code as people are shown it: in two halves. */
export const shownCode = (code: string): string => `${code.slice(0, 5)}-${code.slice(5)}`.toUpperCase();

/** A code as people write it: in any case, with any spaces and hyphens, O for 0, I and L for 1. Null for what is none. */
export function readCode(written: string): string | null {
  const code = written
    .toLowerCase()
    .replace(/[\s\p{Pd}]/gu, '')
    .replace(/o/g, '0')
    .replace(/[il]/g, '1');
  return code.length === LENGTH && [...code].every((sign) => SIGNS.includes(sign)) ? code : null;
}
