import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Standing orders, and what each did for whom. */
export class StandingOrders1767000000000 implements MigrationInterface {
  name = 'StandingOrders1767000000000';

  async up(runner: QueryRunner): Promise<void> {
    const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
    const hash = 'VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
    const table = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';
    const belongs = (name: string): string =>
      `CONSTRAINT ${name}_of_folio FOREIGN KEY (folioId) REFERENCES folio (id) ON DELETE CASCADE`;
    await runner.query(`CREATE TABLE standing_order (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      content LONGTEXT NOT NULL, version INT NOT NULL, isOn BOOLEAN NOT NULL, onAt DATETIME(3) NULL, ownerId ${id} NULL,
      nextAt DATETIME(3) NULL, lastAt DATETIME(3) NULL, askedAt DATETIME(3) NULL, toldOn VARCHAR(10) NULL, mailAt DATETIME(3) NULL,
      createdAt DATETIME(3) NOT NULL, deletedAt DATETIME(3) NULL, KEY standing_order_folio (folioId),
      KEY standing_order_next (isOn, nextAt), KEY standing_order_mail (mailAt), ${belongs('standing_order')}) ${table}`);
    await runner.query(`CREATE TABLE order_work (id ${id} NOT NULL PRIMARY KEY, schoolId ${id} NOT NULL, folioId ${id} NOT NULL,
      orderId ${id} NOT NULL, entryId ${id} NOT NULL, version ${hash} NOT NULL, state VARCHAR(12) NOT NULL, why VARCHAR(1000) NULL,
      isWrong BOOLEAN NOT NULL DEFAULT 0, runId ${id} NULL, tries INT NOT NULL DEFAULT 0, owedAt DATETIME(3) NOT NULL,
      notBefore DATETIME(3) NOT NULL, startedAt DATETIME(3) NULL, until DATETIME(3) NULL, endedAt DATETIME(3) NULL,
      toldAt DATETIME(3) NULL, saidBy ${id} NULL, UNIQUE KEY order_work_once (orderId, entryId, version),
      KEY order_work_state (folioId, state), KEY order_work_school (schoolId, state), KEY order_work_due (state, notBefore), KEY order_work_started (orderId, startedAt),
      KEY order_work_owed (orderId, owedAt), ${belongs('order_work')}) ${table}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of ['order_work', 'standing_order']) await runner.query(`DROP TABLE ${name}`);
  }
}
