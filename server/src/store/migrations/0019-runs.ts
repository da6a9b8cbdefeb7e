import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A run knows what was asked for, so that it can be gone on with. */
export class Runs1765800000000 implements MigrationInterface {
  name = 'Runs1765800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE press_run ADD COLUMN asked LONGTEXT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE press_run DROP COLUMN asked');
  }
}
