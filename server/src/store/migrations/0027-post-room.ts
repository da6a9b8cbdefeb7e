import { soughtWords } from '@scriptum/core/paper';
import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';
/** Messages whose words are written down in one statement. */
const AT_ONCE = 500;

/**
 * Schools have mail accounts of their own, dispatches begin at a set time, keep to hours and a pace, and can be stopped; messages are
 * found over all folios of a school. What goes by the way that the server knows by itself has the school's own identity for its account.
 */
export class PostRoom1766600000000 implements MigrationInterface {
  name = 'PostRoom1766600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('RENAME TABLE mail_account TO mail_fault');
    await runner.query(`ALTER TABLE mail_fault ADD COLUMN accountId ${id} NOT NULL DEFAULT ''`);
    await runner.query('UPDATE mail_fault SET accountId = schoolId');
    await runner.query('ALTER TABLE mail_fault DROP PRIMARY KEY, ADD PRIMARY KEY (accountId)');
    await runner.query(`CREATE TABLE mail_account (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, name VARCHAR(200) NOT NULL,
      host VARCHAR(255) NOT NULL, port INT NOT NULL, security VARCHAR(10) NOT NULL, user VARCHAR(320) NOT NULL, secret LONGTEXT NULL,
      address VARCHAR(320) NOT NULL, ownerId ${id} NULL, perMinute INT NULL, perDay INT NULL, dkim LONGTEXT NULL, dkimSecret LONGTEXT NULL,
      version INT NOT NULL, changedAt DATETIME(3) NOT NULL, changedBy ${id} NULL, openAt DATETIME(6) NULL,
      KEY account_school (schoolId), CONSTRAINT account_of FOREIGN KEY (schoolId) REFERENCES school (id) ON DELETE CASCADE) ${table}`);
    await runner.query(`CREATE TABLE mail_use (accountId ${id} NOT NULL, hour INT NOT NULL, people INT NOT NULL,
      PRIMARY KEY (accountId, hour)) ${table}`);
    await runner.query(`CREATE TABLE dispatch (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      staffId ${id} NULL, startedAt DATETIME(3) NOT NULL, startsAt DATETIME(3) NOT NULL, hours LONGTEXT NULL, perMinute INT NULL,
      total INT NOT NULL, stoppedAt DATETIME(3) NULL, stoppedBy ${id} NULL, openAt DATETIME(6) NULL, KEY dispatch_folio (folioId, startedAt),
      CONSTRAINT dispatch_of FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE) ${table}`);
    await runner.query(
      `CREATE TABLE practice_mood (schoolId ${id} NOT NULL PRIMARY KEY, mood VARCHAR(20) NOT NULL) ${table}`,
    );
    await runner.query(`ALTER TABLE school ADD COLUMN accountId ${id} NULL`);
    await runner.query(`ALTER TABLE message ADD COLUMN accountId ${id} NOT NULL DEFAULT '', ADD COLUMN dispatchId ${id} NULL,
      ADD COLUMN people INT NOT NULL DEFAULT 1, ADD COLUMN sought VARBINARY(1200) NOT NULL DEFAULT ''`);
    await runner.query('UPDATE message SET accountId = schoolId, people = JSON_LENGTH(recipients)');
    await this.findable(runner);
    // A message that nobody said an account of would wait for ever.
    await runner.query(`ALTER TABLE message MODIFY accountId ${id} NOT NULL`);
    await runner.query(`ALTER TABLE message DROP KEY message_turn, DROP KEY message_due, ADD KEY message_turn (state, accountId, turn),
      ADD KEY message_due (state, accountId, nextAttemptAt), ADD KEY message_dispatch (dispatchId, state),
      ADD KEY message_sought (schoolId, queuedAt, id, state, folioId, sought)`);
  }

  private async findable(runner: QueryRunner): Promise<void> {
    const rows = (await runner.query(
      `SELECT m.id, m.recipients, GROUP_CONCAT(DISTINCT p.learner SEPARATOR ' ') AS learners FROM message m
       LEFT JOIN enclosure c ON c.messageId = m.id LEFT JOIN paper p ON p.id = c.paperId GROUP BY m.id, m.recipients`,
    )) as { id: string; recipients: string; learners: string | null }[];
    for (let at = 0; at < rows.length; at += AT_ONCE) {
      const some = rows.slice(at, at + AT_ONCE);
      await runner.query(
        `UPDATE message SET sought = CASE id ${some.map(() => 'WHEN ? THEN ?').join(' ')} END WHERE id IN (?)`,
        [
          ...some.flatMap((row) => [
            row.id,
            soughtWords(`${row.learners ?? ''} ${(JSON.parse(row.recipients) as string[]).join(' ')}`)
              .join(' ')
              .slice(0, 300),
          ]),
          some.map((row) => row.id),
        ],
      );
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE message DROP KEY message_sought, DROP KEY message_dispatch, DROP KEY message_due, DROP KEY message_turn,
      ADD KEY message_due (state, nextAttemptAt), ADD KEY message_turn (state, turn),
      DROP COLUMN sought, DROP COLUMN people, DROP COLUMN dispatchId, DROP COLUMN accountId`);
    await runner.query('ALTER TABLE school DROP COLUMN accountId');
    await runner.query('DROP TABLE practice_mood');
    await runner.query('DROP TABLE dispatch');
    await runner.query('DROP TABLE mail_use');
    await runner.query('DROP TABLE mail_account');
    await runner.query('DELETE FROM mail_fault WHERE accountId <> schoolId');
    await runner.query(
      'ALTER TABLE mail_fault DROP PRIMARY KEY, ADD PRIMARY KEY (schoolId), DROP COLUMN accountId',
    );
    await runner.query('RENAME TABLE mail_fault TO mail_account');
  }
}
