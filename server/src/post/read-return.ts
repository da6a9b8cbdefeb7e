import { simpleParser } from 'mailparser';

/** What became of a message for one of its people, as another mail server reports it. */
export interface ReturnedFor {
  /** Addresses that it may stand for in the message: as it was given, and as it was in the end. Lower case. */
  readonly addresses: readonly string[];
  /** RFC 3464, 2.3.3: `failed`, `delayed`, `delivered`, `relayed` or `expanded`. */
  readonly action: string;
  /** RFC 3463, such as `5.1.1`. */
  readonly status: string;
  /** What the mail server said. */
  readonly diagnostic: string;
}

/** A report that a message was not delivered, or was (RFC 3464). */
export interface Returned {
  /** The Message-ID of the message that it is about, with its angle brackets. */
  readonly messageId: string;
  readonly people: readonly ReturnedFor[];
}

/** Recipients of one report that are read. */
const PEOPLE_MOST = 500;

/**
 * Reads a message as a delivery report.
 *
 * @returns null for any other message, and where the report does not say which message it is about.
 */
export async function readReturn(raw: Buffer): Promise<Returned | null> {
  const options = {
    keepDeliveryStatus: true,
    skipHtmlToText: true,
    skipTextToHtml: true,
    skipTextLinks: true,
    skipImageLinks: true,
  };
  const mail = await simpleParser(raw, options);
  const type = mail.headers.get('content-type') as
    { value?: string; params?: Record<string, string> } | undefined;
  if (type?.value?.toLowerCase() !== 'multipart/report') return null;
  const partOf = (...kinds: string[]): string | null =>
    mail.attachments
      .find(({ contentType }) => kinds.includes(contentType.toLowerCase()))
      ?.content.toString('utf8') ?? null;
  const status = partOf('message/delivery-status', 'message/global-delivery-status');
  if (status === null) return null;
  const [about = new Map<string, string>(), ...groups] = groupsOf(status);
  const original = partOf(
    'message/rfc822',
    'text/rfc822-headers',
    'message/global',
    'message/global-headers',
    'text/rfc822',
  );
  const messageId =
    /^\s*(<[^<>\s]+>)/.exec(headerOf(original ?? '', 'message-id'))?.[1] ??
    /<[^<>\s]+>/.exec(about.get('original-envelope-id') ?? '')?.[0];
  if (!messageId) return null;
  const people = groups.slice(0, PEOPLE_MOST).flatMap((group): ReturnedFor[] => {
    const addresses = ['original-recipient', 'final-recipient'].flatMap((name) => addressIn(group.get(name)));
    if (addresses.length === 0) return [];
    return [
      {
        addresses: [...new Set(addresses)],
        action: (group.get('action') ?? '').toLowerCase(),
        status: group.get('status') ?? '',
        diagnostic: (group.get('diagnostic-code') ?? '').replace(/^[\w-]+\s*;\s*/, '').slice(0, 500),
      },
    ];
  });
  return people.length > 0 ? { messageId, people } : null;
}

/** The messages in a file: one, or those of an mbox (RFC 4155). */
export function messagesIn(bytes: Buffer): Buffer[] {
  const text = bytes.toString('latin1');
  if (!/^From \S/.test(text)) return [bytes];
  return text
    .split(/(?:^|\r?\n)From \S[^\r\n]*\r?\n/)
    .filter((part) => part.trim() !== '')
    .map((part) => Buffer.from(part.replace(/^>(>*From )/gm, '$1'), 'latin1'));
}

/** Groups of fields with blank lines between them (RFC 3464, 2.1); fields may go on in lines that begin with a space. */
function groupsOf(text: string): Map<string, string>[] {
  return text
    .replace(/\r\n/g, '\n')
    .split(/\n[ \t]*\n/)
    .map((group) => fieldsOf(group))
    .filter(({ size }) => size > 0);
}

function fieldsOf(text: string): Map<string, string> {
  const fields = new Map<string, string>();
  for (const line of text.replace(/\n[ \t]+/g, ' ').split('\n')) {
    const [, name, value] = /^([\w-]+)\s*:\s*(.*)$/.exec(line) ?? [];
    if (name && !fields.has(name.toLowerCase())) fields.set(name.toLowerCase(), value!.trim());
  }
  return fields;
}

const headerOf = (message: string, name: string): string =>
  fieldsOf(message.replace(/\r\n/g, '\n').split('\n\n')[0]!).get(name) ?? '';

/** `rfc822; ada@school.example` (RFC 3464, 2.3.1), also `utf-8;` (RFC 6533). */
function addressIn(field: string | undefined): string[] {
  const [, kind, address] = /^\s*([\w-]+)\s*;\s*<?([^<>\s]+@[^<>\s]+?)>?\s*$/.exec(field ?? '') ?? [];
  return kind && /^(rfc822|utf-8)$/i.test(kind) ? [address!.toLowerCase()] : [];
}
