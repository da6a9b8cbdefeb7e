import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

/**
 * Long work in slices that any server may take; mail in an order that is fair to all schools; and a register that knows what
 * changed since when, and which papers are out of date, instead of working it out for each who asks.
 */
export class Slices1764900000000 implements MigrationInterface {
  name = 'Slices1764900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE slice (id ${id} PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL, kind VARCHAR(20) NOT NULL,
      jobId ${id} NOT NULL, lane VARCHAR(10) NOT NULL, turn BIGINT NOT NULL, size INT NOT NULL, state VARCHAR(10) NOT NULL,
      claim ${id} NULL, claimedUntil DATETIME(3) NULL, tries INT NOT NULL DEFAULT 0, endedAt DATETIME(3) NULL,
      KEY slice_turn (state, turn), KEY slice_claimed (state, claimedUntil), KEY slice_job (jobId, state), KEY slice_school (schoolId, state, turn),
      KEY slice_ended (endedAt), CONSTRAINT slice_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE register_state (folioId ${id} PRIMARY KEY, schoolId ${id} NOT NULL, revision BIGINT NOT NULL,
      wholeSince BIGINT NOT NULL DEFAULT 0, comparedWith CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
      CONSTRAINT register_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`ALTER TABLE paper ADD COLUMN sliceId ${id} NULL, ADD COLUMN outOfDate TINYINT(1) NOT NULL DEFAULT 0,
      ADD COLUMN revision BIGINT NOT NULL DEFAULT 0, ADD KEY paper_slice (sliceId), ADD KEY paper_revision (folioId, revision)`);
    // A run that was going goes on as one slice.
    await runner.query(`INSERT INTO slice (id, schoolId, folioId, kind, jobId, lane, turn, size, state)
      SELECT r.id, r.schoolId, r.folioId, 'press', r.id, 'bulk', 0, COUNT(p.id), 'queued'
      FROM press_run r LEFT JOIN paper p ON p.runId = r.id AND p.state = 'waiting' WHERE r.state = 'running' GROUP BY r.id`);
    await runner.query(`UPDATE paper SET sliceId = runId WHERE state = 'waiting'`);
    await runner.query('ALTER TABLE press_run DROP COLUMN owner, DROP COLUMN claimedUntil');
    await runner.query(
      'ALTER TABLE message ADD COLUMN turn BIGINT NOT NULL DEFAULT 0, ADD KEY message_turn (state, turn)',
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE message DROP KEY message_turn, DROP COLUMN turn');
    await runner.query(
      `ALTER TABLE press_run ADD COLUMN owner ${id} NULL, ADD COLUMN claimedUntil DATETIME(3) NULL`,
    );
    await runner.query(
      'ALTER TABLE paper DROP KEY paper_slice, DROP KEY paper_revision, DROP COLUMN sliceId, DROP COLUMN outOfDate, DROP COLUMN revision',
    );
    await runner.query('DROP TABLE register_state');
    await runner.query('DROP TABLE slice');
  }
}
