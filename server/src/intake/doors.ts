import { randomBytes } from 'node:crypto';
import type { DoorState, FormDoor } from '@scriptum/core/contract';
import { freeTitle, type Column } from '@scriptum/core/column';
import { columnsOfForm, isKeyOfForm, keyOfForm, type Form } from '@scriptum/core/form';
import { SHEET_LIMITS } from '@scriptum/core/table';
import { newId } from '../store/id.js';
import { IsNull, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { matchAllFields } from '../roll/match-fields.js';
import { FolioRow } from '../store/entities/folio.js';
import { FormAnswerRow, FormDoorRow } from '../store/entities/intake.js';
import { WritingRow } from '../store/entities/writing.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { changeRoll, loadRoll } from '../store/rolls.js';
import { findWriting, keepVersion, keptContent } from '../store/writings.js';

/** The form that people answer at a door. */
export const formAt = (manager: EntityManager, door: FormDoorRow): Promise<Form> =>
  keptContent<'form'>(manager, door.schoolId, door.writingId, door.version);

/** A door as it is now. Where its folio is put away it is closed. @throws Refusal `not-found` where its form was deleted */
export async function doorNow(
  manager: EntityManager,
  { writingId, schoolId, folioId }: Pick<FormDoorRow, 'writingId' | 'schoolId' | 'folioId'>,
): Promise<FormDoorRow> {
  const door = await manager.findOneBy(FormDoorRow, { writingId, schoolId });
  const isWritten = await manager.existsBy(WritingRow, { id: writingId, schoolId, deletedAt: IsNull() });
  if (!door || !isWritten) throw notFound('This form');
  const isThere = await manager.existsBy(FolioRow, { id: folioId, schoolId, archivedAt: IsNull() });
  return isThere ? door : { ...door, isOpen: false };
}

/** Whether a door takes answers now. */
export function stateOfDoor(
  { isOpen, answers }: Pick<FormDoorRow, 'isOpen' | 'answers'>,
  { terms }: Pick<Form, 'terms'>,
  now: Date,
): DoorState {
  if (!isOpen) return 'closed';
  if (terms.opens && now < new Date(terms.opens)) return 'not yet';
  if (terms.closes && now >= new Date(terms.closes)) return 'over';
  return terms.most !== null && answers >= terms.most ? 'full' : 'open';
}

/** The doors of a folio. @param address of the application, without a slash at its end. @throws Refusal */
export async function listDoors(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  address: string,
): Promise<FormDoor[]> {
  await findFolio(manager, schoolId, folioId);
  const doors = await manager.find(FormDoorRow, {
    where: { schoolId, folioId },
    order: { publishedAt: 'ASC' },
  });
  return Promise.all(
    doors.map(async (door): Promise<FormDoor> => {
      const form = await formAt(manager, door);
      const there = { schoolId, folioId, writingId: door.writingId };
      const last = await manager.findOne(FormAnswerRow, { where: there, order: { receivedAt: 'DESC' } });
      return {
        writingId: door.writingId,
        version: door.version,
        link: `${address}/f/${door.token}`,
        isOpen: door.isOpen,
        state: stateOfDoor(door, form, new Date()),
        terms: form.terms,
        answers: door.answers,
        lastAt: last?.receivedAt.toISOString() ?? null,
        publishedAt: door.publishedAt.toISOString(),
      };
    }),
  );
}

/**
 * Lets people answer a form as it is written. What it asks becomes columns of the roll: those of questions that were asked before stay
 * the same columns, and those of questions that are not asked any more keep their answers.
 *
 * @param version what the person saw.
 * @param address of the application, where families find it, without a slash at its end.
 * @throws Refusal `form-changed`, `form-blank`, `form-words`, `too-many-columns`
 */
export async function publishForm(
  manager: EntityManager,
  { schoolId, folioId, staffId }: { schoolId: string; folioId: string; staffId: string | null },
  writingId: string,
  version: number,
  address: string,
): Promise<void> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const writing = await findWriting(manager, { schoolId, folioId }, writingId);
  if (writing.kind !== 'form') throw notFound('This form');
  if (writing.version !== version)
    throw conflict(
      'form-changed',
      'The form was changed meanwhile. Look at it as it is now, then publish it.',
    );
  const form = writing.content as Form;
  expectReady(form);
  await keepVersion(manager, schoolId, { ...writing, content: form });
  const known = await manager.findOneBy(FormDoorRow, { writingId, schoolId });
  const token = known?.token ?? newToken();
  const before = known && (await formAt(manager, known));
  await takeColumns(manager, folio, { form, before, writingId, base: `${address}/f/${token}` });
  await manager.save(FormDoorRow, {
    ...(known ?? { writingId, schoolId, folioId, token, answers: 0 }),
    version,
    isOpen: true,
    publishedAt: new Date(),
    publishedBy: staffId,
  });
}

const newToken = (): string => randomBytes(12).toString('hex');

