/** What an operator of a content stream was found with. */
export interface Operation {
  readonly operator: string;
  /** Where its first operand begins, and where it ends itself. */
  readonly from: number;
  readonly to: number;
  /** Its operands as they stand. */
  readonly operands: readonly string[];
}

const WHITE = new Set([0x00, 0x09, 0x0a, 0x0c, 0x0d, 0x20]);
const DELIMITERS = new Set([...'()<>[]{}/%'].map((sign) => sign.charCodeAt(0)));
const isRegular = (byte: number | undefined): boolean =>
  byte !== undefined && !WHITE.has(byte) && !DELIMITERS.has(byte);

/** The operations of a content stream in their order (ISO 32000-1, 7.8.2); an inline image is one (8.9.7). */
export function* operationsOf(bytes: Uint8Array): Generator<Operation> {
  let at = 0;
  let from = -1;
  let operands: string[] = [];
  const text = (start: number, end: number): string =>
    Buffer.from(bytes.subarray(start, end)).toString('latin1');
  while (at < bytes.length) {
    const byte = bytes[at]!;
    if (WHITE.has(byte)) {
      at++;
      continue;
    }
    if (byte === 0x25) {
      while (at < bytes.length && bytes[at] !== 0x0a && bytes[at] !== 0x0d) at++;
      continue;
    }
    if (from < 0) from = at;
    const start = at;
    if (byte === 0x28) at = endOfString(bytes, at);
    else if (byte === 0x3c && bytes[at + 1] !== 0x3c) {
      while (at < bytes.length && bytes[at] !== 0x3e) at++;
      at++;
    } else if (byte === 0x2f) {
      at++;
      while (isRegular(bytes[at])) at++;
    } else if (isRegular(byte)) {
      while (isRegular(bytes[at])) at++;
      const word = text(start, at);
      if (!/^[+\-.\d]/.test(word) && !['true', 'false', 'null'].includes(word)) {
        if (word === 'BI') at = endOfInlineImage(bytes, at);
        yield { operator: word, from, to: at, operands };
        from = -1;
        operands = [];
        continue;
      }
    } else at += byte === 0x3c || (byte === 0x3e && bytes[at + 1] === 0x3e) ? 2 : 1;
    operands.push(text(start, at));
  }
}

function endOfString(bytes: Uint8Array, from: number): number {
  let depth = 0;
  for (let at = from; at < bytes.length; at++) {
    if (bytes[at] === 0x5c) at++;
    else if (bytes[at] === 0x28) depth++;
    else if (bytes[at] === 0x29 && --depth === 0) return at + 1;
  }
  return bytes.length;
}

/** Behind the `EI` that ends an inline image: its data may hold anything. */
function endOfInlineImage(bytes: Uint8Array, from: number): number {
  for (let at = from; at + 2 < bytes.length; at++)
    if (
      bytes[at] === 0x45 &&
      bytes[at + 1] === 0x49 &&
      WHITE.has(bytes[at - 1]!) &&
      !isRegular(bytes[at + 2])
    )
      return at + 2;
  return bytes.length;
}

const MARKS = new Set(['BMC', 'BDC', 'EMC', 'MP', 'DP']);
const SHOWING = new Set(['Tj', 'TJ', "'", '"']);

/** A content stream as it can stand in another document. */
export interface Cleaned {
  readonly bytes: Uint8Array;
  /** Whether it shows text. */
  readonly shows: boolean;
}

/**
 * Takes the marks out that tie content to a structure tree (ISO 32000-1, 14.6): what stands under others is no part of
 * theirs. What belongs to a layer that is switched off goes out whole.
 *
 * @param isOff whether a layer is, by the name that the resources have for it.
 */
export function cleaned(bytes: Uint8Array, isOff: (property: string) => boolean): Cleaned {
  const kept: Uint8Array[] = [];
  let shows = false;
  let depth = 0;
  /** How deep marks stood where the content began that is not shown. */
  let hiddenFrom = -1;
  for (const { operator, from, to, operands } of operationsOf(bytes)) {
    if (operator === 'BMC' || operator === 'BDC') {
      if (hiddenFrom < 0 && operands[0] === '/OC' && isOff((operands[1] ?? '').replace(/^\//, '')))
        hiddenFrom = depth;
      depth++;
    } else if (operator === 'EMC') {
      depth = Math.max(0, depth - 1);
      if (depth <= hiddenFrom) hiddenFrom = -1;
    }
    if (MARKS.has(operator) || hiddenFrom >= 0) continue;
    if (SHOWING.has(operator)) shows = true;
    kept.push(bytes.subarray(from, to), NEWLINE);
  }
  return { bytes: Buffer.concat(kept), shows };
}

const NEWLINE = Buffer.from('\n');
