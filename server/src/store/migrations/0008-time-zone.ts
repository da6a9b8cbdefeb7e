import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The time that counts is the school's. Until now it was the server's. */
export class TimeZone1764700000000 implements MigrationInterface {
  name = 'TimeZone1764700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query("ALTER TABLE school ADD COLUMN timeZone VARCHAR(64) NOT NULL DEFAULT 'UTC'");
    await runner.query('UPDATE school SET timeZone = ?', [
      new Intl.DateTimeFormat('en').resolvedOptions().timeZone,
    ]);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE school DROP COLUMN timeZone');
  }
}
