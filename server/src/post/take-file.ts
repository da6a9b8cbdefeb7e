import { fileTypeFromBuffer } from 'file-type';
import { ALONG_MOST } from '@scriptum/core/template';
import { Refusal } from '../refusal.js';

/** Files that mail servers let through and families can open, by the ending of their names (common practice, no published source). */
const KINDS: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  odp: 'application/vnd.oasis.opendocument.presentation',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
};
/** Those that are text, and have no signs of their own at their beginning. */
const TEXTS: Readonly<Record<string, string>> = {
  txt: 'text/plain; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  ics: 'text/calendar; charset=utf-8',
};

/**
 * Looks at a file that is to go along with messages.
 *
 * @returns its media type.
 * @throws Refusal for one that is too large, or of a kind that mail does not take, or other than its name says.
 */
export async function checkAlong(name: string, bytes: Buffer): Promise<string> {
  if (bytes.length === 0) throw refused('file-blank', `“${name}” is empty. Choose another file.`);
  if (bytes.length > ALONG_MOST.bytes)
    throw refused(
      'file-large',
      `“${name}” is larger than 10 MB, which many mail servers refuse. Make it smaller, or link to it in the text.`,
    );
  const ending = /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? '';
  if (ending in TEXTS) {
    if (bytes.includes(0)) throw otherwise(name);
    return TEXTS[ending]!;
  }
  const wanted = KINDS[ending];
  if (wanted === undefined)
    throw refused(
      'file-kind',
      `“${name}” is of a kind that mail servers often refuse. PDF, Word, Excel, PowerPoint, OpenDocument, PNG, JPEG, text, CSV and calendar files can go along.`,
    );
  const found = await fileTypeFromBuffer(bytes);
  if (found?.mime !== wanted) throw otherwise(name);
  return wanted;
}

const refused = (code: string, message: string): Refusal => new Refusal(422, code, message);

const otherwise = (name: string): Refusal =>
  refused('file-other', `“${name}” is not what its name says. Open it, save it once more, and choose that.`);
