import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Copies of answers, mailed to whoever answered. */
export class AnswerCopies1767300000000 implements MigrationInterface {
  name = 'AnswerCopies1767300000000';

  async up(runner: QueryRunner): Promise<void> {
    const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
    await runner.query(`ALTER TABLE form_answer ADD COLUMN copyState VARCHAR(20) NULL, ADD COLUMN copyAt DATETIME(3) NULL,
      ADD COLUMN copyKey ${hash} NULL, ADD COLUMN copySays VARCHAR(1000) NULL, ADD COLUMN copies INT NOT NULL DEFAULT 0,
      ADD KEY form_answer_copy (copyState, copyAt), ADD KEY form_answer_copied (schoolId, copyKey, copyAt)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE form_answer DROP KEY form_answer_copied, DROP KEY form_answer_copy,
      DROP COLUMN copies, DROP COLUMN copySays, DROP COLUMN copyKey, DROP COLUMN copyAt, DROP COLUMN copyState`);
  }
}
