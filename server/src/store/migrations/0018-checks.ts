import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const hash = (length: number): string => `CHAR(${length}) CHARACTER SET ascii COLLATE ascii_bin`;
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** What papers come to is found out in the background, once for each look; and people say of findings that they are right. */
export class Checks1765700000000 implements MigrationInterface {
  name = 'Checks1765700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE checked_look (folioId ${id} NOT NULL, lookHash ${hash(64)} NOT NULL, schoolId ${id} NOT NULL,
      pages INT NOT NULL, fits LONGTEXT NOT NULL, failed VARCHAR(1000) NULL, checkedAt DATETIME(3) NOT NULL,
      PRIMARY KEY (folioId, lookHash),
      CONSTRAINT checked_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE seen_finding (folioId ${id} NOT NULL, mark ${hash(32)} NOT NULL, schoolId ${id} NOT NULL,
      staffId ${id} NULL, seenAt DATETIME(3) NOT NULL, PRIMARY KEY (folioId, mark),
      CONSTRAINT seen_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`ALTER TABLE register_state ADD COLUMN checkedWith ${hash(64)} NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE register_state DROP COLUMN checkedWith');
    await runner.query('DROP TABLE seen_finding');
    await runner.query('DROP TABLE checked_look');
  }
}
