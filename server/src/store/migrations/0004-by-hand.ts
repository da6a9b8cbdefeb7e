import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Entries that were added by hand. */
export class ByHand1764300000000 implements MigrationInterface {
  name = 'ByHand1764300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE entry ADD COLUMN byHand BOOLEAN NOT NULL DEFAULT FALSE');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE entry DROP COLUMN byHand');
  }
}
