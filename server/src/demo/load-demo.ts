import { readLetterFile } from '@scriptum/core/letter-file';
import { columnChanges, learnerName, nameColumns } from '@scriptum/core/roll';
import { textPlain, type Block } from '@scriptum/core/text';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  collectFields,
  matchFields,
  cutMustache,
  readLine,
  readTemplateFile,
  type CoverNote,
  type Exception,
  Letterhead,
  type Letter,
  type Placed,
  withTemplatePictures,
  allTemplatesOf,
  emptySorting,
  Sorting,
  writingsOf,
} from '@scriptum/core/template';
import type { DataSource, EntityManager } from 'typeorm';
import { Form } from '@scriptum/core/form';
import { Order } from '@scriptum/core/order';
import { publishForm } from '../intake/doors.js';
import { addOrder, switchOrder } from '../order/orders.js';
import { z } from 'zod';
import { prepareGround } from '../ground/prepare-ground.js';
import { keepBlob } from '../store/blobs.js';
import { AssetRow, FolioRow } from '../store/entities/folio.js';
import { LetterheadPictureRow, LetterheadRow } from '../store/entities/letterhead.js';
import { School, Staff } from '../store/entities/people.js';
import { createFolio, findFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { hashPassword } from '../store/password.js';
import { bringInBytes } from '../roll/bring-in-bytes.js';
import { matchAllFields } from '../roll/match-fields.js';
import { patchRoll } from '../roll/patch-roll.js';
import { loadRoll } from '../store/rolls.js';
import { addWriting, changeWriting, loadWritings } from '../store/writings.js';
import { readWorked } from './read-worked.js';

/** Shown on the sign-in page in demo mode only. */
export const DEMO_ACCOUNT = { email: 'office@thistlequay.example', password: 'tide-table-and-chalk' };

const folder = fileURLToPath(new URL('../../../demo', import.meta.url));

/** The demo school's folios, the first on top of the list. */
const FOLIOS: readonly {
  readonly title: string;
  readonly folder: string;
  readonly file: string;
  readonly certificates?: readonly string[];
  /** True where the letter is there to be looked at, and nobody gets it. */
  readonly letterOff?: boolean;
}[] = [
  {
    title: 'Instrument loans',
    folder: 'loans',
    file: 'Instrument loans.csv',
    certificates: ['overprint.json'],
  },
  {
    title: 'River survey awards',
    folder: 'river',
    file: 'River survey.csv',
    certificates: ['gold.json', 'silver.json', 'bronze.json'],
    letterOff: true,
  },
  { title: 'Year 8 spring reports', folder: 'reports', file: 'Year 8 spring marks.csv' },
  { title: 'Bridge-design feedback', folder: 'bridge', file: 'Bridge-design feedback (responses).csv' },
];

const NoteFile = z.object({
  name: z.string().optional(),
  /** Titles of the columns that it is sent to; those that the roll offers where nothing is said. */
  to: z.array(z.string()).optional(),
  family: z.boolean().optional(),
  subject: z.string(),
  body: z.array(z.string()),
});
/** The field of a note that names all learners whom a message is about. */
const LEARNERS = 'The learners';

/** Loads Thistlequay School with its staff member and folios, in one transaction. */
export async function loadDemo(database: DataSource): Promise<void> {
  const passwordHash = await hashPassword(DEMO_ACCOUNT.password);
  await database.transaction(async (manager) => {
    const schoolId = newId();
    const now = Date.now();
    await manager.insert(School, {
      id: schoolId,
      name: 'Thistlequay School',
      timeZone: 'Europe/London',
      createdAt: new Date(now),
    });
    await manager.insert(Staff, {
      id: newId(),
      schoolId,
      email: DEMO_ACCOUNT.email,
      name: 'Marit Osgathorpe',
      passwordHash,
    });
    await addLetterhead(manager, schoolId, new Date(now));
    for (const [n, folio] of FOLIOS.entries()) {
      const id = await loadFolio(manager, schoolId, folio, new Date(now + n));
      await manager.update(FolioRow, { id }, { changedAt: new Date(now + n) });
    }
  });
}

/** The letterhead of `letterhead.json`; its pictures are files beside it. */
async function addLetterhead(manager: EntityManager, schoolId: string, at: Date): Promise<void> {
  const file = JSON.parse(await readFile(path.join(folder, 'letterhead.json'), 'utf8')) as LetterheadFile;
  const kept = async <T extends { picture: string }>({ picture, ...rest }: T) => {
    const blobHash = await keepBlob(manager, schoolId, await readFile(path.join(folder, picture)));
    const row = { id: newId(), schoolId, name: picture, mime: 'image/svg+xml', blobHash };
    await manager.insert(LetterheadPictureRow, row);
    return { ...rest, asset: row.id };
  };
  const signOffs: unknown[] = [];
  for (const one of file.signOffs)
    signOffs.push({ ...one, picture: one.picture && (await kept(one.picture)) });
  const content = Letterhead.parse({ ...file, crest: await kept(file.crest), signOffs });
  await manager.insert(LetterheadRow, { schoolId, version: 1, content, changedAt: at, changedBy: null });
}

interface LetterheadFile {
  readonly crest: { readonly picture: string };
  readonly signOffs: readonly { readonly picture: { readonly picture: string } | null }[];
}

async function loadFolio(
  manager: EntityManager,
  schoolId: string,
  about: (typeof FOLIOS)[number],
  at: Date,
): Promise<string> {
  const from = path.join(folder, about.folder);
  const read = readTemplateFile(await readFile(path.join(from, 'letter.json'), 'utf8'), newId);
  if (!read.ok) throw new Error(`demo/${about.folder}/letter.json: ${read.problem.message}`);
  const noteFile = NoteFile.parse(JSON.parse(await readFile(path.join(from, 'note.json'), 'utf8')));
  const folio = await createFolio(manager, schoolId, about.title, at);
  const letter = await keepPictures(manager, folio, from, read.value.letter);
  const filing = readLine(read.value.fileName ?? '', newId);
  const contents = {
    letter: about.letterOff ? { ...letter, off: true } : letter,
    note: readNote(noteFile),
    filing: { fields: filing.fields, pattern: filing.line },
    // Its rules name columns and templates that are not there yet.
    sorting: emptySorting(),
  };
  for (const writing of await loadWritings(manager, { schoolId, folioId: folio.id }))
    await changeWriting(
      manager,
      { ...writing, schoolId },
      { content: contents[writing.kind as keyof typeof contents], staffId: null },
    );
  await bringInBytes(manager, schoolId, folio.id, {
    name: about.file,
    bytes: await readFile(path.join(from, 'roll.csv')),
  });
  await addWorked(manager, schoolId, folio.id, from);
  const { columns } = await findFolio(manager, schoolId, folio.id);
  await addressNotes(manager, folio, from, columns);
  for (const name of about.certificates ?? []) {
    const content = await readCertificate(manager, folio, path.join(from, name), columns);
    await addWriting(manager, { schoolId, folioId: folio.id }, { kind: 'placed', content }, null, at);
  }
  await addSorting(manager, folio, from, columns);
  await addException(manager, folio, from, at);
  await addForm(manager, folio, from, columns);
  await addOrders(manager, folio, from, columns);
  return folio.id;
}

/** Says to which columns the note is sent, and adds that of `note-2.json`, where the folder has one. */
async function addressNotes(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  from: string,
  columns: FolioRow['columns'],
): Promise<void> {
  const given = nameColumns(columns).find(({ role }) => role === 'given name');
  const addressed = (note: CoverNote, { name, to, family }: z.infer<typeof NoteFile>): CoverNote => ({
    ...note,
    ...(name ? { name } : {}),
    ...(family ? { family } : {}),
    to: to?.map((title) => ({ columnId: columns.find((column) => column.title === title)!.id })) ?? note.to,
    fields: matchFields(note.fields, columns).map((field) =>
      field.name === LEARNERS
        ? { ...field, columnId: null, same: { kind: 'learners' as const, columnId: given?.id ?? null } }
        : field,
    ),
  });
  const read = async (name: string): Promise<z.infer<typeof NoteFile> | null> => {
    const json = await readFile(path.join(from, name), 'utf8').catch(() => null);
    return json === null ? null : NoteFile.parse(JSON.parse(json));
  };
  const [first] = writingsOf(await loadWritings(manager, { schoolId, folioId }), 'note');
  const content = addressed(first!.content, (await read('note.json'))!);
  await changeWriting(manager, { ...first!, schoolId }, { content, staffId: null });
  const second = await read('note-2.json');
  if (!second) return;
  const added = { kind: 'note' as const, content: addressed(readNote(second), second) };
  await addWriting(manager, { schoolId, folioId }, added, null, new Date());
}

/** The rules of `sorting.json`, where the folder has one; they name columns by their titles and templates by their names. */
async function addSorting(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  from: string,
  columns: FolioRow['columns'],
): Promise<void> {
  const json = await readFile(path.join(from, 'sorting.json'), 'utf8').catch(() => null);
  if (json === null) return;
  const writings = await loadWritings(manager, { schoolId, folioId });
  const ids = new Map([
    ...columns.map(({ id, title }) => [title, id] as const),
    ...allTemplatesOf(writings).map(({ id, content }) => [content.name, id] as const),
  ]);
  const named = (key: string, value: unknown): unknown =>
    key === 'columnId' || (key !== 'values' && typeof value === 'string' && ids.has(value))
      ? (ids.get(value as string) ?? value)
      : value;
  const { rules } = JSON.parse(json, named) as { rules: object[] };
  const content = Sorting.parse({ rules: rules.map((rule) => ({ id: newId(), ...rule })) });
  const [sorting] = writingsOf(writings, 'sorting');
  await changeWriting(manager, { ...sorting!, schoolId }, { content, staffId: null });
}

/** The form of `form.json`, where the folder has one: published, with the columns of the roll by their titles behind `@`. */
async function addForm(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  from: string,
  columns: FolioRow['columns'],
): Promise<void> {
  const json = await readFile(path.join(from, 'form.json'), 'utf8').catch(() => null);
  if (json === null) return;
  const own = new Map<string, string>();
  const content = Form.parse(
    JSON.parse(json, (_, value: unknown) => {
      if (typeof value !== 'string') return value;
      if (value.startsWith('@')) return columns.find(({ title }) => title === value.slice(1))!.id;
      if (!value.startsWith('#')) return value;
      own.set(value, own.get(value) ?? newId());
      return own.get(value);
    }),
  );
  const place = { schoolId, folioId };
  const { id, version } = await addWriting(manager, place, { kind: 'form', content }, null);
  await publishForm(manager, { ...place, staffId: null }, id, version, '');
}

/** The standing orders of `orders.json`, where the folder has one; on, with the columns of the roll by their titles behind `@`. */
async function addOrders(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  from: string,
  columns: FolioRow['columns'],
): Promise<void> {
  const json = await readFile(path.join(from, 'orders.json'), 'utf8').catch(() => null);
  if (json === null) return;
  const orders = z
    .array(Order)
    .parse(
      JSON.parse(json, (_, value: unknown) =>
        typeof value === 'string' && value.startsWith('@')
          ? columns.find(({ title }) => title === value.slice(1))!.id
          : value,
      ),
    );
  const { id: staffId } = await manager.findOneByOrFail(Staff, { schoolId, email: DEMO_ACCOUNT.email });
  const place = { schoolId, folioId };
  for (const order of orders) {
    const orderId = newId();
    await addOrder(manager, place, { id: orderId, order });
    await switchOrder(manager, { ...place, staffId, orderId }, true);
  }
}

const ExceptionFile = z.object({ learner: z.string(), instead: z.string(), text: z.string() });

/** What is another one for one learner, where the folder has an `exception.json`: a text in the place of a paragraph. */
async function addException(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  from: string,
  at: Date,
): Promise<void> {
  const json = await readFile(path.join(from, 'exception.json'), 'utf8').catch(() => null);
  if (json === null) return;
  const { learner, instead, text } = ExceptionFile.parse(JSON.parse(json));
  const roll = await loadRoll(manager, await findFolio(manager, schoolId, folioId));
  const entry = roll.entries.find((one) => learnerName(one, nameColumns(roll.columns)) === learner);
  const [letter] = writingsOf(await loadWritings(manager, { schoolId, folioId }), 'letter');
  if (!entry || !letter) throw new Error(`${from}/exception.json: nobody is called ${learner}`);
  const { content: base } = letter;
  const own: Block = { type: 'paragraph', content: [{ type: 'text', text }] };
  const blocks = base.body.content.map((block) =>
    textPlain({ type: 'doc', content: [block] }, {}).startsWith(instead) ? own : block,
  );
  const content: Exception = {
    kind: 'exception',
    entryId: entry.id,
    of: letter.id,
    base,
    own: { ...base, body: { ...base.body, content: blocks } },
  };
  const added = { kind: 'exception' as const, name: learner, content };
  await addWriting(manager, { schoolId, folioId }, added, null, at);
}

/** A certificate that was saved as a file, over the columns of the roll; a PDF that it stands on lies beside it. */
async function readCertificate(
  manager: EntityManager,
  { id: folioId, schoolId }: FolioRow,
  file: string,
  columns: FolioRow['columns'],
): Promise<Placed> {
  const read = readLetterFile(await readFile(file), columns, newId);
  if (!read.ok) throw new Error(`${file}: ${read.problem.message}`);
  const { letter } = read.value;
  if (letter.kind !== 'placed') throw new Error(`${file}: no certificate`);
  const kept = new Map<string, string>();
  for (const name of new Set(letter.pages.flatMap(({ ground }) => ground?.asset ?? []))) {
    const ready = await prepareGround(await readFile(path.join(path.dirname(file), name)));
    if (!ready.ok) throw new Error(`${name}: ${ready.problem.message}`);
    const { bytes, about } = ready.value;
    const blobHash = await keepBlob(manager, schoolId, Buffer.from(bytes));
    const row = { id: newId(), schoolId, folioId, name, mime: 'application/pdf', blobHash, about };
    await manager.insert(AssetRow, row);
    kept.set(name, row.id);
  }
  return withTemplatePictures(letter, (asset) => kept.get(asset));
}

/** The worked columns of `worked.json`, where the folder has one, behind those of the sheet; fields are matched to them. */
async function addWorked(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  from: string,
): Promise<void> {
  const json = await readFile(path.join(from, 'worked.json'), 'utf8').catch(() => null);
  if (json === null) return;
  const folio = await findFolio(manager, schoolId, folioId);
  await patchRoll(manager, schoolId, folioId, {
    columns: columnChanges(folio.columns, readWorked(json, folio.columns)),
  });
  const changed = await findFolio(manager, schoolId, folioId);
  await matchAllFields(manager, changed, await loadRoll(manager, changed));
}

/** The address column is guessed when the roll comes in. */
function readNote(file: z.infer<typeof NoteFile>): CoverNote {
  const collector = collectFields(newId);
  const subject = cutMustache(file.subject, collector);
  const content = file.body.map((text): Block => ({
    type: 'paragraph',
    content: cutMustache(text, collector),
  }));
  return { to: [], fields: collector.fields, subject, body: { type: 'doc', content } };
}

async function keepPictures(
  manager: EntityManager,
  folio: FolioRow,
  from: string,
  letter: Letter,
): Promise<Letter> {
  const content: Block[] = [];
  for (const block of letter.body.content) {
    if (block.type !== 'picture') {
      content.push(block);
      continue;
    }
    const bytes = await readFile(path.join(from, block.attrs.asset));
    const blobHash = await keepBlob(manager, folio.schoolId, bytes);
    const asset = {
      id: newId(),
      schoolId: folio.schoolId,
      folioId: folio.id,
      name: path.basename(block.attrs.asset),
      mime: 'image/svg+xml',
      blobHash,
    };
    await manager.insert(AssetRow, asset);
    content.push({ ...block, attrs: { ...block.attrs, asset: asset.id } });
  }
  return { ...letter, body: { type: 'doc', content } };
}
