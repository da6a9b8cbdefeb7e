import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

export class Foundation1764000000000 implements MigrationInterface {
  name = 'Foundation1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE school (id ${id} PRIMARY KEY, name VARCHAR(200) NOT NULL, createdAt DATETIME(3) NOT NULL) ${table}`,
    );
    await runner.query(`CREATE TABLE staff (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, email VARCHAR(254) NOT NULL,
      name VARCHAR(200) NOT NULL, passwordHash VARCHAR(255) NOT NULL, UNIQUE KEY staff_email (email),
      CONSTRAINT staff_school FOREIGN KEY (schoolId) REFERENCES school (id)) ${table}`);
    await runner.query(`CREATE TABLE session (id VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY, data LONGTEXT NOT NULL,
      expiresAt DATETIME(3) NOT NULL, KEY session_expiry (expiresAt)) ${table}`);
    await runner.query(`CREATE TABLE event (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NULL, staffId ${id} NULL,
      at DATETIME(3) NOT NULL, kind VARCHAR(60) NOT NULL, count INT NULL, KEY event_folio (schoolId, folioId, at)) ${table}`);
    await runner.query(`CREATE TABLE folio (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, title VARCHAR(200) NOT NULL,
      columns LONGTEXT NOT NULL, note LONGTEXT NOT NULL, noteVersion INT NOT NULL, filing LONGTEXT NOT NULL, filingVersion INT NOT NULL,
      createdAt DATETIME(3) NOT NULL, changedAt DATETIME(3) NOT NULL, KEY folio_school (schoolId, changedAt),
      CONSTRAINT folio_school FOREIGN KEY (schoolId) REFERENCES school (id)) ${table}`);
    const owned = `folioId ${id} NOT NULL`;
    const belongs = (name: string): string =>
      `CONSTRAINT ${name}_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE`;
    await runner.query(`CREATE TABLE source (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, fileName VARCHAR(255) NOT NULL,
      blobHash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, \`rows\` INT NOT NULL, notes LONGTEXT NOT NULL, broughtInAt DATETIME(3) NOT NULL,
      KEY source_folio (folioId, broughtInAt), ${belongs('source')}) ${table}`);
    await runner.query(`CREATE TABLE entry (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, position INT NOT NULL,
      \`values\` LONGTEXT NOT NULL, KEY entry_folio (folioId, position), ${belongs('entry')}) ${table}`);
    await runner.query(`CREATE TABLE template (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, version INT NOT NULL,
      letter LONGTEXT NOT NULL, KEY template_folio (folioId), ${belongs('template')}) ${table}`);
    await runner.query(`CREATE TABLE template_version (templateId ${id} NOT NULL, version INT NOT NULL, schoolId ${id} NOT NULL,
      letter LONGTEXT NOT NULL, PRIMARY KEY (templateId, version),
      CONSTRAINT version_template FOREIGN KEY (templateId) REFERENCES template (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE asset (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, name VARCHAR(255) NOT NULL,
      mime VARCHAR(100) NOT NULL, blobHash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, ${belongs('asset')}) ${table}`);
    await runner.query(`CREATE TABLE blob_file (schoolId ${id} NOT NULL, hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      bytes LONGBLOB NOT NULL, PRIMARY KEY (schoolId, hash)) ${table}`);
    await runner.query(`CREATE TABLE press_run (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, staffId ${id} NULL,
      templateId ${id} NOT NULL, templateVersion INT NOT NULL, state VARCHAR(20) NOT NULL, total INT NOT NULL,
      startedAt DATETIME(3) NOT NULL, finishedAt DATETIME(3) NULL, KEY run_state (state), KEY run_folio (folioId, startedAt), ${belongs('run')}) ${table}`);
    await runner.query(`CREATE TABLE paper (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, runId ${id} NOT NULL,
      entryId ${id} NOT NULL, templateId ${id} NOT NULL, templateVersion INT NOT NULL, position INT NOT NULL, learner VARCHAR(300) NOT NULL,
      fileName VARCHAR(1000) NOT NULL, \`values\` LONGTEXT NOT NULL, inputHash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, state VARCHAR(20) NOT NULL, reason VARCHAR(1000) NULL,
      blobHash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL, pages INT NULL, bytes INT NULL, pressedAt DATETIME(3) NULL, UNIQUE KEY paper_once (runId, entryId, templateId),
      KEY paper_folio (folioId, position), KEY paper_entry (entryId, templateId), ${belongs('paper')}) ${table}`);
    await runner.query(`CREATE TABLE message (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, ${owned}, entryId ${id} NOT NULL,
      paperId ${id} NOT NULL, sendKey VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, messageId VARCHAR(200) NOT NULL, recipient VARCHAR(320) NOT NULL,
      subject VARCHAR(1000) NOT NULL, text LONGTEXT NOT NULL, html LONGTEXT NOT NULL, state VARCHAR(20) NOT NULL, attempts INT NOT NULL,
      answer VARCHAR(1000) NULL, queuedAt DATETIME(3) NOT NULL, nextAttemptAt DATETIME(3) NOT NULL, sentAt DATETIME(3) NULL,
      UNIQUE KEY message_once (sendKey), UNIQUE KEY message_paper (paperId), UNIQUE KEY message_identity (messageId),
      KEY message_due (state, nextAttemptAt), KEY message_folio (folioId), ${belongs('message')}) ${table}`);
    await runner.query(`CREATE TABLE practice_mail (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, mailbox VARCHAR(320) NOT NULL,
      sender VARCHAR(320) NOT NULL, subject VARCHAR(1000) NOT NULL, messageId VARCHAR(300) NOT NULL, attachments INT NOT NULL,
      raw LONGBLOB NOT NULL, receivedAt DATETIME(3) NOT NULL, KEY mail_box (schoolId, mailbox, receivedAt)) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of [
      'practice_mail',
      'message',
      'paper',
      'press_run',
      'blob_file',
      'asset',
      'template_version',
      'template',
      'entry',
      'source',
      'folio',
      'event',
      'session',
      'staff',
      'school',
    ]) {
      await runner.query(`DROP TABLE IF EXISTS ${name}`);
    }
  }
}
