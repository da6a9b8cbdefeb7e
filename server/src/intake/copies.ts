import { addressKey, readAddress } from '@scriptum/core/column';
import { columnIdsOf, type Form } from '@scriptum/core/form';
import { valueOf } from '@scriptum/core/roll';
import type { Logger } from 'pino';
import { In, LessThanOrEqual, MoreThan, type DataSource, type EntityManager } from 'typeorm';
import { DueLoop } from '../jobs/due-loop.js';
import type { ClaimedSlice, SliceQueue } from '../jobs/slice-queue.js';
import type { SliceHandler } from '../jobs/slice-worker.js';
import type { Outbox } from '../post/outbox.js';
import type { Delivery, MailPerson } from '../post/transport.js';
import { Refusal } from '../refusal.js';
import { sha256 } from '../store/blobs.js';
import { isDatabaseAway } from '../store/database-away.js';
import { FormAnswerRow, FormUploadRow, type FormDoorRow } from '../store/entities/intake.js';
import { School } from '../store/entities/people.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { currentLetterhead } from '../store/letterheads.js';
import { loadEntries } from '../store/rolls.js';
import { newId } from '../store/id.js';
import { answerCopy, type AnswerCopy } from './answer-copy.js';
import { doorNow, formAt } from './doors.js';
import type { AnswerLinks } from './tickets.js';

/** Copies to one address of all of a school's forms in a day: a form can be answered with anybody's address. */
const A_DAY = 10;
/** Copies of one form in an hour; what comes after them leaves later. */
const AN_HOUR = 600;
const HOUR = 3_600_000;
/** Milliseconds before what did not leave is tried again, and for which it is. */
const AGAIN = 600_000;
const TRIED_FOR = 24 * HOUR;

export interface CopiesOptions {
  /** Milliseconds between two looks for what is due. */
  readonly poll: number;
  /** Lets this server look for slices now. */
  readonly wake: () => void;
  /** Domain of the Message-IDs. */
  readonly domain: string;
  /** Of the application, where families find it. */
  readonly address: () => string;
  readonly editLinks: AnswerLinks;
  readonly paperLinks: AnswerLinks;
}

/** What becomes of the copy of an answer that was just kept. */
export type CopyOwed = Pick<FormAnswerRow, 'copyState' | 'copyAt' | 'copyKey' | 'copySays' | 'copies'>;

export const NO_COPY: CopyOwed = {
  copyState: null,
  copyAt: null,
  copyKey: null,
  copySays: null,
  copies: 0,
};

/**
 * Whether a copy of an answer is owed, and to which address, as its entry says it now. Asked in the transaction that keeps the answer.
 */
export async function copyOwed(
  manager: EntityManager,
  { schoolId, folioId, entryId, copies }: Pick<FormAnswerRow, 'schoolId' | 'folioId' | 'entryId' | 'copies'>,
  form: Form,
): Promise<CopyOwed> {
  const address = await addressIn(manager, { schoolId, folioId, entryId }, form);
  if (address === null) return { ...NO_COPY, copies };
  const copyKey = sha256(addressKey(address));
  const now = new Date();
  const today = await manager.sum(FormAnswerRow, 'copies', {
    schoolId,
    copyKey,
    copyAt: MoreThan(new Date(now.getTime() - TRIED_FOR)),
  });
  if ((today ?? 0) < A_DAY)
    return { copyState: 'owed', copyAt: now, copyKey, copySays: null, copies: copies + 1 };
  const copySays = `This address has had ${A_DAY} copies within a day.`;
  return { copyState: 'passed over', copyAt: now, copyKey, copySays, copies };
}

/** The address that a copy goes to; null where there is none that can be used. */
async function addressIn(
  manager: EntityManager,
  { schoolId, folioId, entryId }: Pick<FormAnswerRow, 'schoolId' | 'folioId' | 'entryId'>,
  { terms: { copyTo }, items }: Form,
): Promise<string | null> {
  if (copyTo === null) return null;
  const folio = await findFolio(manager, schoolId, folioId);
  const { entries } = await loadEntries(manager, folio, [entryId]);
  // A question whose answers stand in another column is meant by itself.
  const item = items.find(({ id }) => id === copyTo);
  const [columnId = copyTo] = item ? columnIdsOf(item) : [];
  const read = entries[0] ? readAddress(valueOf(entries[0], columnId)) : null;
  return read?.kind === 'address' ? read.address : null;
}

/**
 * Mails whoever answered a copy of the answers, where a form says so. A copy is handed to the mail server once at the most: one that was
 * under way when a server died is unconfirmed, and stays so.
 */
export class Copies implements SliceHandler {
  private readonly loop: DueLoop;

  constructor(
    private readonly database: DataSource,
    private readonly queue: SliceQueue,
    private readonly outbox: Pick<Outbox, 'sendOwn'>,
    private readonly log: Logger,
    private readonly options: CopiesOptions,
  ) {
    this.loop = new DueLoop(
      options.poll,
      () => this.offerDue(),
      (error) => {
        if (!isDatabaseAway(error)) log.error({ err: error }, 'copies of answers could not be looked after');
      },
    );
  }

  open(): Promise<void> {
    return this.loop.open();
  }

  close(): Promise<void> {
    return this.loop.close();
  }

  /** A copy is owed now. Never rejects. */
  look(): Promise<void> {
    return this.loop.look();
  }

