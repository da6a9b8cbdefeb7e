import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Who cleared or held a paper is kept, with when and why; a school can ask that papers are cleared before they leave. */
export class Clearing1765900000000 implements MigrationInterface {
  name = 'Clearing1765900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE paper ADD COLUMN judgedBy ${id} NULL, ADD COLUMN judgedAt DATETIME(3) NULL,
      ADD COLUMN note VARCHAR(1000) NULL, ADD COLUMN changed VARCHAR(1000) NULL`);
    await runner.query("ALTER TABLE school ADD COLUMN clearing VARCHAR(10) NOT NULL DEFAULT 'free'");
    await runner.query(`CREATE TABLE paper_event (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, schoolId ${id} NOT NULL,
      paperId ${id} NOT NULL, kind VARCHAR(20) NOT NULL, staffId ${id} NULL, note VARCHAR(1000) NULL, at DATETIME(3) NOT NULL,
      KEY paper_event_paper (paperId, id),
      CONSTRAINT event_paper FOREIGN KEY (paperId) REFERENCES paper (id) ON DELETE CASCADE) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE paper_event');
    await runner.query('ALTER TABLE school DROP COLUMN clearing');
    await runner.query(
      'ALTER TABLE paper DROP COLUMN judgedBy, DROP COLUMN judgedAt, DROP COLUMN note, DROP COLUMN changed',
    );
  }
}
