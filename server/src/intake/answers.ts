import type { AnswerKept, SendAnswer } from '@scriptum/core/contract';
import { addressKey } from '@scriptum/core/column';
import {
  columnIdsOf,
  givenFromCells,
  isOnePicture,
  readAnswers,
  shownItems,
  type AnswerProblem,
  type Form,
  type FormItem,
  type Given,
  type ReadAnswers,
} from '@scriptum/core/form';
import { tidyEntry, type Entry } from '@scriptum/core/roll';
import { sourceCell } from '@scriptum/core/sources';
import { momentIn } from '@scriptum/core/time';
import { In, IsNull, type DataSource, type EntityManager } from 'typeorm';
import { oweAnswer } from '../order/owe.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { sha256 } from '../store/blobs.js';
import { AssetRow, type FolioRow } from '../store/entities/folio.js';
import { FormAnswerRow, FormDoorRow, FormUploadRow } from '../store/entities/intake.js';
import { School } from '../store/entities/people.js';
import { lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { changeRoll, keepEntries, loadEntries } from '../store/rolls.js';
import { addEntry } from './add-entry.js';
import type { AnswerNews } from './answer-news.js';
import { copyOwed, NO_COPY } from './copies.js';
import { doorNow, formAt, stateOfDoor } from './doors.js';
import type { AnswerLinks } from './tickets.js';

/** Thrown where answers cannot be taken as they are: whoever answers mends them and sends them again. */
export class AnswersWrong extends Refusal {
  constructor(readonly problems: readonly AnswerProblem[]) {
    super(422, 'answers', 'Some answers are missing or cannot be taken as they are. They are marked.');
  }
}

/** What is sent, once its ticket has been looked at. */
export interface Sent extends Pick<SendAnswer, 'version' | 'language' | 'given'> {
  /** Of the ticket: one for each answer, however often it is sent. */
  readonly key: string;
}

/** Takes what people answer. */
export class Answers {
  constructor(
    private readonly database: DataSource,
    private readonly links: { readonly edit: AnswerLinks; readonly paper: AnswerLinks },
    private readonly news: AnswerNews,
  ) {}

  /**
   * Keeps an answer: as an entry of the roll, or in a learner's own one. What is sent twice under one key is one answer, whatever became of
   * the first time.
   *
   * @param ownId the learner's entry, where the form is for those of the roll.
   * @throws AnswersWrong; Refusal `not-yet`, `over`, `full`, `closed`, `once`, `answered`, `needs-code`, `form-changed`
   */
  async take(door: FormDoorRow, sent: Sent, ownId: string | null = null): Promise<AnswerKept> {
    const { schoolId, folioId, writingId } = door;
    const { kept, isNew, owed, copy } = await inTransaction(this.database, async (manager) => {
      const folio = await lockFolio(manager, schoolId, folioId);
      const known = await manager.findOneBy(FormAnswerRow, { schoolId, writingId, answerKey: sent.key });
      const now = await doorNow(manager, door);
      const form = await formAt(manager, now);
      if (known) return { kept: this.keptOf(known, form), isNew: false, owed: false, copy: false };
      // It was another one's, or everybody's, when it was opened.
      if ((form.terms.who === 'roll') !== (ownId !== null))
        throw conflict(
          'needs-code',
          'This form is answered by a personal link now. Ask the school for yours.',
        );
      const before =
        ownId && (await manager.findOneBy(FormAnswerRow, { schoolId, writingId, entryId: ownId }));
      if (before) {
        expectOpen({ ...now, answers: 0 }, form);
        if (!form.terms.mayChange)
          throw conflict(
            'answered',
            'This form has been answered already. Ask the school to change the answers.',
          );
        const changed = await this.changeIn(manager, { folio, door: now, form, row: before }, sent);
        return { ...changed, isNew: true };
      }
      expectOpen(now, form);
      const read = readFor(form, sent, now.version, folio);
      const row: FormAnswerRow = {
        id: newId(),
        schoolId,
        folioId,
        writingId,
        entryId: ownId ?? newId(),
        answerKey: sent.key,
        version: now.version,
        language: sent.language,
        given: shownGiven(form, sent.given),
        onceKey: await onceKeyOf(manager, now, form, sent.given),
        receivedAt: new Date(),
        changedAt: null,
        ...NO_COPY,
      };
      const cells = await this.withFiles(manager, row, form, read);
      const stamp = await stampOf(manager, form, row);
      if (ownId !== null) await changeEntry(manager, folio, row, form, cells, stamp);
      else {
        const values = { ...cells.values, ...stamp };
        const entry = { id: row.entryId, position: 0, ...cells, values, answered: writingId };
        await addEntry(manager, folio, entry);
      }
      Object.assign(row, await copyOwed(manager, row, form));
      await manager.insert(FormAnswerRow, row);
      await manager.increment(FormDoorRow, { writingId, schoolId }, 'answers', 1);
      const owed = await oweAnswer(manager, row, null);
      return { kept: this.keptOf(row, form), isNew: true, owed, copy: row.copyState === 'owed' };
    });
    if (isNew) this.news.came({ schoolId, folioId }, { owed, copy });
    return kept;
  }

  /** What was answered, to be changed by whoever has its link. @throws Refusal `not-found` */
  async toChange(
    door: FormDoorRow,
    answerId: string,
  ): Promise<{ given: Given; files: Record<string, string> }> {
    const { manager } = this.database;
    const row = await this.find(manager, door, answerId);
    const files = await manager.findBy(FormUploadRow, { schoolId: door.schoolId, answerId });
    return { given: row.given, files: Object.fromEntries(files.map(({ id, name }) => [id, name])) };
  }

  /**
   * Changes an answer where the form lets people do so. What staff have mended in its cells stays as it was mended, with what is answered
   * now behind it.
   *
   * @throws AnswersWrong, Refusal
   */
  async change(door: FormDoorRow, answerId: string, sent: Sent): Promise<AnswerKept> {
    const { schoolId, folioId } = door;
    const { kept, owed, copy } = await inTransaction(this.database, async (manager) => {
      const folio = await lockFolio(manager, schoolId, folioId);
      const now = await doorNow(manager, door);
      const form = await formAt(manager, now);
      expectOpen({ ...now, answers: 0 }, form);
      if (!form.terms.mayChange)
        throw conflict('no-changes', 'Answers to this form cannot be changed any more.');
      const row = await this.find(manager, now, answerId);
      return this.changeIn(manager, { folio, door: now, form, row }, sent);
    });
    this.news.came({ schoolId, folioId }, { owed, copy });
    return kept;
  }

  /** What a learner's own form begins with: what was answered before, else what stands in the entry. */
  async ownGiven(
    door: FormDoorRow,
    form: Form,
    entry: Entry,
  ): Promise<{ answeredBefore: boolean; given: Given; files: Record<string, string> }> {
    const { schoolId, writingId } = door;
    const there = { schoolId, writingId, entryId: entry.id };
    const row = await this.database.manager.findOneBy(FormAnswerRow, there);
    if (row) return { answeredBefore: true, ...(await this.toChange(door, row.id)) };
    return { answeredBefore: false, given: givenFromCells(form, entry), files: {} };
  }

  private async changeIn(
    manager: EntityManager,
    { folio, door, form, row }: { folio: FolioRow; door: FormDoorRow; form: Form; row: FormAnswerRow },
    sent: Sent,
  ): Promise<{ kept: AnswerKept; owed: boolean; copy: boolean }> {
    const read = readFor(form, sent, door.version, folio);
    const onceKey = await onceKeyOf(manager, door, form, sent.given, row.id);
    const changed = {
      version: door.version,
      language: sent.language,
      given: shownGiven(form, sent.given),
      onceKey,
    };
    const cells = await this.withFiles(manager, { ...row, ...changed }, form, read);
    await changeEntry(manager, folio, row, form, cells);
    const changedAt = new Date();
    const copy = await copyOwed(manager, row, form);
    await manager.update(
      FormAnswerRow,
      { id: row.id, schoolId: row.schoolId },
      { ...changed, ...copy, changedAt },
    );
    return {
      kept: this.keptOf({ ...row, ...copy }, form),
      owed: await oweAnswer(manager, row, changedAt),
      copy: copy.copyState === 'owed',
    };
  }

  /**
   * Deletes the answers of an entry and their files. In a learner's own entry the cells of the form are blank then.
   *
   * @returns true where the entry is nothing but the answer, so that it can go too.
   * @throws Refusal `not-found`
   */
  async delete(manager: EntityManager, folio: FolioRow, entryId: string): Promise<boolean> {
    const there = { schoolId: folio.schoolId, folioId: folio.id, entryId };
    const rows = await manager.findBy(FormAnswerRow, there);
    if (rows.length === 0) throw notFound('This answer');
    const answerId = In(rows.map(({ id }) => id));
    await manager.delete(FormUploadRow, { schoolId: folio.schoolId, answerId });
    await manager.delete(FormAnswerRow, there);
    // There is room for another one, where a form takes so many.
    for (const { writingId } of rows)
      await manager.decrement(FormDoorRow, { writingId, schoolId: folio.schoolId }, 'answers', 1);
    const { entries, ...roll } = await loadEntries(manager, folio, [entryId]);
    const [entry] = entries;
    if (!entry || entry.answered !== undefined) return true;
    const forms = new Set(rows.map(({ writingId }) => writingId));
    const doors = await manager.findBy(FormDoorRow, { schoolId: folio.schoolId, writingId: In([...forms]) });
    const stamps = (await Promise.all(doors.map((door) => formAt(manager, door)))).map(
      ({ terms }) => terms.stampId,
    );
    const own = new Set(
      roll.columns
        .filter(({ id, sourceId }) => forms.has(sourceId ?? '') || stamps.includes(id))
        .map(({ id }) => id),
    );
    const without = <T>(cells: Readonly<Record<string, T>> = {}): Record<string, T> =>
      Object.fromEntries(Object.entries(cells).filter(([id]) => !own.has(id)));
    const blank = {
      ...entry,
      values: without(entry.values),
      exact: without(entry.exact),
      mends: without(entry.mends),
    };
    await keepEntries(manager, folio, [blank]);
    await changeRoll(manager, folio, { ...roll, entries: [blank] });
    return false;
  }

  private async find(manager: EntityManager, door: FormDoorRow, id: string): Promise<FormAnswerRow> {
    const row = await manager.findOneBy(FormAnswerRow, {
      id,
      schoolId: door.schoolId,
      writingId: door.writingId,
    });
    if (!row) throw notFound('This answer');
    return row;
  }

  private keptOf({ id, receivedAt, copyState }: FormAnswerRow, { terms }: Form): AnswerKept {
    return {
      receivedAt: receivedAt.toISOString(),
      editLink: terms.mayChange && terms.who !== 'roll' ? this.links.edit.of(id) : null,
      paperLink: terms.paper ? this.links.paper.of(id) : null,
      copy: copyState !== null && copyState !== 'passed over',
    };
  }

  /** The cells of an answer, with what was brought along; that belongs to the answer from now on. */
  private async withFiles(
    manager: EntityManager,
    answer: FormAnswerRow,
    form: Form,
    { values, files }: ReadAnswers,
  ): Promise<Pick<Entry, 'values' | 'exact'>> {
    const { schoolId, folioId, writingId, id: answerId } = answer;
    const ids = Object.values(files).flat();
    const rows =
      ids.length === 0
        ? []
        : await manager.find(FormUploadRow, {
            where: [
              { id: In(ids), schoolId, writingId, answerId: IsNull() },
              { id: In(ids), schoolId, writingId, answerId },
            ],
          });
    const cells = { ...values };
    const exact: Record<string, string> = {};
    for (const item of form.items) {
      const [columnId] = columnIdsOf(item);
      const wanted = columnId === undefined ? undefined : files[columnId];
      if (columnId === undefined || wanted === undefined) continue;
      const brought = wanted.map((id) => rows.find((row) => row.id === id && row.itemId === item.id));
      if (brought.includes(undefined))
        throw new AnswersWrong([{ itemId: item.id, columnId, code: 'file-gone' }]);
      cells[columnId] = brought.map((row) => row!.name).join('; ');
      const [first] = brought;
      if (!first || !isOnePicture(item)) continue;
      const asset = {
        id: newId(),
        schoolId,
        folioId,
        name: first.name,
        mime: first.mime,
        blobHash: first.blobHash,
      };
      await manager.insert(AssetRow, asset);
      exact[columnId] = `i:${asset.id}`;
    }
    if (rows.length > 0)
      await manager.update(FormUploadRow, { id: In(rows.map(({ id }) => id)), schoolId }, { answerId });
    return { values: cells, exact };
  }
}

/** @throws Refusal that says why a form takes no answers now. */
function expectOpen(door: FormDoorRow, form: Form): void {
  switch (stateOfDoor(door, form, new Date())) {
    case 'open':
      return;
    case 'not yet':
      throw conflict('not-yet', 'This form is not open yet. Your answers are kept in this browser.');
    case 'over':
      throw conflict('over', 'This form has closed. Ask the school if you still want to answer.');
    case 'full':
      throw conflict(
        'full',
        'This form has as many answers as it takes. Ask the school if you still want to answer.',
      );
    case 'closed':
      throw conflict('closed', 'The school has closed this form. Ask there if you still want to answer.');
  }
}

/**
 * Reads answers by the form as it is published now.
 *
 * @throws AnswersWrong; Refusal `form-changed` where another version was answered and something is missing in the one of now.
 */
function readFor(form: Form, { given, version }: Sent, now: number, { columns }: FolioRow): ReadAnswers {
  const read = readAnswers(
    form,
    given,
    (columnId) => columns.find(({ id }) => id === columnId)?.format?.separator ?? DEFAULT_BETWEEN,
  );
  if (read.problems.length === 0) return read;
  if (version !== now)
    throw conflict(
      'form-changed',
      'The form was changed while you answered it. Your answers are kept; look at what is new, then send it.',
    );
  throw new AnswersWrong(read.problems);
}

/** What was given to what was asked, and nothing else. */
function shownGiven(form: Form, given: Given): Given {
  const asked = new Set(shownItems(form, given).flatMap(columnIdsOf));
  return Object.fromEntries(Object.entries(given).filter(([id]) => asked.has(id)));
}

/** As cells are read where nothing is said of the column (`readValue`). */
const DEFAULT_BETWEEN = ',';

/** By what an answer counts once. @throws AnswersWrong where somebody has answered with it before. */
async function onceKeyOf(
  manager: EntityManager,
  { schoolId, writingId }: FormDoorRow,
  form: Form,
  given: Given,
  own?: string,
): Promise<string | null> {
  const item = form.items.find(({ id }) => id === form.terms.onceBy);
  const [columnId] = item ? columnIdsOf(item) : [];
  const value = columnId === undefined ? '' : readAnswers(form, given).values[columnId];
  if (!item || columnId === undefined || !value) return null;
  const onceKey = sha256(item.kind === 'email' ? addressKey(value) : plainKey(value, item));
  const known = await manager.findOneBy(FormAnswerRow, { schoolId, writingId, onceKey });
  if (known && known.id !== own)
    throw new AnswersWrong([{ itemId: item.id, columnId, code: 'answered-before' }]);
  return onceKey;
}

const plainKey = (value: string, { kind }: FormItem): string =>
  `${kind} ${value.normalize('NFKC').trim().toLowerCase().replace(/\s+/g, ' ')}`;

/** The moment of an answer, as the school's clocks show it, where the form notes it in a column. */
async function stampOf(
  manager: EntityManager,
  { terms }: Form,
  { schoolId, receivedAt }: FormAnswerRow,
): Promise<Record<string, string>> {
  if (terms.stampId === null) return {};
  const { timeZone } = await manager.findOneByOrFail(School, { id: schoolId });
  return { [terms.stampId]: momentIn(receivedAt, timeZone) };
}

/**
 * Writes what is answered now into an entry. A cell of the form that staff have mended keeps what they wrote. What goes into a column of
 * another source stands there as a mend, so that its newer versions do not take the answer back.
 */
async function changeEntry(
  manager: EntityManager,
  folio: FolioRow,
  { entryId, writingId }: FormAnswerRow,
  form: Form,
  { values, exact }: Pick<Entry, 'values' | 'exact'>,
  stamp: Readonly<Record<string, string>> = {},
): Promise<void> {
  const roll = await loadEntries(manager, folio, [entryId]);
  const [entry] = roll.entries;
  if (!entry) throw notFound('This answer');
  const others = new Set(
    roll.columns
      .filter(({ sourceId }) => sourceId !== undefined && sourceId !== writingId)
      .map(({ id }) => id),
  );
  const own = form.items.flatMap(columnIdsOf);
  const mends = { ...entry.mends };
  const next: Record<string, string> = { ...entry.values, ...stamp };
  const nextExact = { ...entry.exact };
  for (const id of own) {
    const text = values[id] ?? '';
    // In an entry that is nothing but the answer no sheet has anything to say.
    if (others.has(id) && entry.answered === undefined) {
      // What was not asked is not answered: the sheet's cell stays.
      if (!Object.hasOwn(values, id) || text === (entry.values[id] ?? '')) continue;
      mends[id] ??= sourceCell(entry, id);
      if (mends[id].text === text) delete mends[id];
    } else if (mends[id]) {
      mends[id] = { text, ...(exact?.[id] ? { exact: exact[id] } : {}) };
      continue;
    }
    next[id] = text;
    delete nextExact[id];
    if (exact?.[id]) nextExact[id] = exact[id];
  }
  const changed = tidyEntry({ ...entry, values: next, exact: nextExact, mends });
  await keepEntries(manager, folio, [changed]);
  await changeRoll(manager, folio, roll);
}
