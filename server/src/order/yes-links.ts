import { createHmac, timingSafeEqual } from 'node:crypto';

/** Who may say yes to what waits with which order, and until when. */
export interface YesLink {
  readonly orderId: string;
  readonly staffId: string;
}

/** Days for which a link that was mailed can be used. */
const DAYS = 60;

/**
 * Links by which somebody on the staff says yes or no without signing in: they stand in mail to that person alone, name the person, and
 * carry a signature. Nothing is kept of them.
 */
export class YesLinks {
  private readonly key: Buffer;

  constructor(secret: string) {
    this.key = createHmac('sha256', secret).update('links that say yes').digest();
  }

  of({ orderId, staffId }: YesLink, now = Date.now()): string {
    const said = `${orderId}-${staffId}-${(now + DAYS * 86_400_000).toString(36)}`;
    return `${said}-${this.signature(said)}`;
  }

  /** @returns null for a link that nobody was given, or that is too old. */
  read(link: string, now = Date.now()): YesLink | null {
    const at = link.lastIndexOf('-');
    const [said, told] = [link.slice(0, at), Buffer.from(link.slice(at + 1))];
    const known = Buffer.from(this.signature(said));
    if (known.length !== told.length || !timingSafeEqual(known, told)) return null;
    const [orderId = '', staffId = '', until = ''] = said.split('-');
    return Number.parseInt(until, 36) > now ? { orderId, staffId } : null;
  }

  private signature(said: string): string {
    return createHmac('sha256', this.key).update(said).digest('hex').slice(0, 40);
  }
}
