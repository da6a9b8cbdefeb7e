/** What a cell that should hold one email address holds. */
export type AddressReading =
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'none' }
  | { readonly kind: 'wrong'; readonly reason: string };

/** RFC 5321 4.5.3.1: octets in a local part, and in a path without its angle brackets (RFC 3696 erratum 1690). */
const LOCAL_MOST = 64;
const ADDRESS_MOST = 254;

const ATEXT = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+$/;
const LABEL = /^[A-Za-z0-9]([A-Za-z0-9-]{0,61}[A-Za-z0-9])?$/;

/**
 * Reads a cell as one email address: RFC 5321 `Dot-string@Domain`, with a domain of at least two labels. Spaces around
 * it do not count. International domains are written in their ASCII form; quoted local parts and address literals are
 * not accepted, since no school's mail system hands them out.
 */
export function readAddress(cell: string): AddressReading {
  const text = cell.trim();
  if (text === '') return { kind: 'none' };
  const wrong = (reason: string): AddressReading => ({ kind: 'wrong', reason });
  if (/\s/.test(text)) return wrong('there is a space in it');
  if (/[,;]/.test(text)) return wrong('there is a comma or semicolon in it; one address is expected');
  const parts = text.split('@');
  if (parts.length === 1) return wrong('the @ is missing');
  if (parts.length > 2) return wrong('there is more than one @');
  const [local, domain] = parts as [string, string];
  if (local === '') return wrong('nothing stands before the @');
  if (domain === '') return wrong('nothing stands after the @');
  if (local.length > LOCAL_MOST || text.length > ADDRESS_MOST) return wrong('it is too long');
  if (local.split('.').some((atom) => atom === '')) return wrong('a full stop before the @ is out of place');
  if (!local.split('.').every((atom) => ATEXT.test(atom)))
    return wrong('a character before the @ is not allowed');
  const labels = domain.split('.');
  if (labels.length < 2) return wrong('the part after the @ has no ending such as .org');
  if (labels.some((label) => label === '')) return wrong('a full stop after the @ is out of place');
  if (!labels.every((label) => LABEL.test(label))) return wrong('a character after the @ is not allowed');
  if (/^\d+$/.test(labels.at(-1)!)) return wrong('the ending after the last full stop is a number');
  return { kind: 'address', address: text };
}
