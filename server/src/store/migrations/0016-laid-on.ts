import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Papers over a PDF are kept without it, with what is put under them when they leave. */
export class LaidOn1765500000000 implements MigrationInterface {
  name = 'LaidOn1765500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE paper ADD COLUMN laidOn LONGTEXT NULL CHECK (laidOn IS NULL OR JSON_VALID(laidOn))',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE paper DROP COLUMN laidOn');
  }
}
