import type { DataSource } from 'typeorm';
import { School } from '../store/entities/people.js';
import { MailAccountRow } from '../store/entities/post.js';
import type { MailHosts } from './mail-hosts.js';
import type { Secrets } from './secrets.js';
import type { MailServer } from './transport.js';

/** How the messages of an account leave. */
export interface Way {
  /** Another one where the account was changed. */
  readonly version: number;
  readonly server: MailServer;
  /** What messages are from. */
  readonly address: string;
  /** What the school is called. */
  readonly school: string;
}

export interface WaysOptions {
  /** The way that the server knows by itself, for a school. */
  readonly builtIn: (schoolId: string) => Promise<{ readonly url: string; readonly version: number }>;
  /** What messages are from there. */
  readonly from: string;
  readonly hosts: MailHosts;
  readonly secrets: Secrets;
  /** PEM; null for the usual ones alone. */
  readonly authorities: string | null;
}

/** What a password, or a key, of an account is sealed for. */
export const secretOf = (accountId: string, which: 'password' | 'dkim'): string => `${accountId} ${which}`;

/** Knows how the messages of each account leave. The built-in way of a school has the school's identity for its account. */
export class Ways {
  constructor(
    private readonly database: DataSource,
    private readonly options: WaysOptions,
  ) {}

  /** @throws HostRefused, WrongKey */
  async find(schoolId: string, accountId: string): Promise<Way> {
    const { manager } = this.database;
    const { name: school = '' } = (await manager.findOneBy(School, { id: schoolId })) ?? {};
    if (accountId === schoolId) {
      const { url, version } = await this.options.builtIn(schoolId);
      return { version, server: { url }, address: this.options.from, school };
    }
    const [row] = await manager.find(MailAccountRow, {
      where: { id: accountId, schoolId },
      select: {
        id: true,
        host: true,
        port: true,
        security: true,
        user: true,
        secret: true,
        address: true,
        dkim: true,
        dkimSecret: true,
        version: true,
      },
    });
    if (!row) throw new Error('The mail account is not there any more.');
    return { version: row.version, server: await this.serverOf(row), address: row.address, school };
  }

  /** Whom messages of an account are from; also of one that is gone. */
  async senderOf(schoolId: string, accountId: string): Promise<Pick<Way, 'school' | 'address'>> {
    const { manager } = this.database;
    const { name: school = '' } = (await manager.findOneBy(School, { id: schoolId })) ?? {};
    const row =
      accountId === schoolId ? null : await manager.findOneBy(MailAccountRow, { id: accountId, schoolId });
    return { school, address: row?.address ?? this.options.from };
  }

  private async serverOf(row: MailAccountRow): Promise<MailServer> {
    const { hosts, secrets, authorities } = this.options;
    const { id, host, port, security, user, secret, dkim, dkimSecret } = row;
    const { address, name } = await hosts.addressOf(host, port);
    return {
      address,
      name,
      port,
      security,
      user,
      password: secret ? secrets.open(secret, secretOf(id, 'password')) : '',
      authorities,
      dkim:
        dkim && dkimSecret
          ? {
              domain: dkim.domain,
              selector: dkim.selector,
              key: secrets.open(dkimSecret, secretOf(id, 'dkim')),
            }
          : null,
    };
  }
}
