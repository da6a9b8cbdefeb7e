import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Packs are made in the background and kept for a while. */
export class Packs1766200000000 implements MigrationInterface {
  name = 'Packs1766200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE pack (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      asked LONGTEXT NOT NULL, state VARCHAR(20) NOT NULL, papers INT NOT NULL, done INT NOT NULL, pages INT NOT NULL,
      bytes BIGINT NOT NULL, reason VARCHAR(1000) NULL, staffId ${id} NULL, askedAt DATETIME(3) NOT NULL, endedAt DATETIME(3) NULL,
      fileId ${id} NULL, contents LONGTEXT NULL, KEY pack_of (schoolId, folioId, askedAt),
      CONSTRAINT pack_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE pack_part (fileId ${id} NOT NULL, n INT NOT NULL, packId ${id} NOT NULL, bytes MEDIUMBLOB NOT NULL,
      PRIMARY KEY (fileId, n), KEY part_of (packId),
      CONSTRAINT part_pack FOREIGN KEY (packId) REFERENCES pack (id) ON DELETE CASCADE) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE pack_part');
    await runner.query('DROP TABLE pack');
  }
}
