import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';

/** Papers say which exception they were made with. */
export class Exceptions1766100000000 implements MigrationInterface {
  name = 'Exceptions1766100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE paper ADD COLUMN exceptionId ${id} NULL, ADD COLUMN exceptionVersion INT NULL`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE paper DROP COLUMN exceptionVersion, DROP COLUMN exceptionId');
  }
}
