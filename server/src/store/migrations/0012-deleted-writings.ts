import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was written and deleted stays, so that it can be had back. */
export class DeletedWritings1765100000000 implements MigrationInterface {
  name = 'DeletedWritings1765100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE writing ADD COLUMN deletedAt DATETIME(3) NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE writing DROP COLUMN deletedAt');
  }
}
