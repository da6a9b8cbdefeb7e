import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Mail that comes back is fetched from a mailbox of an account (IMAP). */
export class ReturnBoxes1766800000000 implements MigrationInterface {
  name = 'ReturnBoxes1766800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE mail_account ADD COLUMN returns LONGTEXT NULL, ADD COLUMN returnsSeen LONGTEXT NULL,
      ADD COLUMN returnsAt DATETIME(3) NULL, ADD COLUMN returnsFault VARCHAR(1000) NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE mail_account DROP COLUMN returnsFault, DROP COLUMN returnsAt, DROP COLUMN returnsSeen, DROP COLUMN returns',
    );
  }
}
