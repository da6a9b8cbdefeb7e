import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import type { FolioEvents, FolioNews } from './folio-events.js';
import { isDatabaseAway } from './store/database-away.js';

/** Milliseconds between two looks at what others have to tell. */
const LOOK_EVERY = 300;
/**
 * Seconds that are looked back each time: rows become visible when their transaction commits, not in the order of their
 * numbers.
 */
const LOOK_BACK = 5;
/** Seconds after which nobody looks for news any more. */
const KEPT = 60;

/** Carries news between the server processes that share a database, through a table that is read now and then. */
export class SharedNews {
  /** Numbers of the rows that were passed on, with the time at which they were seen. */
  private readonly seen = new Map<number, number>();
  private timer: NodeJS.Timeout | null = null;
  private looking: Promise<void> | null = null;

  /** @param origin names this server process among others. */
  constructor(
    private readonly database: DataSource,
    private readonly events: FolioEvents,
    private readonly origin: string,
    private readonly log: Logger,
  ) {}

  open(): void {
    this.events.share = (folioId, news) => void this.write(folioId, news);
    this.timer = setInterval(() => {
      if (!this.looking && this.events.isHeard)
        this.looking = this.look().finally(() => (this.looking = null));
    }, LOOK_EVERY).unref();
  }

  async close(): Promise<void> {
    this.events.share = null;
    if (this.timer) clearInterval(this.timer);
    await this.looking;
  }

  /** Takes away what nobody looks for any more. */
  async sweep(): Promise<void> {
    await this.database.query('DELETE FROM news WHERE at < UTC_TIMESTAMP(3) - INTERVAL ? SECOND', [KEPT]);
  }

  /** News is no more than a hint: where it cannot be written down, other desks see the change when they next ask. */
  private async write(folioId: string, news: FolioNews): Promise<void> {
    try {
      await this.database.query(
        'INSERT INTO news (folioId, origin, news, at) VALUES (?, ?, ?, UTC_TIMESTAMP(3))',
        [folioId, this.origin, JSON.stringify(news)],
      );
    } catch (error) {
      if (!isDatabaseAway(error)) this.log.warn({ err: error }, 'news could not be shared');
    }
  }

  private async look(): Promise<void> {
    try {
      const rows = await this.database.query<{ id: string; folioId: string; news: string }[]>(
        `SELECT id, folioId, news FROM news
         WHERE at > UTC_TIMESTAMP(3) - INTERVAL ? SECOND AND origin <> ? ORDER BY id`,
        [LOOK_BACK, this.origin],
      );
      const now = performance.now();
      for (const { id, folioId, news } of rows) {
        const known = this.seen.has(Number(id));
        this.seen.set(Number(id), now);
        if (!known) this.events.pass(folioId, JSON.parse(news) as FolioNews);
      }
      for (const [id, at] of this.seen) if (now - at > LOOK_BACK * 4000) this.seen.delete(id);
    } catch (error) {
      if (!isDatabaseAway(error)) this.log.warn({ err: error }, 'shared news could not be read');
    }
  }
}
