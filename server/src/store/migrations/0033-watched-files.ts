import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Files of which newer versions are taken over by themselves. */
export class WatchedFiles1767200000000 implements MigrationInterface {
  name = 'WatchedFiles1767200000000';

  async up(runner: QueryRunner): Promise<void> {
    const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
    const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
    await runner.query(`CREATE TABLE watched_file (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      sourceId ${id} NOT NULL, place LONGTEXT NOT NULL, sealedPassword VARCHAR(1000) NULL, everyMinutes INT NOT NULL,
      missing VARCHAR(20) NOT NULL, isOn BOOLEAN NOT NULL, stamp VARCHAR(600) NULL, seenHash ${hash} NULL, seenName VARCHAR(255) NULL,
      lookedAt DATETIME(3) NULL, nextAt DATETIME(3) NULL, took LONGTEXT NULL, fault VARCHAR(1000) NULL, waits VARCHAR(1000) NULL,
      createdAt DATETIME(3) NOT NULL, KEY watched_folio (folioId), KEY watched_due (isOn, nextAt),
      CONSTRAINT watched_of_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE)
      ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
    await runner.query('ALTER TABLE roll_earlier ADD COLUMN byItself BOOLEAN NOT NULL DEFAULT FALSE');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE roll_earlier DROP COLUMN byItself');
    await runner.query('DROP TABLE watched_file');
  }
}
