import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/** Letters, cover notes and patterns of file names become writings of a folio, any number of each. */
export class Writings1764400000000 implements MigrationInterface {
  name = 'Writings1764400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE writing (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      kind VARCHAR(20) NOT NULL, name VARCHAR(200) NOT NULL, place INT NOT NULL, version INT NOT NULL, content LONGTEXT NOT NULL,
      changedAt DATETIME(3) NOT NULL, changedBy ${id} NULL, KEY writing_folio (folioId, kind, place),
      CONSTRAINT writing_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE writing_version (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, writingId ${id} NOT NULL,
      version INT NULL, name VARCHAR(200) NULL, content LONGTEXT NOT NULL, keptAt DATETIME(3) NOT NULL, keptBy ${id} NULL,
      UNIQUE KEY version_once (writingId, version),
      CONSTRAINT version_writing FOREIGN KEY (writingId) REFERENCES writing (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`INSERT INTO writing (id, schoolId, folioId, kind, name, place, version, content, changedAt)
      SELECT t.id, t.schoolId, t.folioId, 'letter', COALESCE(JSON_VALUE(t.letter, '$.name'), 'Letter'), 0, t.version, t.letter, f.changedAt
      FROM template t JOIN folio f ON f.id = t.folioId`);
    // Identities are letters and digits; one more letter makes another one that nothing has.
    await runner.query(`INSERT INTO writing (id, schoolId, folioId, kind, name, place, version, content, changedAt)
      SELECT CONCAT(id, 'n'), schoolId, id, 'note', 'Cover note', 0, noteVersion, note, changedAt FROM folio`);
    await runner.query(`INSERT INTO writing (id, schoolId, folioId, kind, name, place, version, content, changedAt)
      SELECT CONCAT(id, 'p'), schoolId, id, 'filing', 'File names', 0, filingVersion, filing, changedAt FROM folio`);
    await runner.query(`INSERT INTO writing_version (id, schoolId, writingId, version, content, keptAt)
      SELECT CONCAT(v.templateId, 'v', v.version), v.schoolId, v.templateId, v.version, v.letter, UTC_TIMESTAMP(3)
      FROM template_version v`);
    await runner.query('DROP TABLE template_version');
    await runner.query('DROP TABLE template');
    await runner.query(
      'ALTER TABLE folio DROP COLUMN note, DROP COLUMN noteVersion, DROP COLUMN filing, DROP COLUMN filingVersion',
    );
    await runner.query(`ALTER TABLE message ADD COLUMN noteId ${id} NULL, ADD COLUMN noteVersion INT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    const owned = `schoolId ${id} NOT NULL, folioId ${id} NOT NULL`;
    await runner.query('ALTER TABLE message DROP COLUMN noteId, DROP COLUMN noteVersion');
    await runner.query(`ALTER TABLE folio ADD COLUMN note LONGTEXT NOT NULL DEFAULT '{}', ADD COLUMN noteVersion INT NOT NULL DEFAULT 1,
      ADD COLUMN filing LONGTEXT NOT NULL DEFAULT '{}', ADD COLUMN filingVersion INT NOT NULL DEFAULT 1`);
    for (const kind of ['note', 'filing'])
      await runner.query(`UPDATE folio f JOIN writing w ON w.folioId = f.id AND w.kind = '${kind}' AND w.place = 0
        SET f.${kind} = w.content, f.${kind}Version = w.version`);
    await runner.query(`CREATE TABLE template (id ${id} PRIMARY KEY, ${owned}, version INT NOT NULL, letter LONGTEXT NOT NULL,
      KEY template_folio (folioId), CONSTRAINT template_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`INSERT INTO template SELECT id, schoolId, folioId, version, content FROM writing
      WHERE kind = 'letter' AND place = 0`);
    await runner.query(`CREATE TABLE template_version (templateId ${id} NOT NULL, version INT NOT NULL, schoolId ${id} NOT NULL,
      letter LONGTEXT NOT NULL, PRIMARY KEY (templateId, version),
      CONSTRAINT version_template FOREIGN KEY (templateId) REFERENCES template (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`INSERT INTO template_version SELECT v.writingId, v.version, v.schoolId, v.content FROM writing_version v
      JOIN template t ON t.id = v.writingId WHERE v.version IS NOT NULL`);
    await runner.query('DROP TABLE writing_version');
    await runner.query('DROP TABLE writing');
  }
}
