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
}

/** RFC 8314 for TLS, RFC 6409 for STARTTLS. */
export const PORTS: Readonly<Record<MailSecurity, string>> = { tls: '465', starttls: '587', none: '25' };

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
  if (!/^\d+$/.test(draft.port.trim()) || port < 1 || port > 65_535)
    return `“${draft.port}” is not the number of a port. Common ones are 465 and 587.`;
  const [perMinute, perDay] = [draft.perMinute, draft.perDay].map((text) => text.trim());
  for (const [text, most] of [
    [perMinute!, 600],
    [perDay!, 1_000_000],
  ] as const)
    if (text !== '' && (!/^\d+$/.test(text) || Number(text) < 1 || Number(text) > most))
      return `“${text}” is not a number from 1 to ${most.toLocaleString('en')}. Leave it blank for no limit.`;
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
    ...(before ? { version: before.version } : {}),
  };
}
