import type { Router } from 'express';
import { In, type DataSource, type EntityManager } from 'typeorm';
import type { SeenFindings } from '@scriptum/core/contract';
import type { FolioEvents } from '../folio-events.js';
import type { CheckPapers } from '../press/check-papers.js';
import { conflict } from '../refusal.js';
import { SeenFindingRow } from '../store/entities/checks.js';
import { findFolio, lockFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { namesOf } from '../store/staff-names.js';
import type { Rolls } from '../tasks/rolls.js';
import { answer } from './call.js';

/** What of a folio can have been found right; far more than anybody looks at. */
const SEEN_MOST = 50_000;

export interface CheckParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly checks: CheckPapers;
  readonly rolls: Rolls;
}

/** What papers would come to, and what people have looked at and found right. */
export function checkRoutes(router: Router, { database, events, checks, rolls }: CheckParts): void {
  answer(router, 'checks', async ({ schoolId, params }) => {
    const folioId = params['folioId']!;
    const going = await checks.checkWhereDue(schoolId, folioId);
    return rolls.do('checks', { schoolId, folioId, going });
  });

  answer(router, 'seenFindings', async ({ schoolId, params }) => {
    const { id } = await findFolio(database.manager, schoolId, params['folioId']!);
    return seenOf(database.manager, schoolId, id);
  });

  answer(router, 'seeFindings', async ({ schoolId, staffId, params, body: { marks, right }, desk }) => {
    const folioId = params['folioId']!;
    const seen = await inTransaction(database, async (inside) => {
      await lockFolio(inside, schoolId, folioId);
      const all = [...new Set(marks)];
      if (right) {
        if ((await inside.countBy(SeenFindingRow, { folioId, schoolId })) + all.length > SEEN_MOST)
          throw conflict(
            'too-many',
            `${SEEN_MOST.toLocaleString('en')} findings can be kept as right. Mend some of them instead.`,
          );
        const now = new Date();
        // Who said it first stands.
        await inside.query(
          'INSERT IGNORE INTO seen_finding (folioId, mark, schoolId, staffId, seenAt) VALUES ?',
          [all.map((mark) => [folioId, mark, schoolId, staffId, now])],
        );
      } else await inside.delete(SeenFindingRow, { folioId, schoolId, mark: In(all) });
      return seenOf(inside, schoolId, folioId);
    });
    events.tell(folioId, { kind: 'seen', desk });
    return seen;
  });
}

async function seenOf(manager: EntityManager, schoolId: string, folioId: string): Promise<SeenFindings> {
  const rows = await manager.findBy(SeenFindingRow, { folioId, schoolId });
  const names = await namesOf(
    manager,
    schoolId,
    rows.map(({ staffId }) => staffId),
  );
  return {
    seen: rows.map(({ mark, staffId, seenAt }) => ({
      mark,
      by: names.get(staffId ?? '') ?? null,
      at: seenAt.toISOString(),
    })),
  };
}
