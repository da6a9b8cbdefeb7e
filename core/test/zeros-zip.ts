import { deflateSync, strToU8 } from 'fflate';

/** A record of a ZIP archive (PKWARE APPNOTE 6.3, 4.3): numbers by their place and their length in bytes. */
function record(
  length: number,
  numbers: readonly (readonly [at: number, bytes: 2 | 4, value: number])[],
): Uint8Array {
  const bytes = new Uint8Array(length);
  const view = new DataView(bytes.buffer);
  for (const [at, size, value] of numbers)
    if (size === 2) view.setUint16(at, value, true);
    else view.setUint32(at, value, true);
  return bytes;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

/**
 * A ZIP archive of many parts of zeros: `parts` times `size` bytes when it is unpacked.
 *
 * @param how `shared` where all parts are the same bytes of the file, so that it stays tiny; `apart` where each has its own.
 */
export function zerosZip(parts: number, size: number, how: 'shared' | 'apart'): Uint8Array {
  const packed = deflateSync(new Uint8Array(size), { level: 9 });
  const name = (n: number): Uint8Array => strToU8(`xl/worksheets/sheet${String(n).padStart(5, '0')}.xml`);
  const local = record(30, [
    [0, 4, 0x04034b50],
    [8, 2, 8],
    [18, 4, packed.length],
    [22, 4, size],
    [26, 2, name(0).length],
  ]);
  const one = joined([local, name(0), packed]);
  const body = how === 'shared' ? one : joined(Array.from({ length: parts }, () => one));
  const directory = joined(
    Array.from({ length: parts }, (_, n) =>
      joined([
        record(46, [
          [0, 4, 0x02014b50],
          [10, 2, 8],
          [20, 4, packed.length],
          [24, 4, size],
          [28, 2, name(n).length],
          [42, 4, how === 'shared' ? 0 : n * one.length],
        ]),
        name(n),
      ]),
    ),
  );
  const end = record(22, [
    [0, 4, 0x06054b50],
    [8, 2, parts],
    [10, 2, parts],
    [12, 4, directory.length],
    [16, 4, body.length],
  ]);
  return joined([body, directory, end]);
}
