import type { Encoding } from './reading.js';
import { refuse, succeed, type Result } from './result.js';

export interface DecodedText {
  readonly text: string;
  readonly encoding: Encoding;
}

/** Leading bytes of files that people rename to .csv, with the name to say. */
const SIGNATURES: readonly [readonly number[], string][] = [
  [[0x50, 0x4b, 0x03, 0x04], 'a spreadsheet workbook or a ZIP archive'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old spreadsheet or word-processor document'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF'],
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a GIF picture'],
  [[0x1f, 0x8b], 'a compressed archive'],
  [[0x7f, 0x45, 0x4c, 0x46], 'a program'],
];

/** 0x80 to 0x9F in Windows-1252 (WHATWG Encoding, index windows-1252); some engines decode them as ISO 8859-1. */
const WINDOWS_1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/**
 * Turns a file's bytes into text. A byte order mark decides; without one, UTF-16 is recognised by its zero bytes,
 * valid UTF-8 is taken as such, and all else as Windows-1252, which never fails. `given` overrules all that.
 *
 * Refuses with `file-empty`, or with `file-binary` where the bytes are not text.
 */
export function decodeText(bytes: Uint8Array, given?: Encoding): Result<DecodedText> {
  if (bytes.length === 0) {
    return refuse(
      'file-empty',
      'The file is empty (0 bytes). Export the sheet again and drop the new file here.',
    );
  }
  const signature = SIGNATURES.find(([magic]) => magic.every((byte, i) => bytes[i] === byte));
  if (signature) {
    return refuse(
      'file-binary',
      `The file is named like a CSV but holds ${signature[1]}. Save the sheet as CSV and drop that file here.`,
    );
  }
  const encoding = given ?? detectEncoding(bytes);
  const decoded = new TextDecoder(encoding).decode(bytes);
  const text =
    encoding === 'windows-1252'
      ? decoded.replace(/[\u0080-\u009f]/g, (c) => WINDOWS_1252[c.charCodeAt(0) - 0x80]!)
      : decoded;
  if (looksBinary(text)) {
    return refuse(
      'file-binary',
      'The file does not hold text: it has control characters that no sheet contains. Save the sheet as CSV and drop that file here.',
    );
  }
  return succeed({ text, encoding });
}

function detectEncoding(bytes: Uint8Array): Encoding {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const sample = bytes.subarray(0, 4096);
  let even = 0;
  let odd = 0;
  sample.forEach((byte, i) => {
    if (byte === 0) {
      if (i % 2 === 0) even++;
      else odd++;
    }
  });
  const pairs = sample.length / 2;
  if (odd > pairs * 0.4 && even < pairs * 0.1) return 'utf-16le';
  if (even > pairs * 0.4 && odd < pairs * 0.1) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** Text has no control characters but tab, line feed, carriage return; a few strays are forgiven. */
function looksBinary(text: string): boolean {
  const sample = text.slice(0, 65_536);
  // eslint-disable-next-line no-control-regex
  const controls = sample.match(/[\u0000-\u0008\u000e-\u001f]/g)?.length ?? 0;
  return sample.includes('\u0000') || controls > sample.length * 0.01;
}
