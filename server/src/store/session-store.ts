import session, { type SessionData } from 'express-session';
import { LessThan, type DataSource } from 'typeorm';
import { sha256 } from './blobs.js';
import { SessionRow } from './entities/people.js';

/** How long a session lives without use, in milliseconds. */
export const SESSION_LIFE = 12 * 60 * 60 * 1000;

/** Sessions in MariaDB, each under the hash of its identity. */
export class DatabaseSessionStore extends session.Store {
  constructor(private readonly database: DataSource) {
    super();
  }

  override get(sid: string, done: (error: unknown, data?: SessionData | null) => void): void {
    this.database.manager
      .findOneBy(SessionRow, { id: sha256(sid) })
      .then((row) =>
        done(
          null,
          row && row.expiresAt.getTime() > Date.now() ? (JSON.parse(row.data) as SessionData) : null,
        ),
      )
      .catch(done);
  }

  override set(sid: string, data: SessionData, done?: (error?: unknown) => void): void {
    const row = {
      id: sha256(sid),
      data: JSON.stringify(data),
      expiresAt: new Date(Date.now() + SESSION_LIFE),
    };
    this.database.manager
      .upsert(SessionRow, row, ['id'])
      .then(() => done?.())
      .catch(done);
  }

  override touch(sid: string, _data: SessionData, done?: (error?: unknown) => void): void {
    this.database.manager
      .update(SessionRow, { id: sha256(sid) }, { expiresAt: new Date(Date.now() + SESSION_LIFE) })
      .then(() => done?.())
      .catch(done);
  }

  override destroy(sid: string, done?: (error?: unknown) => void): void {
    this.database.manager
      .delete(SessionRow, { id: sha256(sid) })
      .then(() => done?.())
      .catch(done);
  }

  /** Takes out sessions that have run out. */
  async sweep(now = new Date()): Promise<void> {
    await this.database.manager.delete(SessionRow, { expiresAt: LessThan(now) });
  }
}
