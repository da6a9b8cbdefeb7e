import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Papers that are held as soon as they are pressed, since a field is blank that holds them then. */
export class HeldBack1765000000000 implements MigrationInterface {
  name = 'HeldBack1765000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE paper ADD COLUMN heldBack BOOLEAN NOT NULL DEFAULT 0');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE paper DROP COLUMN heldBack');
  }
}
