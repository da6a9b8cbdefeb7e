import type { FolioSummary } from '@scriptum/core/contract';
import type { DataSource } from 'typeorm';

interface FolioLine {
  readonly id: string;
  readonly title: string;
  readonly changedAt: Date;
  readonly archivedAt: Date | null;
  readonly changedBy: string | null;
  readonly entries: string;
  readonly blocking: number | null;
}

interface PapersLine {
  readonly folioId: string;
  readonly state: string;
  readonly outOfDate: 0 | 1;
  readonly n: string;
}

/** The school's folios with how their papers stand, last changed first. @param folioId of one alone. */
export async function listFolios(
  database: DataSource,
  schoolId: string,
  folioId?: string,
): Promise<FolioSummary[]> {
  const one = folioId === undefined ? '' : 'AND f.id = ?';
  const given = folioId === undefined ? [schoolId] : [schoolId, folioId];
  const of = (table: string): string => (folioId === undefined ? '' : `AND ${table}.folioId = ?`);
  const [folios, papers, messages, works, files] = await Promise.all([
    database.query<FolioLine[]>(
      `SELECT f.id, f.title, f.changedAt, f.archivedAt, s.name AS changedBy, r.blocking,
         (SELECT COUNT(*) FROM entry e WHERE e.folioId = f.id AND e.leftOut IS NULL AND e.gone = 0) AS entries
       FROM folio f LEFT JOIN staff s ON s.id = f.changedBy LEFT JOIN register_state r ON r.folioId = f.id
       WHERE f.schoolId = ? ${one} ORDER BY f.changedAt DESC, f.title`,
      given,
    ),
    database.query<PapersLine[]>(
      `SELECT p.folioId, p.state, p.outOfDate, COUNT(*) AS n FROM paper p
       WHERE p.schoolId = ? ${of('p')} AND p.state IN ('pressed', 'cleared', 'held', 'dispatched', 'failed')
       GROUP BY p.folioId, p.state, p.outOfDate`,
      given,
    ),
    database.query<{ folioId: string; state: string; n: string }[]>(
      `SELECT m.folioId, m.state, COUNT(*) AS n FROM message m
       WHERE m.schoolId = ? ${of('m')} AND m.state IN ('refused', 'unconfirmed') 
         AND EXISTS (SELECT 1 FROM enclosure c WHERE c.messageId = m.id AND c.settledBy IS NULL) GROUP BY m.folioId, m.state`,
      given,
    ),
    database.query<{ folioId: string; state: string; n: string; papers: string }[]>(
      `SELECT w.folioId, w.state, COUNT(DISTINCT w.id) AS n, COUNT(DISTINCT p.id) AS papers FROM order_work w
         LEFT JOIN paper p ON p.folioId = w.folioId AND p.entryId = w.entryId AND p.state = 'pressed' AND p.outOfDate = 0
       WHERE w.schoolId = ? ${of('w')} AND w.state IN ('asked', 'blocked') GROUP BY w.folioId, w.state`,
      given,
    ),
    database.query<{ folioId: string; n: string }[]>(
      `SELECT v.folioId, COUNT(*) AS n FROM watched_file v LEFT JOIN source s ON s.id = v.sourceId
       WHERE v.schoolId = ? ${of('v')} AND v.isOn AND (v.fault IS NOT NULL OR (v.waits IS NOT NULL AND NOT (s.blobHash <=> v.seenHash)))
       GROUP BY v.folioId`,
      given,
    ),
  ]);
  return folios.map((folio): FolioSummary => {
    const own = papers.filter((line) => line.folioId === folio.id);
    const count = (is: (line: PapersLine) => boolean): number =>
      own.filter(is).reduce((sum, { n }) => sum + Number(n), 0);
    const mail = (state: string): number =>
      Number(messages.find((line) => line.folioId === folio.id && line.state === state)?.n ?? 0);
    const work = (state: string): { n: number; papers: number } => {
      const line = works.find((one) => one.folioId === folio.id && one.state === state);
      return { n: Number(line?.n ?? 0), papers: Number(line?.papers ?? 0) };
    };
    // What a standing order waits with is told as that.
    const asked = work('asked');
    const old = (line: PapersLine): boolean => line.outOfDate === 1;
    return {
      id: folio.id,
      title: folio.title,
      entries: Number(folio.entries),
      pressed: count(({ state }) => state !== 'failed'),
      toReview: count((line) => line.state === 'pressed' && !old(line)) - asked.papers,
      cleared: count((line) => line.state === 'cleared' && !old(line)),
      held: count(({ state }) => state === 'held'),
      dispatched: count(({ state }) => state === 'dispatched'),
      outOfDate: count((line) => line.state !== 'dispatched' && line.state !== 'failed' && old(line)),
      failed: count(({ state }) => state === 'failed'),
      refused: mail('refused'),
      unconfirmed: mail('unconfirmed'),
      asked: asked.n,
      orderBlocked: work('blocked').n,
      filesWait: Number(files.find((line) => line.folioId === folio.id)?.n ?? 0),
      blocking: folio.blocking ?? 0,
      changedAt: new Date(folio.changedAt).toISOString(),
      changedBy: folio.changedBy,
      archived: folio.archivedAt !== null,
    };
  });
}
