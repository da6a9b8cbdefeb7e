import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { ChangeHook, HookLine } from '@scriptum/core/contract';
import { matchSubmission, readSubmission, SubmissionWrong, type SentField } from '@scriptum/core/hook';
import { SHEET_LIMITS } from '@scriptum/core/table';
import { IsNull, type DataSource, type EntityManager } from 'typeorm';
import { oweAnswer } from '../order/owe.js';
import { WrongKey, type Secrets } from '../post/secrets.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { matchAllFields } from '../roll/match-fields.js';
import { sha256 } from '../store/blobs.js';
import { FolioRow } from '../store/entities/folio.js';
import { HookRow } from '../store/entities/hooks.js';
import { FormAnswerRow } from '../store/entities/intake.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { loadRoll } from '../store/rolls.js';
import { addEntry } from './add-entry.js';
import type { AnswerNews } from './answer-news.js';

/** Seconds that a request's time may be off. */
export const WINDOW = 300;
/** Days for which the key before the present one counts. */
const FORMER_DAYS = 7;
/** Hooks of a folio. */
const MOST = 20;
/** Letters of a reason that is kept. */
const SAYS_MOST = 500;

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** HMAC-SHA-256 (RFC 2104, RFC 6234) in hexadecimal. */
export const hmacOf = (key: Uint8Array, ...parts: readonly (string | Uint8Array)[]): string => {
  const hmac = createHmac('sha256', key);
  for (const part of parts) hmac.update(part);
  return hmac.digest('hex');
};

/** What a request is signed with: of its time, in seconds since 1970, and the bytes of its body. */
export const signatureOf = (key: string, time: string, body: Uint8Array): string =>
  hmacOf(Buffer.from(key, 'utf8'), `${time}.`, body);

const newKey = (): string => `hk_${randomBytes(24).toString('base64url')}`;
const newToken = (): string => randomBytes(12).toString('hex');
const keyOf = (hookId: string): string => `key of hook ${hookId}`;

/** A request as it came. */
export interface HookRequest {
  readonly time: string | undefined;
  readonly signatures: string | undefined;
  /** What tells the submission from others, where the service says so. */
  readonly idempotencyKey: string | undefined;
  readonly bytes: Uint8Array;
  /** Reads the body; it is asked for once the signature is known to be right. */
  readonly read: () => unknown;
}

/** Doors through which other services bring answers. */
export class Hooks {
  constructor(
    private readonly database: DataSource,
    private readonly secrets: Secrets,
    private readonly news: AnswerNews,
    /** Of the application, where other services find it. */
    private readonly address: () => string,
  ) {}

  async list(manager: EntityManager, { schoolId, folioId }: Place): Promise<HookLine[]> {
    await findFolio(manager, schoolId, folioId);
    const rows = await manager.find(HookRow, { where: { schoolId, folioId }, order: { createdAt: 'ASC' } });
    const now = new Date();
    return rows.map((row): HookLine => ({
      id: row.id,
      name: row.name,
      link: `${this.address()}/h/${row.token}`,
      isOn: row.isOn,
      answers: row.answers,
      lastAt: row.lastAt?.toISOString() ?? null,
      refused: row.refused && row.refusedAt ? { says: row.refused, at: row.refusedAt.toISOString() } : null,
      fields: Object.entries(row.shape).map(([key, columnId]) => ({ key, columnId })),
      formerUntil: row.formerUntil && row.formerUntil > now ? row.formerUntil.toISOString() : null,
    }));
  }

  /** @returns its key, which is told this once; null where it was added before. @throws Refusal */
  async add(
    manager: EntityManager,
    { schoolId, folioId }: Place,
    { id, name }: { readonly id: string; readonly name: string },
  ): Promise<string | null> {
    await lockFolio(manager, schoolId, folioId);
    const known = await manager.findOneBy(HookRow, { id });
    if (known?.schoolId === schoolId && known.folioId === folioId) return null;
    if (known || (await manager.countBy(HookRow, { schoolId, folioId })) >= MOST)
      throw conflict('hooks-many', `A folio has ${MOST} hooks at the most. Delete one that is not needed.`);
    const key = newKey();
    await manager.insert(HookRow, {
      id,
      schoolId,
      folioId,
      name,
      token: newToken(),
      isOn: true,
      sealedKey: this.secrets.seal(key, keyOf(id)),
      formerKey: null,
      formerUntil: null,
      shape: {},
      answers: 0,
      lastAt: null,
      refused: null,
      refusedAt: null,
      createdAt: new Date(),
    });
    return key;
  }

