import { createHash } from 'node:crypto';
import type { OpenedForm } from '@scriptum/core/contract';
import { TICKET_BITS, workFor } from '@scriptum/core/form';
import type { Running } from '@scriptum/server/server';
import { orderEach, publishForm } from './trial/answers.js';
import { Person } from './trial/person.js';
import { pause } from './trial/trial-setup.js';

const ANSWERS = 200;
const A_SECOND = 5;
/** Milliseconds. */
const AIM = 2_000;

const sha256 = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();

/**
 * How long it takes from the moment that somebody sends an answer until the mail server has the message with the paper, by itself.
 *
 * @param arrivals told of each address that a message has arrived for.
 */
export async function benchOrders(
  say: (line: string) => void,
  running: Running,
  arrivals: (heard: (address: string) => void) => void,
): Promise<void> {
  const person = await Person.ofDemo(running.url);
  const { folioId, path } = await publishForm(person);
  await orderEach(person, folioId);
  const address = `${running.url}${path}`;
  const paid: { ticket: string; nonce: string; version: number }[] = [];
  for (let n = 0; n < ANSWERS; n++) {
    const { ticket, version } = (await (await fetch(`${address}/form`)).json()) as OpenedForm;
    const nonce = workFor(ticket, { bits: TICKET_BITS, from: 0, tries: 10_000_000 }, sha256)!;
    paid.push({ ticket, version, nonce });
  }
  await pause(2_000);
  const sent = new Map<string, number>();
  const times: number[] = [];
  arrivals((to) => {
    const began = sent.get(to);
    if (began !== undefined) times.push(performance.now() - began);
    sent.delete(to);
  });
  const headers = { 'content-type': 'application/json' };
  const answering: Promise<unknown>[] = [];
  for (const [n, one] of paid.entries()) {
    const email = `bench${n}@families.example`;
    sent.set(email, performance.now());
    const body = JSON.stringify({ ...one, language: 'en', given: { asked: `Answer ${n}`, email } });
    answering.push(
      fetch(`${address}/answers`, { method: 'POST', headers, body }).then((reply) => reply.text()),
    );
    await pause(1000 / A_SECOND);
  }
  await Promise.all(answering);
  while (sent.size > 0) await pause(50);
  const slow = times.sort((a, b) => a - b)[Math.floor(ANSWERS * 0.95)]!;
  const middle = times[Math.floor(ANSWERS / 2)]!;
  say(
    `from an answer to the message with its paper at the mail server, ${A_SECOND} answers a second: p95 ${slow.toFixed(0)} ms (aim at most ${AIM}) ${slow <= AIM ? 'reached' : 'NOT reached'}; the middle one ${middle.toFixed(0)} ms`,
  );
}
