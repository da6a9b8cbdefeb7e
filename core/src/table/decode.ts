import { someRows, type FileKind } from '../sentences/index.js';
import { decodeBytes, detectEncoding, encodingName } from './encodings.js';
import type { Encoding } from './reading.js';
import { noteAt, noteThat, type SheetNote } from './sheet.js';
import { refuse, succeed, type Result } from './result.js';

export interface DecodedText {
  readonly text: string;
  readonly encoding: Encoding;
  readonly notes: readonly SheetNote[];
}

const bytesOf = (text: string): number[] => Array.from(text, (sign) => sign.charCodeAt(0));

/** Leading bytes of files that hold no table as text, with their kind. */
const SIGNATURES: readonly [readonly number[], FileKind][] = [
  [[0x50, 0x4b, 0x03, 0x04], 'archive'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'document'],
  [[0x25, 0x50, 0x44, 0x46], 'pdf'],
  [[0x89, 0x50, 0x4e, 0x47], 'png'],
  [[0xff, 0xd8, 0xff], 'jpeg'],
  [[0x47, 0x49, 0x46, 0x38], 'gif'],
  [[0x1f, 0x8b], 'compressed'],
  [[0x52, 0x61, 0x72, 0x21], 'compressed'],
  [[0x37, 0x7a, 0xbc, 0xaf], 'compressed'],
  [[0x7f, 0x45, 0x4c, 0x46], 'program'],
  [[0x4d, 0x5a, 0x90], 'program'],
  [bytesOf('{\\rtf'), 'rtf'],
];

/** Tables in text that are not delimited, by how they begin. */
const FORMS: readonly [RegExp, FileKind][] = [
  [/^ID;P/, 'sylk'],
  [/^TABLE\r?\n0,1\r?\n/, 'dif'],
];

/**
 * Turns a file's bytes into text. `given` overrules what is found out about how it is written; what was guessed, and bytes that
 * mean nothing, are noted.
 *
 * Refuses with `file-empty`, or with `file-binary` where the bytes are no delimited text.
 */
export function decodeText(bytes: Uint8Array, given?: Encoding): Result<DecodedText> {
  if (bytes.length === 0) {
    return refuse('file-empty', { sheet: null });
  }
  const signature = SIGNATURES.find(([magic]) => magic.every((byte, i) => bytes[i] === byte));
  if (signature) return refuse('file-binary', { kind: signature[1] });
  const { encoding, how } = given ? ({ encoding: given, how: 'said' } as const) : detectEncoding(bytes);
  const text = decodeBytes(bytes, encoding);
  if (looksBinary(text)) {
    return refuse('file-binary', { kind: null });
  }
  const form = FORMS.find(([begins]) => begins.test(text.slice(0, 100)));
  if (form) return refuse('file-binary', { kind: form[1] });
  return succeed({ text, encoding, notes: notesOf(text, encoding, how === 'guessed') });
}

function notesOf(text: string, encoding: Encoding, guessed: boolean): SheetNote[] {
  const notes: SheetNote[] = [];
  if (guessed && encoding !== 'utf-8')
    notes.push(noteThat('encoding-guessed', { encoding: encodingName(encoding) }));
  if (text.includes('\ufffd')) {
    const lines = text.split(/\r\n|\r|\n/);
    const rows = lines.flatMap((line, at) => (line.includes('\ufffd') ? [at + 1] : [])).slice(0, 1000);
    notes.push(noteAt(rows, 'letters-lost', { rows: someRows(rows), encoding: encodingName(encoding) }));
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
