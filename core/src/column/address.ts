import { saying, type Code, type Given, type Saying } from '../sentences/index.js';

/** What a cell that should hold one email address holds. */
export type AddressReading =
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'none' }
  | { readonly kind: 'wrong'; readonly reason: Saying };

/** RFC 5321 4.5.3.1: octets in a local part, and in a path without its angle brackets (RFC 3696 erratum 1690). */
const LOCAL_MOST = 64;
const ADDRESS_MOST = 254;

/** RFC 5322 atext, and letters of other scripts (RFC 6532, 3.2), which not every mail server takes before the `@`. */
const ATEXT = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~\-\p{L}\p{M}\p{N}]+$/u;
const LABEL = /^[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?$/;

/**
 * Reads a cell as one email address: RFC 5321 `Dot-string@Domain`, with a domain of at least two labels. Spaces around
 * it do not count. Domains of other scripts are checked in their ASCII form (UTS #46), in which they are sent; quoted local parts and
 * address literals are not accepted, since no school's mail system hands them out.
 */
export function readAddress(cell: string): AddressReading {
  const text = cell.trim();
  if (text === '') return { kind: 'none' };
  if (/\s/.test(text)) return wrong('address-space');
  if (/[,;]/.test(text)) return wrong('address-several');
  const parts = text.split('@');
  if (parts.length === 1) return wrong('address-no-at');
  if (parts.length > 2) return wrong('address-two-at');
  const [local, domain] = parts as [string, string];
  if (local === '') return wrong('address-no-name');
  if (domain === '') return wrong('address-no-domain');
  if (octets(local) > LOCAL_MOST || octets(text) > ADDRESS_MOST) return wrong('address-long');
  if (local.split('.').some((atom) => atom === '')) return wrong('address-stop-before');
  if (!local.split('.').every((atom) => ATEXT.test(atom))) return wrong('address-sign-before');
  const labels = asciiDomain(domain).split('.');
  if (labels.length < 2) return wrong('address-no-ending');
  if (labels.some((label) => label === '')) return wrong('address-stop-after');
  if (!labels.every((label) => LABEL.test(label))) return wrong('address-sign-after');
  if (/^\d+$/.test(labels.at(-1)!)) return wrong('address-number-ending');
  return { kind: 'address', address: text };
}

/** A domain in ASCII (UTS #46), as the WHATWG URL Standard has it; as it is where it has no such form. */
function asciiDomain(domain: string): string {
  // Signs that cannot be seen would go unseen.
  if (!/^[\p{L}\p{M}\p{N}.-]+$/u.test(domain) || /^[\u0021-\u007e]*$/.test(domain)) return domain;
  try {
    const { hostname } = new URL(`http://${domain.normalize('NFC')}`);
    return /^[a-z0-9.-]+$/.test(hostname) ? hostname : domain;
  } catch {
    return domain;
  }
}

const utf8 = new TextEncoder();
const octets = (text: string): number => utf8.encode(text).length;

/** True where a mail server has to take letters beyond ASCII before the `@` (RFC 6531). */
export const needsUtf8 = (address: string): boolean => /[\u0080-\uffff]/.test(address.split('@')[0] ?? '');

/** The addresses in a cell, each once, and what stands beside them that is none. */
export interface AddressesReading {
  readonly addresses: readonly string[];
  readonly wrong: readonly { readonly text: string; readonly reason: Saying }[];
}

/**
 * Reads a cell that may hold several addresses: with commas, semicolons or lines between them, or with spaces, strokes or a word such
 * as "and" where each has its own `@`. A name before an address in angle brackets (RFC 5322, 3.4) does not count.
 */
export function readAddresses(cell: string): AddressesReading {
  const addresses = new Map<string, string>();
  const wrong: { text: string; reason: Saying }[] = [];
  for (const text of partsOf(cell)) {
    const reading = readAddress(/<([^<>]*)>\s*$/.exec(text)?.[1] ?? text);
    if (reading.kind === 'wrong') wrong.push({ text, reason: reading.reason });
    if (reading.kind === 'address' && !addresses.has(addressKey(reading.address)))
      addresses.set(addressKey(reading.address), reading.address);
  }
  return { addresses: [...addresses.values()], wrong };
}

/**
 * By which two addresses are the same: capitals do not count (RFC 5321, 2.4 lets them in a local part; in practice none does), nor
 * whether a domain is written in its own script or in ASCII.
 */
export function addressKey(address: string): string {
  const plain = address.trim().toLowerCase();
  const at = plain.lastIndexOf('@') + 1;
  return plain.slice(0, at) + asciiDomain(plain.slice(at));
}

/** What stands between addresses besides commas, as languages of our schools write it. */
const BETWEEN = /\s*[/|]\s*|\s+(?:and|or|und|oder|et|ou|y|o|&)\s+|\s+/i;

/** Parts of a cell between separators that do not stand in quotes. */
function partsOf(cell: string): string[] {
  const parts = cell.match(/(?:"(?:[^"\\]|\\.)*"|[^,;\r\n])+/g) ?? [];
  return parts
    .flatMap((part) => {
      const words = part.trim().split(BETWEEN);
      return words.length > 1 && words.every((word) => /^[^<>]*@[^<>]*$/.test(word)) ? words : [part.trim()];
    })
    .filter(Boolean);
}

const wrong = <C extends Code>(code: C, ...given: Given<C>): AddressReading => ({
  kind: 'wrong',
  reason: saying(code, ...given),
});
