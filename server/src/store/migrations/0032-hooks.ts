import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Doors for answers from other services. */
export class Hooks1767100000000 implements MigrationInterface {
  name = 'Hooks1767100000000';

  async up(runner: QueryRunner): Promise<void> {
    const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
    await runner.query(`CREATE TABLE hook (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      name VARCHAR(200) NOT NULL, token ${id} NOT NULL, isOn BOOLEAN NOT NULL, sealedKey VARCHAR(500) NOT NULL,
      formerKey VARCHAR(500) NULL, formerUntil DATETIME(3) NULL, shape LONGTEXT NOT NULL, answers INT NOT NULL DEFAULT 0,
      lastAt DATETIME(3) NULL, refused VARCHAR(500) NULL, refusedAt DATETIME(3) NULL, createdAt DATETIME(3) NOT NULL,
      UNIQUE KEY hook_token (token), KEY hook_folio (folioId),
      CONSTRAINT hook_of_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE)
      ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE hook');
  }
}
