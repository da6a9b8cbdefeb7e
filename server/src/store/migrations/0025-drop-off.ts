import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Papers also go as files to a folder, or to a WebDAV address. */
export class DropOff1766400000000 implements MigrationInterface {
  name = 'DropOff1766400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE drop_off (folioId ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, place LONGTEXT NOT NULL,
      fault VARCHAR(1000) NULL, checkedAt DATETIME(3) NULL,
      CONSTRAINT drop_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE dropped (paperId ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      path VARCHAR(1100) NOT NULL, hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, at DATETIME(3) NOT NULL,
      KEY dropped_folio (folioId),
      CONSTRAINT dropped_of FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE dropped');
    await runner.query('DROP TABLE drop_off');
  }
}
