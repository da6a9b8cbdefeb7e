import {
  emptyFiling,
  emptyLetter,
  emptyNote,
  emptySorting,
  isTemplateKind,
  WRITING_NAMES,
  WritingKind,
  writingsOf,
  withException,
  type Template,
  type Writing,
  type WritingContent,
  type WritingContents,
} from '@scriptum/core/template';
import { In, IsNull, type EntityManager, type FindOperator } from 'typeorm';
import { notFound } from '../refusal.js';
import type { PaperRow } from './entities/register.js';
import { WritingRow, WritingVersionRow } from './entities/writing.js';
import { newId } from './id.js';

/** Which folio, of which school. */
interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** All that is written in a folio, in its order. @param lock true to have the rows for this transaction alone. */
export async function loadWritings(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  lock = false,
): Promise<Writing[]> {
  const rows = await manager.find(WritingRow, {
    where: { folioId, schoolId, deletedAt: IsNull() },
    order: { kind: 'ASC', place: 'ASC', id: 'ASC' },
    ...(lock ? { lock: { mode: 'pessimistic_write' } } : {}),
  });
  return rows.map(writingOf);
}

export const writingOf = ({ id, kind, name, place, version, content }: WritingRow): Writing =>
  ({ id, kind, name, place, version, content }) as Writing;

/** The first writing of a kind. @throws Refusal `not-found` */
export function firstWriting<Kind extends WritingKind>(
  writings: readonly Writing[],
  kind: Kind,
): Extract<Writing, { kind: Kind }> {
  const [first] = writingsOf(writings, kind);
  if (!first) throw notFound(`The ${WRITING_NAMES[kind].toLowerCase()} of this folio`);
  return first;
}

/** @throws Refusal `not-found`, also for another school's */
export async function findWriting(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  writingId: string,
): Promise<WritingRow> {
  const row = await manager.findOneBy(WritingRow, {
    id: writingId,
    folioId,
    schoolId,
    deletedAt: IsNull(),
  });
  if (!row) throw notFound('What you were writing');
  return row;
}

/** The kinds that stand in one order with a kind: all that papers are made from do. */
export const inOneOrder = (kind: WritingKind): FindOperator<WritingKind> =>
  In(isTemplateKind(kind) ? WritingKind.options.filter(isTemplateKind) : [kind]);

/** Puts a writing behind the others of its order. */
export async function addWriting(
  manager: EntityManager,
  { schoolId, folioId }: Place,
  added: { kind: WritingKind; name?: string | undefined; content: WritingContent },
  staffId: string | null,
  at = new Date(),
): Promise<WritingRow> {
  const last = await manager.maximum(WritingRow, 'place', {
    folioId,
    schoolId,
    kind: inOneOrder(added.kind),
  });
  const row = manager.create(WritingRow, {
    id: newId(),
    schoolId,
    folioId,
    kind: added.kind,
    name: nameFor(added.kind, added.content, added.name),
    place: (last ?? -1) + 1,
    version: 1,
    content: added.content,
    changedAt: at,
    changedBy: staffId,
    deletedAt: null,
  });
  await manager.insert(WritingRow, row);
  return row;
}

/** What every folio begins with. */
export async function addFirstWritings(
  manager: EntityManager,
  place: Place,
  title: string,
  at: Date,
): Promise<void> {
  await addWriting(manager, place, { kind: 'letter', content: emptyLetter(title) }, null, at);
  await addWriting(manager, place, { kind: 'note', content: emptyNote() }, null, at);
  await addWriting(manager, place, { kind: 'filing', content: emptyFiling() }, null, at);
  await addWriting(manager, place, { kind: 'sorting', content: emptySorting() }, null, at);
}

/** Writes the next version of a writing whose folio is locked. */
export async function changeWriting(
  manager: EntityManager,
  { id, schoolId, kind, name, version }: Pick<WritingRow, 'id' | 'schoolId' | 'kind' | 'name' | 'version'>,
  change: { content: WritingContent; name?: string | undefined; staffId: string | null },
): Promise<void> {
  await manager.update(
    WritingRow,
    { id, schoolId, version },
    {
      content: change.content,
      name: nameFor(kind, change.content, change.name ?? name),
      version: version + 1,
      changedAt: new Date(),
      changedBy: change.staffId,
    },
  );
}

/** A letter bears its name itself, and so does a note that was given one. */
const nameFor = (kind: WritingKind, content: WritingContent, name: string | undefined): string =>
  ('name' in content ? content.name : undefined) ?? name ?? WRITING_NAMES[kind];

/** Keeps a writing as it is, since something is made from it; once for each version. */
export async function keepVersion(
  manager: EntityManager,
  schoolId: string,
  { id, version, content }: Pick<Writing, 'id' | 'version' | 'content'>,
): Promise<void> {
  await manager.query(
    `INSERT IGNORE INTO writing_version (id, schoolId, writingId, version, content, keptAt) VALUES (?, ?, ?, ?, ?, ?)`,
    [newId(), schoolId, id, version, JSON.stringify(content), new Date()],
  );
}

/** What a paper was made from, as it was then: its template, with what is another one for its learner. */
export async function madeFrom(
  manager: EntityManager,
  {
    schoolId,
    templateId,
    templateVersion,
    exceptionId,
    exceptionVersion,
  }: Pick<PaperRow, 'schoolId' | 'templateId' | 'templateVersion' | 'exceptionId' | 'exceptionVersion'>,
): Promise<Template> {
  const template = await keptContent<'letter' | 'placed'>(manager, schoolId, templateId, templateVersion);
  if (exceptionId === null || exceptionVersion === null) return template;
  const own = await keptContent<'exception'>(manager, schoolId, exceptionId, exceptionVersion);
  return withException(template, own).content;
}

/** A version that was kept. @throws when it is not there, which never happens to one that something was made from. */
export async function keptContent<Kind extends WritingKind>(
  manager: EntityManager,
  schoolId: string,
  writingId: string,
  version: number,
): Promise<WritingContents[Kind]> {
  const row = await manager.findOneByOrFail(WritingVersionRow, { writingId, version, schoolId });
  return row.content as WritingContents[Kind];
}
