import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** A school has a letterhead; what it was before stays, since papers were made on it. */
export class Letterhead1765200000000 implements MigrationInterface {
  name = 'Letterhead1765200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE letterhead (schoolId ${id} NOT NULL, version INT NOT NULL, content LONGTEXT NOT NULL,
      changedAt DATETIME(3) NOT NULL, changedBy ${id} NULL, PRIMARY KEY (schoolId, version),
      CONSTRAINT letterhead_school FOREIGN KEY (schoolId) REFERENCES school (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE letterhead_picture (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, name VARCHAR(255) NOT NULL,
      mime VARCHAR(100) NOT NULL, blobHash ${hash} NOT NULL, KEY letterhead_picture_school (schoolId),
      CONSTRAINT letterhead_picture_school FOREIGN KEY (schoolId) REFERENCES school (id) ON DELETE CASCADE) ${table}`);
    await runner.query('ALTER TABLE press_run ADD COLUMN letterheadVersion INT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE press_run DROP COLUMN letterheadVersion');
    await runner.query('DROP TABLE letterhead_picture');
    await runner.query('DROP TABLE letterhead');
  }
}
