/** Leading bits that are nothing: about sixteen thousand tries, a quarter of a second on a slow phone. */
export const TICKET_BITS = 14;

type Hash = (bytes: Uint8Array) => Uint8Array;

/** True where the hash of ticket and nonce begins with so many bits that are nothing. */
export function hasWorked(ticket: string, nonce: string, bits: number, sha256: Hash): boolean {
  if (!/^[0-9a-z]{1,12}$/.test(nonce)) return false;
  return zeros(sha256(new TextEncoder().encode(`${ticket} ${nonce}`))) >= bits;
}

/** Tries nonces from the given one on, so many of them. @returns the one that does, or null. */
export function workFor(
  ticket: string,
  { bits, from, tries }: { bits: number; from: number; tries: number },
  sha256: Hash,
): string | null {
  for (let n = from; n < from + tries; n++) {
    const nonce = n.toString(36);
    if (hasWorked(ticket, nonce, bits, sha256)) return nonce;
  }
  return null;
}

function zeros(hash: Uint8Array): number {
  let bits = 0;
  for (const byte of hash) {
    if (byte === 0) {
      bits += 8;
      continue;
    }
    return bits + Math.clz32(byte) - 24;
  }
  return bits;
}