  async work(slice: ClaimedSlice): Promise<void> {
    const id = answerIdOf(slice);
    const copy = await inTransaction(this.database, async (manager) => {
      await this.queue.fence(manager, slice);
      return this.begin(manager, id, slice.schoolId);
    });
    if (!copy) return this.end(slice);
    const { state, answer } = await this.outbox.sendOwn(slice.schoolId, {
      ...copy.message,
      messageId: `<answer-${newId()}@${this.options.domain}>`,
      to: [copy.to],
      files: [],
    });
    if (state !== 'sent')
      this.log.warn({ answerId: id, state, answer }, 'the copy of an answer did not leave');
    await this.end(slice, outcomeOf(state, answer, copy.since));
  }

  giveUp(slice: ClaimedSlice): Promise<void> {
    return this.end(slice, { copyState: 'refused', copySays: 'Making this copy broke off several times.' });
  }

  /** Writes down that a copy is under way. @returns null where there is nothing to send now. */
  private async begin(
    manager: EntityManager,
    id: string,
    schoolId: string,
  ): Promise<{ to: MailPerson; message: AnswerCopy; since: Date } | null> {
    const [row] = await manager.find(FormAnswerRow, {
      where: { id, schoolId },
      lock: { mode: 'pessimistic_write' },
    });
    const now = new Date();
    if (row?.copyState === 'sending') {
      const copySays = 'The server ended while it was handed over, so it may have left or not.';
      await manager.update(FormAnswerRow, { id }, { copyState: 'unconfirmed', copySays });
    }
    if (row?.copyState !== 'owed' || !row.copyAt || row.copyAt > now) return null;
    const hour = { copyState: In(['sent', 'sending', 'unconfirmed']), copyAt: MoreThan(before(now, HOUR)) };
    const { writingId, folioId } = row;
    if ((await manager.count(FormAnswerRow, { where: { schoolId, writingId, ...hour } })) >= AN_HOUR) {
      await manager.update(FormAnswerRow, { id }, { copyAt: before(now, -AGAIN) });
      return null;
    }
    const made = await this.make(manager, row).catch((error: unknown) => {
      // Its form, or its folio, is gone.
      if (error instanceof Refusal) return null;
      throw error;
    });
    const copyState = made ? 'sending' : 'passed over';
    const copySays = made ? null : 'There was no form, or no address, any more.';
    await manager.update(FormAnswerRow, { id, folioId }, { copyState, copySays, copyAt: now });
    return made && { ...made, since: row.changedAt ?? row.receivedAt };
  }

  private async make(
    manager: EntityManager,
    row: FormAnswerRow,
  ): Promise<{ to: MailPerson; message: AnswerCopy } | null> {
    const { schoolId, writingId, folioId, id } = row;
    const { editLinks, paperLinks, address } = this.options;
    const door = await doorNow(manager, { schoolId, writingId, folioId } as FormDoorRow);
    const form = await formAt(manager, door);
    const to = await addressIn(manager, row, form);
    if (to === null) return null;
    const [school, letterhead, uploads] = await Promise.all([
      manager.findOneByOrFail(School, { id: schoolId }),
      currentLetterhead(manager, schoolId),
      manager.findBy(FormUploadRow, { schoolId, answerId: id }),
    ]);
    const own = `${address()}/f/${door.token}`;
    const message = answerCopy({
      form,
      answer: row,
      files: Object.fromEntries(uploads.map((upload) => [upload.id, upload.name])),
      school: {
        name: school.name,
        colour: letterhead?.content.name.colour ?? '#22303C',
        timeZone: school.timeZone,
      },
      changeAt:
        form.terms.mayChange && form.terms.who !== 'roll' ? `${own}/change/${editLinks.of(id)}` : null,
      paperAt: form.terms.paper ? `${own}/paper/${paperLinks.of(id)}` : null,
    });
    return { to: { address: to, name: '' }, message };
  }

  private end(slice: ClaimedSlice, set?: Partial<FormAnswerRow>): Promise<void> {
    return inTransaction(this.database, async (manager) => {
      // Where the answer was changed meanwhile, another copy is owed.
      if (set)
        await manager.update(
          FormAnswerRow,
          { id: answerIdOf(slice), schoolId: slice.schoolId, copyState: 'sending' },
          set,
        );
      await this.queue.end(manager, slice, 'done');
    });
  }

  private async offerDue(): Promise<void> {
    const due = await this.database.manager.find(FormAnswerRow, {
      select: { id: true, schoolId: true, folioId: true },
      where: { copyState: 'owed', copyAt: LessThanOrEqual(new Date()) },
      order: { copyAt: 'ASC' },
      take: 500,
    });
    if (due.length === 0) return;
    const slices = due.map(({ id, schoolId, folioId }) => ({
      id: `copy${id}`,
      kind: 'copy' as const,
      schoolId,
      folioId,
      jobId: `copy${id}`,
      lane: 'quick' as const,
      size: 1,
    }));
    await inTransaction(this.database, (manager) => this.queue.offer(manager, slices));
    this.options.wake();
  }
}

/** What is written down of a copy that was handed over, or was not. */
function outcomeOf(state: Delivery['state'], answer: string, since: Date): Partial<FormAnswerRow> {
  const copySays = answer.slice(0, 1000);
  if (state === 'sent' || state === 'refused' || state === 'unconfirmed')
    return { copyState: state, copySays, copyAt: new Date() };
  const isLast = since < before(new Date(), TRIED_FOR);
  return { copyState: isLast ? 'refused' : 'owed', copySays, copyAt: before(new Date(), -AGAIN) };
}

const answerIdOf = ({ id }: ClaimedSlice): string => id.slice('copy'.length);
const before = (time: Date, milliseconds: number): Date => new Date(time.getTime() - milliseconds);
