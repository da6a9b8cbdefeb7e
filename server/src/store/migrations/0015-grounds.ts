import type { MigrationInterface, QueryRunner } from 'typeorm';

/** PDFs that are the ground of pages are kept beside pictures, with what is known of them. */
export class Grounds1765400000000 implements MigrationInterface {
  name = 'Grounds1765400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE asset ADD COLUMN about LONGTEXT NULL CHECK (about IS NULL OR JSON_VALID(about))',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE asset DROP COLUMN about');
  }
}
