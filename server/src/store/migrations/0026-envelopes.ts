import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Tables and their columns with contents of writings; those of a note are told by what they hold. */
const CONTENTS = [
  ['writing', 'content'],
  ['writing_version', 'content'],
] as const;

/**
 * A message goes to any number of people, with copies, in names of its own; a paper may be in several messages of one note, one for
 * each guardian. Notes name columns and addresses that they are sent to.
 */
export class Envelopes1766500000000 implements MigrationInterface {
  name = 'Envelopes1766500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE message ADD COLUMN envelope LONGTEXT NULL');
    await runner.query(`ALTER TABLE enclosure ADD COLUMN apart CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
      ADD COLUMN settledBy VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL,
      DROP KEY enclosure_once, ADD UNIQUE KEY enclosure_once (noteId, paperId, apart)`);
    for (const [table, column] of CONTENTS)
      await runner.query(`UPDATE ${table} SET ${column} = JSON_REMOVE(JSON_SET(${column}, '$.to',
          IF(JSON_VALUE(${column}, '$.toColumnId') IS NULL, JSON_ARRAY(),
            JSON_ARRAY(JSON_OBJECT('columnId', JSON_VALUE(${column}, '$.toColumnId'))))), '$.toColumnId')
        WHERE JSON_EXISTS(${column}, '$.toColumnId')`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table, column] of CONTENTS)
      await runner.query(`UPDATE ${table} SET ${column} = JSON_REMOVE(JSON_SET(${column}, '$.toColumnId',
          JSON_VALUE(${column}, '$.to[0].columnId')), '$.to', '$.cc', '$.bcc', '$.replyTo', '$.from', '$.apart', '$.family', '$.preview')
        WHERE JSON_EXISTS(${column}, '$.to') AND JSON_EXISTS(${column}, '$.subject')`);
    await runner.query(
      'DELETE c FROM enclosure c JOIN enclosure d ON d.noteId = c.noteId AND d.paperId = c.paperId AND d.messageId < c.messageId',
    );
    await runner.query(
      'ALTER TABLE enclosure DROP KEY enclosure_once, ADD UNIQUE KEY enclosure_once (noteId, paperId), DROP COLUMN apart, DROP COLUMN settledBy',
    );
    await runner.query('ALTER TABLE message DROP COLUMN envelope');
  }
}
