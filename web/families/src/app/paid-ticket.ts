import { sha256 } from '@noble/hashes/sha2.js';
import { TICKET_BITS, workFor } from '@scriptum/core/form';

/** Tries between two breaths of the page. */
const AT_ONCE = 400;

/** Works for a ticket while the page stays usable. @returns what the work came to. */
export async function payFor(ticket: string): Promise<string> {
  for (let from = 0; ; from += AT_ONCE) {
    const nonce = workFor(ticket, { bits: TICKET_BITS, from, tries: AT_ONCE }, sha256);
    if (nonce !== null) return nonce;
    await new Promise((resolve) => setTimeout(resolve));
  }
}
