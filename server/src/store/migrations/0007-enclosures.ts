import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** A message has any number of papers, of any number of entries, and goes to any number of recipients. */
export class Enclosures1764600000000 implements MigrationInterface {
  name = 'Enclosures1764600000000';

  async up(runner: QueryRunner): Promise<void> {
    // Until now a folio had one note, whose identity the migration before gave it.
    await runner.query(`UPDATE message m JOIN writing w ON w.id = CONCAT(m.folioId, 'n') SET m.noteId = w.id
      WHERE m.noteId IS NULL`);
    await runner.query(`CREATE TABLE enclosure (messageId ${id} NOT NULL, paperId ${id} NOT NULL, entryId ${id} NOT NULL,
      noteId ${id} NULL, place INT NOT NULL, schoolId ${id} NOT NULL, folioId ${id} NOT NULL, PRIMARY KEY (messageId, paperId),
      UNIQUE KEY enclosure_once (noteId, paperId), KEY enclosure_paper (paperId), KEY enclosure_entry (folioId, entryId),
      CONSTRAINT enclosure_message FOREIGN KEY (messageId) REFERENCES message (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`INSERT INTO enclosure (messageId, paperId, entryId, noteId, place, schoolId, folioId)
      SELECT id, paperId, entryId, noteId, 0, schoolId, folioId FROM message`);
    await runner.query(`ALTER TABLE message ADD COLUMN recipients LONGTEXT NULL`);
    await runner.query('UPDATE message SET recipients = JSON_ARRAY(recipient)');
    await runner.query(`ALTER TABLE message MODIFY recipients LONGTEXT NOT NULL, DROP KEY message_paper, DROP COLUMN recipient,
      DROP COLUMN paperId, DROP COLUMN entryId`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE message ADD COLUMN recipient VARCHAR(320) NOT NULL DEFAULT '',
      ADD COLUMN paperId ${id} NULL, ADD COLUMN entryId ${id} NOT NULL DEFAULT ''`);
    await runner.query(`UPDATE message m JOIN enclosure c ON c.messageId = m.id AND c.place = 0
      SET m.recipient = JSON_VALUE(m.recipients, '$[0]'), m.paperId = c.paperId, m.entryId = c.entryId`);
    await runner.query(
      `ALTER TABLE message MODIFY paperId ${id} NOT NULL, ADD UNIQUE KEY message_paper (paperId), DROP COLUMN recipients`,
    );
    await runner.query('DROP TABLE enclosure');
  }
}
