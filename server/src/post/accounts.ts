import { createPrivateKey, createPublicKey, generateKeyPair } from 'node:crypto';
import { isDeepStrictEqual, promisify } from 'node:util';
import { readAddress } from '@scriptum/core/column';
import type { MailAccount, PostRoom, ReturnBox, SaveMailAccount } from '@scriptum/core/contract';
import { say } from '@scriptum/core/sentences';
import { In, type DataSource, type EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { faultOf } from '../register/register.js';
import { School, Staff } from '../store/entities/people.js';
import { MailAccountRow, MailFaultRow } from '../store/entities/post.js';
import { MessageRow } from '../store/entities/register.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { usedBy } from './gates.js';
import { HostRefused, IMAP_PORTS, type MailHosts } from './mail-hosts.js';
import type { Secrets } from './secrets.js';
import { secretOf } from './ways.js';

/** Accounts of a school. */
const MOST = 50;
/** Bits of a key that is made here: RFC 8301, 3.2. */
const KEY_BITS = 2048;
const WAITING = ['queued', 'sending', 'deferred'] as const;

/** A private RSA key, PEM. */
async function newKey(): Promise<string> {
  const { privateKey } = await promisify(generateKeyPair)('rsa', { modulusLength: KEY_BITS });
  return privateKey.export({ type: 'pkcs8', format: 'pem' }).toString();
}

interface Asker {
  readonly schoolId: string;
  readonly staffId: string;
}

export interface AccountsOptions {
  readonly secrets: Secrets;
  readonly hosts: MailHosts;
  readonly builtIn: {
    readonly kind: 'practice' | 'server';
    readonly host: string;
    readonly address: string;
  };
}

/** The mail accounts of schools. Passwords and keys come in and never go out. */
export class Accounts {
  constructor(
    private readonly database: DataSource,
    private readonly options: AccountsOptions,
  ) {}

  /** What a school's mail leaves through, as the person who asks may see it. */
  async room(asker: Asker, manager: EntityManager = this.database.manager): Promise<PostRoom> {
    const { schoolId } = asker;
    const [school, rows, faults, waiting] = await Promise.all([
      manager.findOneBy(School, { id: schoolId }),
      manager.find(MailAccountRow, { where: { schoolId }, order: { name: 'ASC', id: 'ASC' } }),
      manager.findBy(MailFaultRow, { schoolId }),
      manager.query<{ accountId: string; n: string }[]>(
        `SELECT accountId, COUNT(*) AS n FROM message WHERE schoolId = ? AND state IN (?) GROUP BY accountId`,
        [schoolId, WAITING],
      ),
    ]);
    const waits = (id: string): number => Number(waiting.find(({ accountId }) => accountId === id)?.n ?? 0);
    const faultOfAccount = (id: string) => faultOf(faults.find(({ accountId }) => accountId === id));
    const accounts: MailAccount[] = [];
    for (const row of rows)
      accounts.push(
        await this.described(manager, asker, row, { fault: faultOfAccount(row.id), waiting: waits(row.id) }),
      );
    return {
      accountId: school?.accountId ?? null,
      builtIn: { ...this.options.builtIn, fault: faultOfAccount(schoolId), waiting: waits(schoolId) },
      accounts,
    };
  }

  /** @throws Refusal where something in it is not right, or it was changed meanwhile. */
  async save(asker: Asker, id: string | null, asked: SaveMailAccount): Promise<MailAccount> {
    const { schoolId, staffId } = asker;
    await this.expectRight(asked);
    // Made before anything is held, and beside what the server answers.
    const made = asked.dkim?.key === 'new' ? await newKey() : null;
    return inTransaction(this.database, async (manager) => {
      const before = id === null ? null : await this.changeable(manager, asker, id);
      if (before && asked.version !== before.version)
        throw conflict(
          'changed-elsewhere',
          'Somebody else changed this account meanwhile. Look at it as it is now, then change it.',
        );
      if (!before && (await manager.countBy(MailAccountRow, { schoolId })) >= MOST)
        throw conflict('too-many', `A school has ${MOST} mail accounts at most. Delete one first.`);
      const accountId = id ?? newId();
      const { name, host, port, security, user, address, perMinute, perDay, own } = asked;
      const returns = asked.returns === undefined ? (before?.returns ?? null) : asked.returns;
      const secret = this.secretOf(accountId, before, asked, returns);
      const key = this.keyOf(accountId, before, asked, made);
      const row: Partial<MailAccountRow> = {
        ...{ name, host, port, security, user, address, perMinute, perDay },
        ownerId: own ? staffId : null,
        secret,
        ...key,
        ...(isDeepStrictEqual(returns, before?.returns ?? null)
          ? {}
          : { returns, returnsSeen: null, returnsAt: null, returnsFault: null }),
        version: (before?.version ?? 0) + 1,
        changedAt: new Date(),
        changedBy: staffId,
        openAt: null,
      };
      if (before) {
        if (own && (await manager.existsBy(School, { id: schoolId, accountId })))
          throw conflict(
            'account-on',
            'This account is on for the whole school, so it cannot be yours alone.',
          );
        await manager.update(MailAccountRow, { id: accountId, schoolId }, row as object);
        // It is asked anew at once.
        await manager.update(MailFaultRow, { accountId }, { nextAttemptAt: new Date() });
      } else await manager.insert(MailAccountRow, { ...row, id: accountId, schoolId } as object);
      const saved = await manager.findOneByOrFail(MailAccountRow, { id: accountId, schoolId });
      const fault = await manager.findOneBy(MailFaultRow, { accountId });
      const waiting = await manager.countBy(MessageRow, { accountId, state: In([...WAITING]) });
      return this.described(manager, asker, saved, { fault: faultOf(fault), waiting });
    });
  }

  /** @throws Refusal `account-on`, `mail-waits` */
  async delete(asker: Asker, id: string): Promise<PostRoom> {
    return inTransaction(this.database, async (manager) => {
      const row = await this.changeable(manager, asker, id);
      // Held, so that nothing is queued for it meanwhile.
      const school = await manager.findOne(School, {
        where: { id: asker.schoolId },
        lock: { mode: 'pessimistic_write' },
      });
      if (school?.accountId === id)
        throw conflict(
          'account-on',
          'The school’s mail leaves through this account. Choose another way first.',
        );
      const waiting = await manager.countBy(MessageRow, { accountId: id, state: In([...WAITING]) });
      if (waiting > 0)
        throw conflict(
          'mail-waits',
          `${waiting === 1 ? 'A message waits' : `${waiting} messages wait`} for this account. Let ${waiting === 1 ? 'it' : 'them'} leave, or take ${waiting === 1 ? 'it' : 'them'} back, first.`,
        );
      await manager.delete(MailAccountRow, { id: row.id, schoolId: asker.schoolId });
      await manager.delete(MailFaultRow, { accountId: id });
      return this.room(asker, manager);
    });
  }

  /**
   * Says which account is on. What waits already leaves the way it was sent.
   *
   * @throws Refusal `post-changed` where another one was on than the person saw.
   */
  async choose(asker: Asker, accountId: string | null, from: string | null): Promise<PostRoom> {
    const { schoolId } = asker;
    return inTransaction(this.database, async (manager) => {
      const school = await manager.findOneOrFail(School, {
        where: { id: schoolId },
        lock: { mode: 'pessimistic_write' },
      });
      if (school.accountId !== from)
        throw conflict(
          'post-changed',
          'Somebody else chose another way meanwhile. Look at what is on now, then choose.',
        );
      if (accountId !== null) {
        const row = await manager.findOneBy(MailAccountRow, { id: accountId, schoolId });
        if (!row) throw notFound('This mail account');
        if (row.ownerId !== null)
          throw conflict(
            'account-own',
            'This account belongs to one person. Choose one of the whole school.',
          );
      }
      await manager.update(School, { id: schoolId }, { accountId });
      return this.room(asker, manager);
    });
  }

  /** @throws Refusal `not-found` where the person may not see into it: it is another school's, or another's own. */
  async expectMine({ schoolId, staffId }: Asker, id: string): Promise<void> {
    const row = await this.database.manager.findOneBy(MailAccountRow, { id, schoolId });
    if (!row || (row.ownerId !== null && row.ownerId !== staffId)) throw notFound('This mail account');
  }

  /** An account that the person may change, held. @throws Refusal `not-found` */
  private async changeable(
    manager: EntityManager,
    { schoolId, staffId }: Asker,
    id: string,
  ): Promise<MailAccountRow> {
    const row = await manager.findOne(MailAccountRow, {
      where: { id, schoolId },
      lock: { mode: 'pessimistic_write' },
    });
    if (!row || (row.ownerId !== null && row.ownerId !== staffId)) throw notFound('This mail account');
    const secrets = await manager.findOne(MailAccountRow, {
      where: { id, schoolId },
      select: { id: true, secret: true, dkimSecret: true },
    });
    return Object.assign(row, { secret: secrets?.secret ?? null, dkimSecret: secrets?.dkimSecret ?? null });
  }

  private async expectRight({
    address,
    host,
    port,
    security,
    user,
    dkim,
    returns,
  }: SaveMailAccount): Promise<void> {
    const reading = readAddress(address);
    if (reading.kind !== 'address')
      throw new Refusal(
        422,
        'address-wrong',
        reading.kind === 'none'
          ? 'Say the address that messages are from.'
          : `“${address}” cannot be right: ${say(reading.reason)}.`,
      );
    if (security === 'none' && user !== '' && !this.options.hosts.isNamed(host, port))
      throw new Refusal(
        422,
        'line-open',
        'A password must not go over a line that is not secured. Choose TLS or STARTTLS.',
      );
    if (dkim && (!/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/.test(dkim.domain) || !dkim.domain.includes('.')))
      throw new Refusal(422, 'domain-wrong', `“${dkim.domain}” is not the name of a domain.`);
    if (dkim && !/^[a-z0-9]([a-z0-9-]*[a-z0-9])?$/.test(dkim.selector))
      throw new Refusal(
        422,
        'selector-wrong',
        'The selector of the signature is a short word of letters and digits, such as scriptum.',
      );
    if (returns && user === '')
      throw new Refusal(
        422,
        'box-user',
        'A mailbox opens for a user alone. Fill in the user and the password of this account.',
      );
    if (returns?.security === 'none' && !this.options.hosts.isNamed(returns.host, returns.port))
      throw new Refusal(
        422,
        'line-open',
        'A password must not go over a line that is not secured. Choose TLS or STARTTLS.',
      );
    try {
      await this.options.hosts.addressOf(host, port);
      if (returns) await this.options.hosts.addressOf(returns.host, returns.port, IMAP_PORTS);
    } catch (error) {
      if (error instanceof HostRefused) throw new Refusal(422, 'host-refused', error.message);
      throw error;
    }
  }

  private secretOf(
    accountId: string,
    before: MailAccountRow | null,
    { host, port, security, user, password }: SaveMailAccount,
    returns: ReturnBox | null,
  ): string | null {
    if (user === '') return null;
    if (password !== undefined)
      return password === '' ? null : this.options.secrets.seal(password, secretOf(accountId, 'password'));
    // Else whoever changes where it leads could have it sent to themselves.
    const fetched = before?.returns;
    const fetchedElsewhere =
      returns !== null &&
      (fetched?.host !== returns.host ||
        fetched.port !== returns.port ||
        fetched.security !== returns.security);
    if (
      before?.secret &&
      (fetchedElsewhere ||
        before.host !== host ||
        before.port !== port ||
        before.security !== security ||
        before.user !== user)
    )
      throw new Refusal(
        422,
        'password-again',
        'The account leads elsewhere now. Type its password again, so that it goes nowhere unasked.',
      );
    return before?.secret ?? null;
  }

  private keyOf(
    accountId: string,
    before: MailAccountRow | null,
    { dkim }: SaveMailAccount,
    made: string | null,
  ): Pick<MailAccountRow, 'dkim' | 'dkimSecret'> {
    if (!dkim) return { dkim: null, dkimSecret: null };
    const { domain, selector, key } = dkim;
    if (key === undefined) {
      if (!before?.dkim || !before.dkimSecret)
        throw new Refusal(422, 'key-missing', 'Let a key be made for the signature, or put one in.');
      return {
        dkim: { domain, selector, publicKey: before.dkim.publicKey },
        dkimSecret: before.dkimSecret,
      };
    }
    const pem = made ?? key;
    let publicKey: string;
    try {
      const read = createPrivateKey(pem);
      if (read.asymmetricKeyType !== 'rsa') throw new Error('not RSA');
      publicKey = createPublicKey(read).export({ type: 'spki', format: 'der' }).toString('base64');
    } catch {
      throw new Refusal(
        422,
        'key-wrong',
        'This is not a private RSA key in the form PEM. Let one be made, or put in the whole text of the key file.',
      );
    }
    return {
      dkim: { domain, selector, publicKey },
      dkimSecret: this.options.secrets.seal(pem, secretOf(accountId, 'dkim')),
    };
  }

  private async described(
    manager: EntityManager,
    { staffId }: Asker,
    row: MailAccountRow,
    now: Pick<MailAccount, 'fault' | 'waiting'>,
  ): Promise<MailAccount> {
    const {
      id,
      name,
      host,
      port,
      security,
      user,
      address,
      ownerId,
      perMinute,
      perDay,
      dkim,
      version,
      openAt,
    } = row;
    const [kept] = await manager.query<{ has: number }[]>(
      'SELECT secret IS NOT NULL AS has FROM mail_account WHERE id = ?',
      [id],
    );
    const owner = ownerId && (await manager.findOneBy(Staff, { id: ownerId }));
    const mine = ownerId === null || ownerId === staffId;
    return {
      ...{ id, name, host, port, security, user: mine ? user : '', address, perMinute, perDay, version },
      owner: owner ? owner.name : null,
      mine,
      hasPassword: Number(kept?.has ?? 0) === 1,
      dkim: dkim && {
        domain: dkim.domain,
        selector: dkim.selector,
        record: {
          name: `${dkim.selector}._domainkey.${dkim.domain}`,
          text: `v=DKIM1; k=rsa; p=${dkim.publicKey}`,
        },
      },
      returns: row.returns && {
        ...row.returns,
        at: row.returnsAt?.toISOString() ?? null,
        fault: row.returnsFault,
      },
      ...now,
      used: perDay === null ? 0 : await usedBy(manager, id),
      opensAt: perDay !== null && openAt !== null && openAt > new Date() ? openAt.toISOString() : null,
    };
  }
}
