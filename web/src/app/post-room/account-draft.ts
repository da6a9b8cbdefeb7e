import type { MailAccount, MailSecurity, SaveMailAccount } from '@scriptum/core/contract';

/** An account as it is filled in: all as text, as it stands in its boxes. */
export interface AccountDraft {
  readonly name: string;
  readonly host: string;
  readonly port: string;
  readonly security: MailSecurity;
  readonly user: string;
  /** Blank while it stays as it is. */
  readonly password: string;
  readonly address: string;
  readonly own: boolean;
  readonly perMinute: string;
  readonly perDay: string;
  readonly signed: boolean;
  readonly domain: string;
  readonly selector: string;
  /** `keep`, `new`, or the text of a key. */
  readonly key: string;
  /** Whether mail that comes back is fetched, and from where. */
  readonly fetched: boolean;
  readonly boxHost: string;
  readonly boxPort: string;
  readonly boxSecurity: MailSecurity;
  readonly boxFolder: string;
}

/** RFC 8314 for TLS, RFC 6409 for STARTTLS. */
export const PORTS: Readonly<Record<MailSecurity, string>> = { tls: '465', starttls: '587', none: '25' };

/** RFC 8314 for TLS; RFC 3501 has STARTTLS at the port of an open line. */
export const BOX_PORTS: Readonly<Record<MailSecurity, string>> = { tls: '993', starttls: '143', none: '143' };

const NO_BOX = {
  fetched: false,
  boxHost: '',
  boxPort: BOX_PORTS.tls,
  boxSecurity: 'tls',
  boxFolder: 'INBOX',
} as const;

export const emptyAccount = (address: string): AccountDraft => ({
  name: '',
  host: '',
  port: PORTS.starttls,
  security: 'starttls',
  user: '',
  password: '',
  address,
  own: false,
  perMinute: '',
  perDay: '',
  signed: false,
  domain: '',
  selector: 'scriptum',
  key: 'new',
  ...NO_BOX,
});

export const draftOf = (account: MailAccount): AccountDraft => ({
  name: account.name,
  host: account.host,
  port: String(account.port),
  security: account.security,
  user: account.user,
  password: '',
  address: account.address,
  own: account.owner !== null,
  perMinute: account.perMinute === null ? '' : String(account.perMinute),
  perDay: account.perDay === null ? '' : String(account.perDay),
  signed: account.dkim !== null,
  domain: account.dkim?.domain ?? '',
  selector: account.dkim?.selector ?? 'scriptum',
  key: account.dkim ? 'keep' : 'new',
  ...(account.returns
    ? {
        fetched: true,
        boxHost: account.returns.host,
        boxPort: String(account.returns.port),
        boxSecurity: account.returns.security,
        boxFolder: account.returns.folder,
      }
    : NO_BOX),
});

/** With another way of securing the line to the mailbox, and its usual port where the usual one of the former stood there. */
export const boxSecured = (draft: AccountDraft, boxSecurity: MailSecurity): AccountDraft => ({
  ...draft,
  boxSecurity,
  boxPort: draft.boxPort === BOX_PORTS[draft.boxSecurity] ? BOX_PORTS[boxSecurity] : draft.boxPort,
});

/** With another way of securing the line, and its usual port where the usual one of the former stood there. */
export const secured = (draft: AccountDraft, security: MailSecurity): AccountDraft => ({
  ...draft,
  security,
  port: draft.port === PORTS[draft.security] ? PORTS[security] : draft.port,
});

/**
 * What is saved of a draft; a sentence where it cannot be.
 *
 * @param before the account that was changed; null for a new one.
 */
export function savedOf(draft: AccountDraft, before: MailAccount | null): SaveMailAccount | string {
  const port = Number(draft.port);
  if (draft.name.trim() === '') return 'Give the account a name.';
  if (draft.host.trim() === '') return 'Say the mail server, such as smtp.school.example.';
  if (!isPort(draft.port)) return `“${draft.port}” is not the number of a port. Common ones are 465 and 587.`;
  const [perMinute, perDay] = [draft.perMinute, draft.perDay].map((text) => text.trim());
  for (const [text, most] of [
    [perMinute!, 600],
    [perDay!, 1_000_000],
  ] as const)
    if (text !== '' && (!/^\d+$/.test(text) || Number(text) < 1 || Number(text) > most))
      return `“${text}” is not a number from 1 to ${most.toLocaleString('en')}. Leave it blank for no limit.`;
  if (draft.fetched && draft.boxHost.trim() === '')
    return 'Say the server of the mailbox, such as imap.school.example.';
  if (draft.fetched && !isPort(draft.boxPort))
    return `“${draft.boxPort}” is not the number of a port. Common ones are 993 and 143.`;
  if (draft.fetched && draft.user.trim() === '')
    return 'A mailbox opens for a user alone. Fill in the user and the password of this account.';
  if (draft.signed && draft.domain.trim() === '') return 'Say the domain that messages are signed for.';
  return {
    name: draft.name.trim(),
    host: draft.host.trim(),
    port,
    security: draft.security,
    user: draft.user.trim(),
    address: draft.address.trim(),
    own: draft.own,
    perMinute: perMinute === '' ? null : Number(perMinute),
    perDay: perDay === '' ? null : Number(perDay),
    ...(draft.password === '' ? {} : { password: draft.password }),
    dkim: draft.signed
      ? {
          domain: draft.domain.trim(),
          selector: draft.selector.trim(),
          ...(draft.key === 'keep' ? {} : { key: draft.key.trim() }),
        }
      : null,
    returns: draft.fetched
      ? {
          host: draft.boxHost.trim(),
          port: Number(draft.boxPort),
          security: draft.boxSecurity,
          folder: draft.boxFolder.trim() || 'INBOX',
        }
      : null,
    ...(before ? { version: before.version } : {}),
  };
}

const isPort = (text: string): boolean =>
  /^\d+$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= 65_535;