  /** @throws Refusal `not-found` */
  async change(manager: EntityManager, place: Place, id: string, change: ChangeHook): Promise<void> {
    const folio = await lockFolio(manager, place.schoolId, place.folioId);
    const row = await this.find(manager, place, id);
    const { name, isOn, field } = change;
    if (field && field.columnId !== null && !folio.columns.some((column) => column.id === field.columnId))
      throw notFound('This column');
    await manager.update(
      HookRow,
      { id: row.id },
      {
        name: name ?? row.name,
        isOn: isOn ?? row.isOn,
        shape: field ? { ...row.shape, [field.key]: field.columnId } : row.shape,
      },
    );
  }

  /** Makes a new key; the one before it counts for some days more, so that the other side can change in its own time. */
  async rotate(manager: EntityManager, place: Place, id: string): Promise<string> {
    await lockFolio(manager, place.schoolId, place.folioId);
    const row = await this.find(manager, place, id);
    const key = newKey();
    await manager.update(
      HookRow,
      { id },
      {
        sealedKey: this.secrets.seal(key, keyOf(id)),
        formerKey: row.sealedKey,
        formerUntil: new Date(Date.now() + FORMER_DAYS * 86_400_000),
      },
    );
    return key;
  }

  async delete(manager: EntityManager, place: Place, id: string): Promise<void> {
    await this.find(manager, place, id);
    await manager.delete(HookRow, { id, ...place });
  }

  async find(manager: EntityManager, { schoolId, folioId }: Place, id: string): Promise<HookRow> {
    const row = await manager.findOneBy(HookRow, { id, schoolId, folioId });
    if (!row) throw notFound('This hook');
    return row;
  }

  /** The present key of a hook, for the practice service. */
  keyOf({ id, sealedKey }: HookRow): string {
    return this.opened(id, sealedKey);
  }

  /** @throws Refusal where it was sealed by a server with another key of its own. */
  private opened(id: string, sealed: string): string {
    try {
      return this.secrets.open(sealed, keyOf(id));
    } catch (error) {
      if (!(error instanceof WrongKey)) throw error;
      throw new Refusal(
        409,
        'key-unknown',
        'The key of this hook cannot be read any more. Somebody of the school has to make a new one, at the station Roll.',
      );
    }
  }

  /**
   * Takes a submission as an entry of the roll. What is brought twice is one entry, whatever became of the first time.
   *
   * @returns true where it was there already.
   * @throws Refusal
   */
  async take(token: string, request: HookRequest, now = new Date()): Promise<boolean> {
    const hook = await this.database.manager.findOneBy(HookRow, { token });
    if (!hook) throw notFound('This hook');
    try {
      this.expectSigned(hook, request, now);
      const fields = fieldsOf(request);
      const { again, owed } = await inTransaction(this.database, (manager) =>
        this.keep(manager, hook, fields, request, now),
      );
      if (!again) this.news.came(hook, { owed, copy: false });
      return again;
    } catch (error) {
      if (error instanceof Refusal)
        await this.database.manager.update(
          HookRow,
          { id: hook.id },
          { refused: error.message.slice(0, SAYS_MOST), refusedAt: now },
        );
      throw error;
    }
  }

