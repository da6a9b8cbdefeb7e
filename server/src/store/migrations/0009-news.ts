import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';

/** What server processes tell each other for the desks that are open at them. Lives for a minute. */
export class News1764800000000 implements MigrationInterface {
  name = 'News1764800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE news (id BIGINT AUTO_INCREMENT PRIMARY KEY, folioId ${id} NOT NULL, origin ${id} NOT NULL,
      news VARCHAR(1000) NOT NULL, at DATETIME(3) NOT NULL, KEY news_at (at))
      ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE news');
  }
}
