import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const hash = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin';

/** Messages can bring a private link in place of their papers, and files for everybody. */
export class PrivateLinks1766700000000 implements MigrationInterface {
  name = 'PrivateLinks1766700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE private_link (messageId ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      tokenHash ${hash} NOT NULL, secret ${hash} NOT NULL, endsAt DATETIME(3) NOT NULL, ends VARCHAR(10) NOT NULL, ask LONGTEXT NULL,
      wrong INT NOT NULL DEFAULT 0, withdrawnAt DATETIME(3) NULL, withdrawnBy ${id} NULL, openedAt DATETIME(3) NULL,
      lastOpenedAt DATETIME(3) NULL, opens INT NOT NULL DEFAULT 0, UNIQUE KEY link_token (tokenHash), KEY link_folio (folioId),
      CONSTRAINT link_of FOREIGN KEY (messageId) REFERENCES message (id) ON DELETE CASCADE)
      ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
    await runner.query('ALTER TABLE asset ADD COLUMN along TINYINT NOT NULL DEFAULT 0');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE asset DROP COLUMN along');
    await runner.query('DROP TABLE private_link');
  }
}
