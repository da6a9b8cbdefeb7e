import { soughtWords } from '@scriptum/core/paper';
import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';
const exact = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';
/** Papers whose words are written down in one statement. */
const AT_ONCE = 500;

/** Papers have numbers, can take the place of another one by name, and are found over all folios of a school. */
export class Numbers1766300000000 implements MigrationInterface {
  name = 'Numbers1766300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE number_series (schoolId ${id} NOT NULL, series VARCHAR(100) ${exact} NOT NULL, next INT NOT NULL,
      PRIMARY KEY (schoolId, series)) ${table}`);
    await runner.query(`CREATE TABLE paper_number (schoolId ${id} NOT NULL, series VARCHAR(100) ${exact} NOT NULL, n INT NOT NULL,
      folioId ${id} NOT NULL, entryId ${id} NOT NULL, templateId ${id} NOT NULL, paperId ${id} NOT NULL, made TINYINT NOT NULL,
      closed TINYINT NOT NULL, PRIMARY KEY (schoolId, series, n), KEY number_paper (paperId),
      KEY number_key (folioId, entryId, templateId)) ${table}`);
    await runner.query(`ALTER TABLE paper ADD COLUMN number VARCHAR(100) NULL, ADD COLUMN replacesNumber VARCHAR(100) NULL,
      ADD COLUMN reissue TINYINT NOT NULL DEFAULT 0, ADD COLUMN klass VARCHAR(100) ${exact} NOT NULL DEFAULT '',
      ADD COLUMN sought VARBINARY(1200) NOT NULL DEFAULT ''`);
    const rows = (await runner.query('SELECT id, learner FROM paper')) as { id: string; learner: string }[];
    for (let at = 0; at < rows.length; at += AT_ONCE) {
      const some = rows.slice(at, at + AT_ONCE);
      await runner.query(
        `UPDATE paper SET sought = CASE id ${some.map(() => 'WHEN ? THEN ?').join(' ')} END WHERE id IN (?)`,
        [
          ...some.flatMap((row) => [row.id, soughtWords(row.learner).join(' ').slice(0, 300)]),
          some.map((row) => row.id),
        ],
      );
    }
    // All that the register of a school looks for, so that it need not read whole papers; as bytes, which is twice as fast.
    await runner.query(
      'CREATE INDEX paper_sought ON paper (schoolId, pressedAt, id, folioId, state, outOfDate, klass, sought)',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX paper_sought ON paper');
    await runner.query(
      'ALTER TABLE paper DROP COLUMN sought, DROP COLUMN klass, DROP COLUMN reissue, DROP COLUMN replacesNumber, DROP COLUMN number',
    );
    await runner.query('DROP TABLE paper_number');
    await runner.query('DROP TABLE number_series');
  }
}