/** @throws Refusal for a form that nobody could answer. */
function expectReady({ items, languages }: Form): void {
  const [first] = languages as [string, ...string[]];
  const questions = items.filter((item) => 'label' in item);
  if (questions.length === 0)
    throw new Refusal(422, 'form-blank', 'The form asks nothing yet. Add a question, then publish it.');
  const at = (item: (typeof items)[number]): string => `Question ${questions.indexOf(item as never) + 1}`;
  for (const item of questions) {
    if (!item.label[first]?.trim())
      throw new Refusal(
        422,
        'form-words',
        `${at(item)} has no words yet. Write what it asks, then publish the form.`,
      );
    if ('choices' in item) {
      if (item.choices.length === 0 && !('other' in item && item.other))
        throw new Refusal(
          422,
          'form-words',
          `${at(item)} offers nothing to choose. Add an answer, then publish the form.`,
        );
      const labels = item.choices.map(({ label }) => label[first]?.trim().toLowerCase() ?? '');
      if (labels.includes(''))
        throw new Refusal(
          422,
          'form-words',
          `${at(item)} offers an answer without words. Write it, or take it out.`,
        );
      if (new Set(labels).size < labels.length)
        throw new Refusal(
          422,
          'form-words',
          `${at(item)} offers the same answer twice. Take one of them out.`,
        );
    }
    if ('mark' in item && item.mark && item.mark.right.every((text) => text.trim() === ''))
      throw new Refusal(
        422,
        'form-words',
        `${at(item)} gives points, but nothing is said to be right. Say what is right, or give no points.`,
      );
    if (item.kind === 'grid' && item.rows.length === 0)
      throw new Refusal(422, 'form-words', `${at(item)} has no rows. Add one, then publish the form.`);
  }
}

async function takeColumns(
  manager: EntityManager,
  folio: FolioRow,
  { form, before, writingId, base }: { form: Form; before: Form | null; writingId: string; base: string },
): Promise<void> {
  const { stampId } = form.terms;
  const stamp: Column[] = stampId === null ? [] : [{ id: stampId, title: 'Answered', type: 'date-time' }];
  const wanted = [...columnsOfForm(form), ...stamp];
  const roll = await loadRoll(manager, folio);
  const byId = new Map(wanted.map((column) => [column.id, column]));
  const there = new Set(roll.columns.map(({ id }) => id));
  const isOwn = (column: Column): boolean => column.sourceId === writingId;
  const kept = roll.columns.map((column): Column => {
    const now = byId.get(column.id);
    if (!now || !isOwn(column)) return column;
    // A title that people gave it here stays.
    const renamed = column.title !== column.sourceTitle;
    const { type: _type, format: _format, ...rest } = column;
    const kind = { ...(now.type ? { type: now.type } : {}), ...(now.format ? { format: now.format } : {}) };
    return { ...rest, ...kind, title: renamed ? column.title : now.title, sourceTitle: now.title };
  });
  const columns = [...kept];
  for (const column of wanted)
    if (!there.has(column.id)) columns.push({ ...column, sourceId: writingId, sourceTitle: column.title });
  if (form.terms.who === 'roll') takePersonal(columns, form.name, { formId: writingId, base });
  takeKey(columns, form, before);
  if (columns.length > SHEET_LIMITS.columns)
    throw conflict(
      'too-many-columns',
      `With the questions of this form the roll would have more than ${SHEET_LIMITS.columns} columns. Take some out first.`,
    );
  const next = { ...roll, columns: withFreeTitles(columns) };
  await changeRoll(manager, folio, next);
  await matchAllFields(manager, folio, next);
}

/** Each learner's own link and code become columns, so that notes and papers can print them; those that are there lead to where the form is now. */
function takePersonal(
  columns: Column[],
  name: string,
  { formId, base }: { readonly formId: string; readonly base: string },
): void {
  const own = columns.flatMap(({ worked }) =>
    worked?.kind === 'personal' && worked.formId === formId ? [worked] : [],
  );
  const seed = own[0]?.seed ?? randomBytes(16).toString('hex');
  for (const [n, { worked, ...column }] of columns.entries())
    if (worked?.kind === 'personal' && worked.formId === formId)
      columns[n] = { ...column, worked: { ...worked, base } };
  for (const give of ['link', 'code'] as const)
    if (!own.some((worked) => worked.give === give))
      columns.push({
        id: newId(),
        title: `${name}: ${give === 'link' ? 'personal link' : 'code'}`.slice(0, 300),
        worked: { kind: 'personal', formId, base, seed, give },
      });
}

/** What the form says is right becomes a marking key: a worked column, which people go on with as with any other. */
function takeKey(columns: Column[], form: Form, before: Form | null): void {
  const at = columns.findIndex(({ worked }) => worked?.kind === 'key' && isKeyOfForm(worked, form, before));
  const worked = columns[at]?.worked;
  const key = keyOfForm(form, {
    before,
    known: worked?.kind === 'key' ? worked : null,
    between: (columnId) => columns.find(({ id }) => id === columnId)?.format?.separator ?? ',',
  });
  if (!key) return;
  if (at >= 0) columns[at] = { ...columns[at]!, worked: key };
  else columns.push({ id: newId(), title: `${form.name}: points`.slice(0, 300), worked: key });
}

/** No two columns are called the same. */
function withFreeTitles(columns: readonly Column[]): Column[] {
  const taken = new Set<string>();
  return columns.map((column) => {
    const title = freeTitle(column.title, taken);
    taken.add(title);
    return title === column.title ? column : { ...column, title };
  });
}
