import { decodeBytes, detectEncoding, encodingName } from './encodings.js';
import type { Encoding } from './reading.js';
import { rowsThat } from './row-list.js';
import type { SheetNote } from './sheet.js';
import { refuse, succeed, type Result } from './result.js';

export interface DecodedText {
  readonly text: string;
  readonly encoding: Encoding;
  readonly notes: readonly SheetNote[];
}

const bytesOf = (text: string): number[] => Array.from(text, (sign) => sign.charCodeAt(0));

/** Leading bytes of files that hold no table as text, with the name to say. */
const SIGNATURES: readonly [readonly number[], string][] = [
  [[0x50, 0x4b, 0x03, 0x04], 'a spreadsheet workbook or a ZIP archive'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old spreadsheet or word-processor document'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF document'],
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a GIF picture'],
  [[0x1f, 0x8b], 'a compressed archive'],
  [[0x52, 0x61, 0x72, 0x21], 'a compressed archive'],
  [[0x37, 0x7a, 0xbc, 0xaf], 'a compressed archive'],
  [[0x7f, 0x45, 0x4c, 0x46], 'a program'],
  [[0x4d, 0x5a, 0x90], 'a program'],
  [bytesOf('{\\rtf'), 'a rich-text document'],
];

/** Tables in text that are not delimited, by how they begin. */
const FORMS: readonly [RegExp, string][] = [
  [/^ID;P/, 'a SYLK file, an old format for exchanging spreadsheets'],
  [/^TABLE\r?\n0,1\r?\n/, 'a DIF file, an old format for exchanging spreadsheets'],
];

/**
 * Turns a file's bytes into text. `given` overrules what is found out about how it is written; what was guessed, and bytes that
 * mean nothing, are noted.
 *
 * Refuses with `file-empty`, or with `file-binary` where the bytes are no delimited text.
 */
export function decodeText(bytes: Uint8Array, given?: Encoding): Result<DecodedText> {
  if (bytes.length === 0) {
    return refuse(
      'file-empty',
      'The file is empty (0 bytes). Export the sheet again and drop the new file here.',
    );
  }
  const signature = SIGNATURES.find(([magic]) => magic.every((byte, i) => bytes[i] === byte));
  if (signature) return otherKind(signature[1]);
  const { encoding, how } = given ? ({ encoding: given, how: 'said' } as const) : detectEncoding(bytes);
  const text = decodeBytes(bytes, encoding);
  if (looksBinary(text)) {
    return refuse(
      'file-binary',
      'The file does not hold text: it has control characters that no sheet contains. Save the sheet as CSV and drop that file here.',
    );
  }
  const form = FORMS.find(([begins]) => begins.test(text.slice(0, 100)));
  if (form) return otherKind(form[1]);
  return succeed({ text, encoding, notes: notesOf(text, encoding, how === 'guessed') });
}

const otherKind = (what: string): Result<never> =>
  refuse(
    'file-binary',
    `The file is ${what}, and no table that can be read. Save the sheet as CSV, XLSX or ODS and drop that file here.`,
  );

function notesOf(text: string, encoding: Encoding, guessed: boolean): SheetNote[] {
  const notes: SheetNote[] = [];
  if (guessed && encoding !== 'utf-8')
    notes.push({
      code: 'encoding-guessed',
      message: `The file does not say how its letters are written. It was read as ${encodingName(encoding)}. Look at names with accents; if they are wrong, choose another.`,
    });
  if (text.includes('\ufffd')) {
    const lines = text.split(/\r\n|\r|\n/);
    const rows = lines.flatMap((line, at) => (line.includes('\ufffd') ? [at + 1] : [])).slice(0, 1000);
    notes.push({
      code: 'letters-lost',
      message: `${rowsThat(rows, 'has', 'have')} bytes that mean nothing in ${encodingName(encoding)}; they show as \ufffd. The rest is right. Mend the text there.`,
      rows,
    });
  }
  return notes;
}

/** Text has no control characters but tab, line feed, carriage return; a few strays are forgiven. */
function looksBinary(text: string): boolean {
  const sample = text.slice(0, 65_536);
  // eslint-disable-next-line no-control-regex
  const controls = sample.match(/[\u0000-\u0008\u000e-\u001f]/g)?.length ?? 0;
  return sample.includes('\u0000') || controls > sample.length * 0.01;
}
