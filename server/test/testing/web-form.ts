import { createHash } from 'node:crypto';
import { request, type IncomingMessage } from 'node:http';
import type { AnswerKept, Folio, FormDoor, ProblemDetails } from '@scriptum/core/contract';
import { emptyForm, TICKET_BITS, workFor, type Form, type FormItem } from '@scriptum/core/form';
import { Tickets } from '@scriptum/server/intake/tickets';
import { letterOf, noteOf, writingPath, type Client, type TestServer } from './school.js';

/** Of servers whose forms are answered: tickets are made with it. */
export const FORM_KEY = 'the key of these tests alone, and long enough';
export const sha256 = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();
export const tickets = new Tickets(FORM_KEY);

export const W = (en: string): Record<string, string> => ({ 'en-GB': en });
export const asked = (id: string, en: string) => ({ id, label: W(en), required: false });
export const QUESTIONS: FormItem[] = [
  { kind: 'short', ...asked('name01', 'Name'), required: true },
  { kind: 'email', ...asked('email1', 'Email') },
  {
    kind: 'one',
    ...asked('club01', 'Club'),
    choices: [
      { id: 'chess1', label: W('Chess') },
      { id: 'choir1', label: W('Choir') },
    ],
    other: false,
    look: 'list',
  },
];

export interface Published {
  readonly folio: Folio;
  readonly door: FormDoor;
  readonly token: string;
  readonly version: number;
}

export async function formOf(items: FormItem[], terms: Partial<Form['terms']> = {}): Promise<Form> {
  const form = emptyForm('Sign-up', 'en-GB');
  return { ...form, items, terms: { ...form.terms, ...terms } };
}

/** A ticket that was given out a while ago, and worked for. */
export function ticketFor(token: string, ago = 5_000): { ticket: string; nonce: string } {
  const ticket = tickets.give(token, Date.now() - ago);
  return { ticket, nonce: workFor(ticket, { bits: TICKET_BITS, from: 0, tries: 10_000_000 }, sha256)! };
}

/** A form with these questions, published in a folio of its own. */
export async function publishedBy(
  by: Client,
  items: FormItem[] = QUESTIONS,
  terms: Partial<Form['terms']> = {},
): Promise<Published> {
  const { body: made } = await by.send<{ id: string }>('POST', '/folios', { title: 'Sign-up' });
  return publishedIn(by, made.id, items, terms);
}

/** A published form whose answers get a letter, by mail. */
export async function letteredForm(by: Client, terms: Partial<Form['terms']> = {}): Promise<Published> {
  const form = await publishedBy(by, QUESTIONS, terms);
  const folio = await by.get<Folio>(`/folios/${form.folio.id}`);
  const fields = folio.roll.columns.map(({ id, title }) => ({ id: `f${id}`, name: title, columnId: id }));
  const body = {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'fname01' } }] }],
  };
  await by.send('PUT', writingPath(folio, 'letter'), {
    version: letterOf(folio).version,
    kind: 'letter',
    content: { ...letterOf(folio).content, fields, body },
  });
  await by.send('PUT', writingPath(folio, 'note'), {
    version: noteOf(folio).version,
    kind: 'note',
    content: {
      ...noteOf(folio).content,
      fields,
      to: [{ columnId: 'email1' }],
      subject: [{ type: 'text', text: 'Thank you' }],
      body,
    },
  });
  return { ...form, folio: await by.get<Folio>(`/folios/${folio.id}`) };
}

/** A form with these questions, published in this folio. */
export async function publishedIn(
  by: Client,
  folioId: string,
  items: FormItem[] = QUESTIONS,
  terms: Partial<Form['terms']> = {},
): Promise<Published> {
  const made = { id: folioId };
  const content = await formOf(items, terms);
  const { body: writing } = await by.send<{ id: string; version: number }>(
    'POST',
    `/folios/${made.id}/writings`,
    {
      kind: 'form',
      content,
    },
  );
  const { body, status } = await by.send<{ doors: FormDoor[] } & ProblemDetails>(
    'POST',
    `/folios/${made.id}/forms/${writing.id}/publish`,
    { version: writing.version },
  );
  expect([status, body.detail]).toEqual([200, undefined]);
  const door = body.doors[0]!;
  return {
    folio: await by.get<Folio>(`/folios/${made.id}`),
    door,
    token: door.link.split('/').at(-1)!,
    version: writing.version,
  };
}

/** Asks on a connection of its own: while tickets are worked for, those that were kept would end unnoticed. */
export async function askAt<T>(
  server: TestServer,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: T; cookies: readonly string[] }> {
  const response = await new Promise<IncomingMessage>((resolve, reject) => {
    const headers = { 'content-type': 'application/json' };
    request(`${server.running.url}${path}`, { method, agent: false, headers }, resolve)
      .once('error', reject)
      .end(body === undefined ? undefined : JSON.stringify(body));
  });
  const text = Buffer.concat(await response.toArray()).toString('utf8');
  return {
    status: response.statusCode!,
    body: JSON.parse(text) as T,
    cookies: response.headers['set-cookie'] ?? [],
  };
}

/** Sends an answer. */
export const answerAt = (
  server: TestServer,
  { token, version }: Published,
  given: object,
  ticket = ticketFor(token),
): Promise<{
  status: number;
  body: AnswerKept & ProblemDetails & { problems?: { columnId: string; code: string }[] };
}> => askAt(server, 'POST', `/f/${token}/answers`, { ...ticket, version, language: 'en-GB', given });
