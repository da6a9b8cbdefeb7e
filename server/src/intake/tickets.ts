import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { hasWorked, TICKET_BITS } from '@scriptum/core/form';
import { newId } from '../store/id.js';

const sha256 = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();

/** Milliseconds that an answer takes at the least, and for which a ticket is good. */
const SOONEST = 1_500;
const LONGEST = 24 * 60 * 60 * 1000;

/** What a ticket is good for. */
export type TicketState =
  | { readonly state: 'good'; readonly key: string }
  | { readonly state: 'early' | 'old' | 'forged' | 'unpaid' };

/**
 * Tickets are given out with a form, one for each answer, and carry what the server needs to know: whose form, when, and a signature. To
 * use one, a machine has to have worked for it (a partial preimage of SHA-256, as in hashcash), so that a robot with ten thousand
 * answers works for hours while nobody is asked a riddle. Nothing is kept of a ticket but the answer that it was used for.
 */
export class Tickets {
  private readonly key: Buffer;

  constructor(secret: string) {
    this.key = createHmac('sha256', secret).update('tickets of forms').digest();
  }

  give(token: string, now = Date.now()): string {
    const said = `${newId()}.${now.toString(36)}`;
    return `${said}.${this.signature(token, said)}`;
  }

  /** @param nonce what the work came to. */
  look(token: string, ticket: string, nonce: string, now = Date.now()): TicketState {
    const [id = '', at = '', signature = ''] = ticket.split('.');
    const known = Buffer.from(this.signature(token, `${id}.${at}`));
    const told = Buffer.from(signature);
    if (known.length !== told.length || !timingSafeEqual(known, told)) return { state: 'forged' };
    const age = now - Number.parseInt(at, 36);
    if (!(age <= LONGEST)) return { state: 'old' };
    if (age < SOONEST) return { state: 'early' };
    return hasWorked(ticket, nonce, TICKET_BITS, sha256) ? { state: 'good', key: id } : { state: 'unpaid' };
  }

  private signature(token: string, said: string): string {
    return createHmac('sha256', this.key).update(`${token} ${said}`).digest('base64url');
  }
}

/** What makes the links unguessable that whoever answered has: to change the answers, or to their paper. They are not kept. */
export class AnswerLinks {
  private readonly key: Buffer;

  constructor(secret: string, what: 'links to change answers' | 'links to own papers') {
    this.key = createHmac('sha256', secret).update(what).digest();
  }

  of(answerId: string): string {
    return `${answerId}-${createHmac('sha256', this.key).update(answerId).digest('hex').slice(0, 40)}`;
  }

  /** The answer that a link is for; null for one that nobody was given. */
  answerOf(link: string): string | null {
    const [id = ''] = link.split('-');
    const [known, told] = [Buffer.from(this.of(id)), Buffer.from(link)];
    return known.length === told.length && timingSafeEqual(known, told) ? id : null;
  }
}
