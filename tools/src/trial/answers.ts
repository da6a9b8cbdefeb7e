import { createHash } from 'node:crypto';
import type { Folio, FormDoor, OpenedForm } from '@scriptum/core/contract';
import { emptyForm, TICKET_BITS, workFor } from '@scriptum/core/form';
import { emptyOrder } from '@scriptum/core/order';
import type { Person } from './person.js';
import { pause } from './trial-setup.js';

const sha256 = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();

/** People who answer at a time. */
const AT_ONCE = 8;

/** A form that asks who somebody is, and for an address, published. @returns its folio and the path at which it is answered */
export async function publishForm(person: Person): Promise<{ folioId: string; path: string }> {
  const { id: folioId } = await person.call<{ id: string }>('POST', '/folios', { title: 'Answers' });
  const form = {
    ...emptyForm('Answers', 'en'),
    items: [
      { kind: 'short', id: 'asked', label: { en: 'Who?' }, required: true },
      { kind: 'email', id: 'email', label: { en: 'Where?' }, required: true },
    ],
  };
  const { id, version } = await person.call<{ id: string; version: number }>(
    'POST',
    `/folios/${folioId}/writings`,
    {
      kind: 'form',
      content: form,
    },
  );
  const { doors } = await person.call<{ doors: FormDoor[] }>(
    'POST',
    `/folios/${folioId}/forms/${id}/publish`,
    {
      version,
    },
  );
  return { folioId, path: new URL(doors[0]!.link).pathname };
}

/** Lets an order press and send a paper for each new answer of a folio, by itself. */
export async function orderEach(person: Person, folioId: string): Promise<void> {
  await person.write(await person.call<Folio>('GET', `/folios/${folioId}`), ['field0', 'number'], 'email');
  const order = { ...emptyOrder('Answer each'), then: { kind: 'send' } };
  const id = `order${folioId}`;
  await person.call('POST', `/folios/${folioId}/orders`, { id, order });
  await person.call('PUT', `/folios/${folioId}/orders/${id}/on`, { isOn: true });
}

/**
 * Sends so many answers, each until it is told that it is kept, whatever becomes of the server meanwhile.
 *
 * @param url where a server is now.
 * @param kept told of each one.
 */
export async function answerAll(
  url: () => string,
  path: string,
  many: number,
  kept: (count: number) => void,
): Promise<void> {
  let next = 0;
  let done = 0;
  const person = async (): Promise<void> => {
    for (let n = next++; n < many; n = next++) {
      const { ticket, version } = await patiently<OpenedForm>(() => fetch(`${url()}${path}/form`));
      const nonce = workFor(ticket, { bits: TICKET_BITS, from: 0, tries: 10_000_000 }, sha256);
      const body = JSON.stringify({
        ticket,
        nonce,
        version,
        language: 'en',
        given: { asked: `Answer ${n}`, email: `a${n}@families.example` },
      });
      const headers = { 'content-type': 'application/json' };
      await patiently(() => fetch(`${url()}${path}/answers`, { method: 'POST', headers, body }));
      kept(++done);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, person));
}

/** Asks again until it is answered with success. */
async function patiently<T>(ask: () => Promise<Response>): Promise<T> {
  for (;;) {
    try {
      const response = await ask();
      const body = (await response.json()) as T;
      if (response.ok) return body;
    } catch {
      // The server is gone; another one comes.
    }
    await pause(100);
  }
}
