import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Mended and left-out entries, several sources of a roll, its key, and earlier states of it. */
export class Roll1764100000000 implements MigrationInterface {
  name = 'Roll1764100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE entry ADD COLUMN exact LONGTEXT NULL, ADD COLUMN mends LONGTEXT NULL,
      ADD COLUMN leftOut VARCHAR(300) NULL, ADD COLUMN gone TINYINT(1) NOT NULL DEFAULT 0, ADD COLUMN tables LONGTEXT NULL`);
    await runner.query(
      `ALTER TABLE folio ADD COLUMN rollKey LONGTEXT NULL, ADD COLUMN rollVersion INT NOT NULL DEFAULT 1`,
    );
    await runner.query(`ALTER TABLE source ADD COLUMN kind VARCHAR(20) NOT NULL DEFAULT 'base', ADD COLUMN reading LONGTEXT NULL,
      ADD COLUMN columns LONGTEXT NULL, ADD COLUMN joinSpec LONGTEXT NULL`);
    await runner.query(`CREATE TABLE roll_earlier (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      what VARCHAR(300) NOT NULL, at DATETIME(3) NOT NULL, versionAfter INT NOT NULL, state LONGBLOB NOT NULL,
      KEY earlier_folio (folioId, at), CONSTRAINT earlier_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE roll_earlier');
    await runner.query(
      'ALTER TABLE source DROP COLUMN kind, DROP COLUMN reading, DROP COLUMN columns, DROP COLUMN joinSpec',
    );
    await runner.query('ALTER TABLE folio DROP COLUMN rollKey, DROP COLUMN rollVersion');
    await runner.query(
      'ALTER TABLE entry DROP COLUMN exact, DROP COLUMN mends, DROP COLUMN leftOut, DROP COLUMN gone, DROP COLUMN tables',
    );
  }
}
