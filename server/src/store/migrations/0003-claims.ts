import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Claims on runs and messages, faults of mail accounts, sessions that know their person, counted limits, exact addresses. */
export class Claims1764200000000 implements MigrationInterface {
  name = 'Claims1764200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE press_run ADD COLUMN owner ${id} NULL, ADD COLUMN claimedUntil DATETIME(3) NULL`,
    );
    await runner.query(
      `ALTER TABLE message ADD COLUMN claim ${id} NULL, ADD COLUMN claimedUntil DATETIME(3) NULL, ADD KEY message_claim (claim)`,
    );
    await runner.query(`CREATE TABLE mail_account (schoolId ${id} PRIMARY KEY, fault VARCHAR(1000) NOT NULL,
      since DATETIME(3) NOT NULL, attempts INT NOT NULL, nextAttemptAt DATETIME(3) NOT NULL,
      CONSTRAINT account_school FOREIGN KEY (schoolId) REFERENCES school (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`DELETE FROM session WHERE JSON_VALUE(data, '$.staffId') IS NULL`);
    await runner.query(`ALTER TABLE session ADD COLUMN staffId ${id} NULL, ADD COLUMN startedAt DATETIME(3) NULL,
      ADD KEY session_staff (staffId)`);
    await runner.query(
      `UPDATE session SET staffId = JSON_VALUE(data, '$.staffId'), startedAt = UTC_TIMESTAMP(3)`,
    );
    await runner.query(
      `ALTER TABLE session MODIFY staffId ${id} NOT NULL, MODIFY startedAt DATETIME(3) NOT NULL`,
    );
    await runner.query(`CREATE TABLE limit_count (id ${hash} PRIMARY KEY, n INT NOT NULL, until DATETIME(3) NOT NULL,
      KEY limit_until (until)) ${table}`);
    await runner.query(
      'ALTER TABLE staff MODIFY email VARCHAR(254) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE staff MODIFY email VARCHAR(254) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci NOT NULL',
    );
    await runner.query('DROP TABLE limit_count');
    await runner.query('DROP TABLE mail_account');
    await runner.query(
      'ALTER TABLE session DROP KEY session_staff, DROP COLUMN staffId, DROP COLUMN startedAt',
    );
    await runner.query(
      'ALTER TABLE message DROP KEY message_claim, DROP COLUMN claim, DROP COLUMN claimedUntil',
    );
    await runner.query('ALTER TABLE press_run DROP COLUMN owner, DROP COLUMN claimedUntil');
  }
}
