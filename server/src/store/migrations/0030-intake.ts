import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Web forms: where they are answered, what was answered, and what was brought along. */
export class Intake1766900000000 implements MigrationInterface {
  name = 'Intake1766900000000';

  async up(runner: QueryRunner): Promise<void> {
    const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
    const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
    const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';
    const belongs = (name: string): string =>
      `CONSTRAINT ${name}_of_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE`;
    await runner.query(`CREATE TABLE form_door (writingId ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      token ${id} NOT NULL, version INT NOT NULL, isOpen BOOLEAN NOT NULL, answers INT NOT NULL DEFAULT 0,
      publishedAt DATETIME(3) NOT NULL, publishedBy ${id} NULL, UNIQUE KEY form_door_token (token),
      KEY form_door_folio (folioId), ${belongs('form_door')}) ${table}`);
    await runner.query(`CREATE TABLE form_answer (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      writingId ${id} NOT NULL, entryId ${id} NOT NULL, answerKey ${id} NOT NULL, version INT NOT NULL, language VARCHAR(40) NOT NULL,
      given LONGTEXT NOT NULL, onceKey ${hash} NULL, receivedAt DATETIME(3) NOT NULL, changedAt DATETIME(3) NULL,
      UNIQUE KEY form_answer_key (writingId, answerKey), UNIQUE KEY form_answer_once (writingId, onceKey),
      KEY form_answer_received (writingId, receivedAt), KEY form_answer_entry (folioId, entryId), ${belongs('form_answer')}) ${table}`);
    await runner.query(`CREATE TABLE form_upload (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      writingId ${id} NOT NULL, itemId ${id} NOT NULL, answerId ${id} NULL, name VARCHAR(255) NOT NULL, mime VARCHAR(100) NOT NULL,
      blobHash ${hash} NOT NULL, bytes INT NOT NULL, broughtAt DATETIME(3) NOT NULL, KEY form_upload_answer (answerId, broughtAt),
      KEY form_upload_folio (folioId), ${belongs('form_upload')}) ${table}`);
    await runner.query(`ALTER TABLE entry ADD COLUMN answered ${id} NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE entry DROP COLUMN answered');
    for (const name of ['form_upload', 'form_answer', 'form_door']) await runner.query(`DROP TABLE ${name}`);
  }
}
