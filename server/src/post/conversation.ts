import type { MailTest } from '@scriptum/core/contract';
import nodemailer from 'nodemailer';
import { HostRefused } from './mail-hosts.js';
import { WrongKey } from './secrets.js';
import { mailOf, optionsOf, type OutgoingMessage } from './transport.js';
import type { Way } from './ways.js';

/** Milliseconds that each answer may take. */
const PATIENCE = 10_000;
/** Lines of what both sides said. */
const LINES_MOST = 200;

type Step = MailTest['steps'][number];

interface SmtpError extends Error {
  readonly code?: string;
  readonly response?: string;
  readonly command?: string;
}

/**
 * Talks to a mail server as a dispatch would, up to signing in, and where it is wished sends a message, and says how that went.
 *
 * @param find finds the server. What it throws about the server is told.
 */
export async function talkTo(
  find: () => Promise<Way>,
  message: ((way: Way) => Omit<OutgoingMessage, 'from' | 'date'>) | null,
): Promise<MailTest> {
  const steps: Step[] = [];
  const lines: string[] = [];
  const told = (what: string, ok: boolean, says: string): boolean => {
    steps.push({ what, ok, says });
    return ok;
  };
  let way: Way;
  try {
    way = await find();
  } catch (error) {
    if (!(error instanceof HostRefused) && !(error instanceof WrongKey)) throw error;
    told('Find the server', false, error.message);
    return { steps, lines };
  }
  const transporter = nodemailer.createTransport({
    ...optionsOf(way.server),
    connectionTimeout: PATIENCE,
    greetingTimeout: PATIENCE,
    socketTimeout: PATIENCE,
    dnsTimeout: PATIENCE,
    logger: listener(lines),
    debug: true,
    disableFileAccess: true,
    disableUrlAccess: true,
  } as never);
  try {
    await transporter.verify();
    told('Reach the server', true, 'It answered.');
    told('Secure the line', true, secured(way, lines));
    told('Sign in', true, signedIn(way));
  } catch (error) {
    failed(error as SmtpError, way, lines, told);
    return { steps, lines };
  } finally {
    transporter.close();
  }
  if (!message) return { steps, lines };
  try {
    const info = await transporter.sendMail(
      mailOf({
        ...message(way),
        from: { name: way.school, address: way.address },
        date: new Date(),
      }),
    );
    told(
      'Send a message',
      true,
      `It was taken: ${String((info as { response?: string }).response ?? 'yes')}`,
    );
  } catch (error) {
    told('Send a message', false, answerOf(error as SmtpError));
  } finally {
    transporter.close();
  }
  return { steps, lines };
}

function failed(
  error: SmtpError,
  way: Way,
  lines: readonly string[],
  told: (what: string, ok: boolean, says: string) => boolean,
): void {
  const secures = !('url' in way.server) && way.server.security !== 'none';
  const { code = '', command = '' } = error;
  const certificate = /CERT|SELF_SIGNED|ALTNAME|UNABLE_TO_VERIFY|ERR_TLS|ETLS/.test(code);
  if (
    !certificate &&
    (code === 'EDNS' || (command === 'CONN' && !lines.some((line) => line.startsWith('S: '))))
  ) {
    told('Reach the server', false, plain(error));
    return;
  }
  told('Reach the server', true, 'It answered.');
  if (certificate || command === 'STARTTLS' || (secures && command === 'CONN')) {
    told('Secure the line', false, plain(error));
    return;
  }
  told('Secure the line', true, secured(way, lines));
  told('Sign in', false, plain(error));
}

/** What went wrong, in plain words, and as the other side said it. */
function plain(error: SmtpError): string {
  const { code = '' } = error;
  const said = answerOf(error);
  const words: readonly (readonly [RegExp, string])[] = [
    [/^EAUTH$/, 'The user or the password is not right, or this server wants another way of signing in.'],
    [/ALTNAME/, 'The certificate of the server is made out for another name. Check the name of the server.'],
    [/EXPIRED/, 'The certificate of the server has run out. Whoever runs it has to renew it.'],
    [
      /SELF_SIGNED|UNABLE_TO/,
      'The certificate of the server is from nobody that is believed. Check the name of the server, or ask whoever runs it.',
    ],
    [
      /^ETLS$/,
      'The server does not offer to secure the line. Choose TLS with port 465, or ask whoever runs it.',
    ],
    [/ECONNREFUSED|^ESOCKET$/, 'Nobody answers at this port.'],
    [/ETIMEDOUT|^ECONNECTION$/, 'The server did not answer in time. Check its name and the port.'],
    [/^EDNS$/, 'There is no server by this name.'],
  ];
  const known = words.find(([pattern]) => pattern.test(code) || pattern.test(said));
  return known ? `${known[1]} (${said})` : said;
}

const answerOf = ({ response, message }: SmtpError): string => (response ?? message).slice(0, 500);

function secured(way: Way, lines: readonly string[]): string {
  if ('url' in way.server) return 'As the server knows it by itself.';
  if (way.server.security === 'none') return 'It is not secured: whoever is on the way can read along.';
  const cipher = lines.find((line) => /cipher|TLSv/i.test(line)) ?? '';
  const version = /TLSv[\d.]+/.exec(cipher)?.[0];
  return `Secured${version ? ` with ${version}` : ''}; the certificate is right.`;
}

const signedIn = ({ server }: Way): string =>
  'url' in server || server.user === '' ? 'No password is asked for.' : `Signed in as ${server.user}.`;

/** Writes down what both sides say; the mailer hides passwords in it already. */
function listener(lines: string[]): object {
  const take = (entry: { tnx?: string } | undefined, message?: string, ...values: unknown[]): void => {
    const kind = entry?.tnx;
    if (!message || lines.length >= LINES_MOST || (kind !== 'server' && kind !== 'client' && kind !== 'smtp'))
      return;
    const text = message
      .replace(/%s/g, () => String(values.shift() ?? ''))
      .replace(/[^\P{Cc}\n]/gu, ' ')
      .trim();
    for (const line of text.split('\n'))
      if (line)
        lines.push(`${kind === 'server' ? 'S: ' : kind === 'client' ? 'C: ' : '– '}${line}`.slice(0, 500));
  };
  return {
    level: () => undefined,
    trace: take,
    debug: take,
    info: take,
    warn: take,
    error: take,
    fatal: take,
  };
}
