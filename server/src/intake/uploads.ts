import type { UploadKept } from '@scriptum/core/contract';
import { FORM_LIMITS, type Form, type FormItem } from '@scriptum/core/form';
import { fileTypeFromBuffer } from 'file-type';
import { IsNull, LessThan, type EntityManager } from 'typeorm';
import { checkPicture } from '../press/check-picture.js';
import { Refusal } from '../refusal.js';
import { keepBlob } from '../store/blobs.js';
import { FormUploadRow, type FormDoorRow } from '../store/entities/intake.js';
import { newId } from '../store/id.js';
import { withoutTraces } from './without-traces.js';

/** Files of a form that wait for their answers, at the most, and milliseconds for which they do. */
const WAITING_MOST = 2_000;
const WAIT = 2 * 24 * 60 * 60 * 1000;

export const UPLOAD_MOST = FORM_LIMITS.megabytes * 1024 * 1024;

const PDF = 'application/pdf';
const PHOTOS = new Set(['image/png', 'image/jpeg', 'image/webp', 'image/gif']);
/** Papers as word processors and spreadsheets write them. */
const PAPERS = new Set([
  PDF,
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.oasis.opendocument.text',
  'application/vnd.oasis.opendocument.spreadsheet',
]);

/** A file that is brought before its answer is sent. */
export interface Brought {
  readonly itemId: string;
  readonly name: string;
  readonly bytes: Buffer;
}

/**
 * Keeps a file until its answer is sent. What it is goes by its bytes, not by its name; pictures lose what cameras write into them.
 *
 * @throws Refusal `file-blank`, `file-large`, `file-kind`, `file-room`, `not-asked`
 */
export async function keepUpload(
  manager: EntityManager,
  door: FormDoorRow,
  form: Form,
  { itemId, name, bytes }: Brought,
): Promise<UploadKept> {
  const item = form.items.find(({ id }) => id === itemId);
  if (item?.kind !== 'file' && item?.kind !== 'signature')
    throw new Refusal(422, 'not-asked', 'No file is asked for here.');
  const { schoolId, folioId, writingId } = door;
  const most = item.kind === 'file' ? item.megabytes : 1;
  if (bytes.length === 0) throw new Refusal(422, 'file-blank', 'This file is empty. Choose another one.');
  if (bytes.length > most * 1024 * 1024)
    throw new Refusal(413, 'file-large', `This file is larger than ${most} MB. Choose a smaller one.`);
  const mime = await kindOf(item, bytes);
  if ((await manager.countBy(FormUploadRow, { schoolId, writingId, answerId: IsNull() })) >= WAITING_MOST)
    throw new Refusal(429, 'file-room', 'Too many files are waiting just now. Try again in an hour.');
  const clean = PHOTOS.has(mime) ? withoutTraces(bytes, mime) : bytes;
  const row = {
    id: newId(),
    schoolId,
    folioId,
    writingId,
    itemId,
    answerId: null,
    name: plainName(name, mime),
    mime,
    blobHash: await keepBlob(manager, schoolId, clean),
    bytes: clean.length,
    broughtAt: new Date(),
  };
  await manager.insert(FormUploadRow, row);
  return { id: row.id, name: row.name };
}

/** Forgets what was brought and never sent. */
export async function sweepUploads(manager: EntityManager, now = new Date()): Promise<void> {
  await manager.delete(FormUploadRow, {
    answerId: IsNull(),
    broughtAt: LessThan(new Date(now.getTime() - WAIT)),
  });
}

/** @throws Refusal `file-kind` */
async function kindOf(
  item: Extract<FormItem, { kind: 'file' | 'signature' }>,
  bytes: Buffer,
): Promise<string> {
  const mime = (await fileTypeFromBuffer(bytes))?.mime ?? '';
  if (item.kind === 'signature' || item.takes === 'pictures') {
    const picture = PHOTOS.has(mime) ? await checkPicture(bytes) : null;
    if (picture?.ok) return picture.value;
    throw new Refusal(
      422,
      'file-picture',
      'This is no picture that can be taken. Choose a PNG, JPEG, WebP or GIF.',
    );
  }
  if (item.takes === 'pdf' ? mime === PDF : PAPERS.has(mime) || PHOTOS.has(mime)) return mime;
  throw new Refusal(
    422,
    item.takes === 'pdf' ? 'file-pdf' : 'file-paper',
    item.takes === 'pdf'
      ? 'This is no PDF. Choose a PDF.'
      : 'This file cannot be taken. Choose a PDF, a Word, Excel or OpenDocument file, or a picture.',
  );
}

const ENDINGS: Readonly<Record<string, string>> = {
  [PDF]: 'pdf',
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  'image/gif': 'gif',
};

/** A name without folders and signs that cannot be seen, with the ending of what the file is. */
function plainName(name: string, mime: string): string {
  const plain = name
    .replace(/^.*[\\/]/, '')
    .replace(/[\p{Cc}\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069;]+/gu, ' ')
    .trim();
  const ending = ENDINGS[mime];
  const stem = ending ? plain.replace(/\.[A-Za-z0-9]{1,5}$/, '') : plain;
  return `${[...stem].slice(0, 150).join('') || 'File'}${ending ? `.${ending}` : ''}`;
}
