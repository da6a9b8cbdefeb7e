import session, { type SessionData } from 'express-session';
import { LessThan, type DataSource } from 'typeorm';
import { sha256 } from './blobs.js';
import { NOW } from './claims.js';
import { SessionRow } from './entities/people.js';

/** How long a session lives without use, and at the most, in milliseconds. */
export const SESSION_LIFE = { idle: 12 * 60 * 60 * 1000, whole: 7 * 24 * 60 * 60 * 1000 } as const;
/** A session's end is moved at most this often, in milliseconds, so that not every request writes. */
const MOVED_EVERY = 60_000;

interface Found {
  readonly data: string;
  readonly staffId: string;
  readonly schoolId: string;
}

/**
 * Sessions of people who are signed in, in MariaDB, each under the hash of its identity. Others are not kept. Whether the
 * person still belongs to the school is looked up each time, so that who is gone is signed out at once.
 */
export class DatabaseSessionStore extends session.Store {
  constructor(private readonly database: DataSource) {
    super();
  }

  override get(sid: string, done: (error: unknown, data?: SessionData | null) => void): void {
    this.find(sid).then(
      (found) =>
        done(
          null,
          found && {
            ...(JSON.parse(found.data) as SessionData),
            staffId: found.staffId,
            schoolId: found.schoolId,
          },
        ),
      done,
    );
  }

  override set(sid: string, data: SessionData, done?: (error?: unknown) => void): void {
    if (!data.staffId) {
      done?.();
      return;
    }
    const now = Date.now();
    this.database
      .query(
        `INSERT INTO session (id, data, staffId, startedAt, expiresAt) VALUES (?, ?, ?, ?, ?)
         ON DUPLICATE KEY UPDATE data = VALUES(data), staffId = VALUES(staffId), expiresAt = VALUES(expiresAt)`,
        [sha256(sid), JSON.stringify(data), data.staffId, new Date(now), new Date(now + SESSION_LIFE.idle)],
      )
      .then(() => done?.(), done);
  }

  override touch(sid: string, data: SessionData, done?: (error?: unknown) => void): void {
    if (!data.staffId) {
      done?.();
      return;
    }
    const expiresAt = Date.now() + SESSION_LIFE.idle;
    this.database.manager
      .update(
        SessionRow,
        { id: sha256(sid), expiresAt: LessThan(new Date(expiresAt - MOVED_EVERY)) },
        { expiresAt: new Date(expiresAt) },
      )
      .then(() => done?.(), done);
  }

  override destroy(sid: string, done?: (error?: unknown) => void): void {
    this.database.manager.delete(SessionRow, { id: sha256(sid) }).then(() => done?.(), done);
  }

  /** True where the session may still be used. */
  async isAlive(sid: string): Promise<boolean> {
    return (await this.find(sid)) !== null;
  }

  /** Ends all sessions of a person. */
  async endAll(staffId: string): Promise<void> {
    await this.database.manager.delete(SessionRow, { staffId });
  }

  /** Takes out sessions that have run out, and those of people who are gone. */
  async sweep(): Promise<void> {
    await this.database.query(
      `DELETE s FROM session s LEFT JOIN staff p ON p.id = s.staffId
       WHERE p.id IS NULL OR s.expiresAt <= ${NOW} OR s.startedAt <= ?`,
      [new Date(Date.now() - SESSION_LIFE.whole)],
    );
  }

  private async find(sid: string): Promise<Found | null> {
    const [found] = await this.database.query<Found[]>(
      `SELECT s.data, s.staffId, p.schoolId FROM session s JOIN staff p ON p.id = s.staffId
       WHERE s.id = ? AND s.expiresAt > ${NOW} AND s.startedAt > ?`,
      [sha256(sid), new Date(Date.now() - SESSION_LIFE.whole)],
    );
    return found ?? null;
  }
}
