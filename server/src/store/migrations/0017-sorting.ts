import type { MigrationInterface, QueryRunner } from 'typeorm';

const ascii = 'CHARACTER SET ascii COLLATE ascii_bin';

/**
 * Every folio has rules that say who gets which papers; papers know what their entry's cells were, whether these are others
 * now, and which papers of other templates they take the place of.
 */
export class Sorting1765600000000 implements MigrationInterface {
  name = 'Sorting1765600000000';

  async up(runner: QueryRunner): Promise<void> {
    // Identities are letters and digits; one more letter makes another one that nothing has.
    await runner.query(`INSERT INTO writing (id, schoolId, folioId, kind, name, place, version, content, changedAt)
      SELECT CONCAT(id, 's'), schoolId, id, 'sorting', 'Sorting', 0, 1, '{"rules":[]}', changedAt FROM folio`);
    await runner.query(`ALTER TABLE paper ADD COLUMN entryHash CHAR(64) ${ascii} NULL,
      ADD COLUMN entryChanged BOOLEAN NOT NULL DEFAULT FALSE,
      ADD COLUMN replaces LONGTEXT NULL CHECK (replaces IS NULL OR JSON_VALID(replaces))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE paper DROP COLUMN entryHash, DROP COLUMN entryChanged, DROP COLUMN replaces',
    );
    await runner.query("DELETE FROM writing WHERE kind = 'sorting'");
  }
}
