import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';

/** Who changed a folio last, which folios are put away, and in which something blocks the press. */
export class FrontPage1766000000000 implements MigrationInterface {
  name = 'FrontPage1766000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE folio ADD COLUMN changedBy ${id} NULL, ADD COLUMN archivedAt DATETIME(3) NULL`,
    );
    await runner.query('ALTER TABLE register_state ADD COLUMN blocking INT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE register_state DROP COLUMN blocking');
    await runner.query('ALTER TABLE folio DROP COLUMN changedBy, DROP COLUMN archivedAt');
  }
}