  /** @throws Refusal for a time that is too far off, and for a signature with none of the keys. */
  private expectSigned(hook: HookRow, { time, signatures, bytes }: HookRequest, now: Date): void {
    if (!time || !/^\d{9,12}$/.test(time) || !signatures)
      throw new Refusal(
        401,
        'not-signed',
        'The request is not signed. It needs the headers Scriptum-Time and Scriptum-Signature.',
      );
    const told = signatures
      .split(',')
      .slice(0, 5)
      .map((one) => Buffer.from(one.trim().toLowerCase()));
    const keys = [hook.sealedKey];
    if (hook.formerKey && hook.formerUntil && hook.formerUntil > now) keys.push(hook.formerKey);
    const isRight = keys.some((sealed) => {
      const known = Buffer.from(signatureOf(this.opened(hook.id, sealed), time, bytes));
      return told.some((one) => one.length === known.length && timingSafeEqual(one, known));
    });
    if (!isRight)
      throw new Refusal(
        401,
        'signature-wrong',
        'The signature is wrong. It is HMAC-SHA-256 of the time, a full stop and the bytes of the body, with the key of this hook.',
      );
    const off = Number(time) - now.getTime() / 1000;
    if (Math.abs(off) > WINDOW)
      throw new Refusal(
        401,
        'clock-off',
        `The time of the request is ${timeOf(Math.abs(off))} ${off > 0 ? 'ahead' : 'behind'}. Set the clock of the service right, or sign the request anew before it is sent again; five minutes are let through.`,
      );
  }

  private async keep(
    manager: EntityManager,
    { id, schoolId, folioId }: HookRow,
    fields: readonly SentField[],
    { idempotencyKey, bytes }: HookRequest,
    now: Date,
  ): Promise<{ again: boolean; owed: boolean }> {
    const folio = await lockFolio(manager, schoolId, folioId);
    const hook = await this.find(manager, { schoolId, folioId }, id);
    const answerKey = sha256(
      idempotencyKey ? `key ${idempotencyKey}` : Buffer.concat([Buffer.from('body '), bytes]),
    ).slice(0, 40);
    if (await manager.existsBy(FormAnswerRow, { schoolId, writingId: id, answerKey }))
      return { again: true, owed: false };
    const isThere = await manager.existsBy(FolioRow, { id: folioId, schoolId, archivedAt: IsNull() });
    if (!hook.isOn || !isThere)
      throw conflict('closed', 'The school has closed this hook. Nothing was kept; ask there.');
    const { cells, shape, added } = matchSubmission(fields, hook.shape, folio.columns, newId);
    const columns = [...folio.columns, ...added.map((column) => ({ ...column, sourceId: id }))];
    if (columns.length > SHEET_LIMITS.columns)
      throw conflict(
        'too-many-columns',
        `With these answers the roll would have more than ${SHEET_LIMITS.columns} columns. Nothing was kept; leave some out.`,
      );
    const row = {
      id: newId(),
      schoolId,
      folioId,
      writingId: id,
      entryId: newId(),
      answerKey,
      version: 0,
      language: 'und',
      given: Object.fromEntries(
        fields.map(({ key, value }) => [key, typeof value === 'string' ? value : [...value]]),
      ),
      onceKey: null,
      receivedAt: now,
      changedAt: null,
    };
    await addEntry(manager, folio, { id: row.entryId, position: 0, values: cells, answered: id }, columns);
    await manager.insert(FormAnswerRow, row);
    await manager.update(
      HookRow,
      { id },
      { shape, answers: hook.answers + 1, lastAt: now, refused: null, refusedAt: null },
    );
    if (added.length > 0) await matchAllFields(manager, folio, await loadRoll(manager, folio));
    return { again: false, owed: await oweAnswer(manager, row, null) };
  }
}

/** @throws Refusal where the body cannot be read. */
function fieldsOf({ read }: HookRequest): SentField[] {
  try {
    return readSubmission(read());
  } catch (error) {
    if (error instanceof SubmissionWrong) throw new Refusal(422, 'submission', error.message);
    throw error;
  }
}

const timeOf = (seconds: number): string =>
  seconds >= 5400
    ? `${Math.round(seconds / 3600)} hours`
    : seconds >= 90
      ? `${Math.round(seconds / 60)} minutes`
      : `${Math.round(seconds)} seconds`;
