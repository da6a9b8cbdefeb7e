import type { RegisterSought, SchoolPaper, SchoolRegister } from '@scriptum/core/contract';
import { soughtWords } from '@scriptum/core/paper';
import { dayBegins } from '@scriptum/core/time';
import { writeSheet } from '@scriptum/core/workbook';
import { In, type EntityManager } from 'typeorm';
import { Refusal } from '../refusal.js';
import { FolioRow } from '../store/entities/folio.js';
import { School } from '../store/entities/people.js';
import { WritingRow } from '../store/entities/writing.js';
import { PRESENT } from './present-papers.js';
import { paperLines } from './register.js';
import { paperRow, PAPER_TITLES } from './register-file.js';

/** Papers of one answer, and up to how many are counted. */
const AT_ONCE = 50;
const COUNTED = 1_000;
/** Papers of one file. */
const FILED = 20_000;

const STATES: Readonly<Record<NonNullable<RegisterSought['state']>, string>> = {
  present: `p.state IN ('${PRESENT.join("', '")}')`,
  pressed: "p.state = 'pressed' AND p.outOfDate = 0",
  cleared: "p.state = 'cleared' AND p.outOfDate = 0",
  held: "p.state = 'held'",
  sent: "p.state = 'dispatched'",
  old: "p.outOfDate = 1 AND p.state IN ('pressed', 'cleared', 'held')",
  failed: "p.state = 'failed'",
  void: "p.state = 'void'",
  superseded: "p.state = 'superseded'",
};

interface Found {
  readonly id: string;
  readonly pressedAt: Date;
}

/** The papers of a school that are looked for, over all folios, the newest first. All is found in one index. */
export async function searchRegister(
  manager: EntityManager,
  schoolId: string,
  { after, ...sought }: RegisterSought,
): Promise<SchoolRegister> {
  const which = await conditionOf(manager, schoolId, sought);
  const behind = after?.split(' ');
  // One look counts them and finds the first ones.
  const found = await manager.query<Found[]>(
    `SELECT p.id, p.pressedAt FROM paper p FORCE INDEX (paper_sought) WHERE ${which.sql}
     ${behind ? 'AND (p.pressedAt, p.id) < (?, ?)' : ''} ORDER BY p.pressedAt DESC, p.id DESC LIMIT ?`,
    [...which.given, ...(behind ? [new Date(behind[0]!), behind[1]] : []), (behind ? AT_ONCE : COUNTED) + 1],
  );
  const some = found.slice(0, AT_ONCE);
  const last = some.at(-1);
  return {
    papers: await described(manager, schoolId, some),
    after: found.length > AT_ONCE && last ? `${last.pressedAt.toISOString()} ${last.id}` : null,
    count: behind ? null : Math.min(COUNTED, found.length),
    more: !behind && found.length > COUNTED,
  };
}

/** The same as a spreadsheet file. @throws Refusal where there are too many. */
export async function schoolRegisterFile(
  manager: EntityManager,
  schoolId: string,
  { kind, ...sought }: RegisterSought & { kind: 'csv' | 'xlsx' },
): Promise<Uint8Array> {
  const which = await conditionOf(manager, schoolId, sought);
  const found = await manager.query<Found[]>(
    `SELECT p.id, p.pressedAt FROM paper p FORCE INDEX (paper_sought) WHERE ${which.sql}
     ORDER BY p.pressedAt DESC, p.id DESC LIMIT ?`,
    [...which.given, FILED + 1],
  );
  if (found.length > FILED)
    throw new Refusal(
      422,
      'file-large',
      `These are more than ${FILED.toLocaleString('en')} papers. Choose a folio, a state or some days, and save them one after the other.`,
    );
  const papers = await described(manager, schoolId, found);
  const titles = ['Folio', 'Class', ...PAPER_TITLES];
  return writeSheet(
    kind,
    'Register',
    titles,
    papers.map((paper) => [{ text: paper.folio }, { text: paper.klass }, ...paperRow(paper, paper.letter)]),
  );
}

export async function classesOf(manager: EntityManager, schoolId: string): Promise<string[]> {
  const rows = await manager.query<{ klass: string }[]>(
    "SELECT DISTINCT klass FROM paper WHERE schoolId = ? AND klass <> '' LIMIT 500",
    [schoolId],
  );
  return rows
    .map(({ klass }) => klass)
    .sort(new Intl.Collator('en', { numeric: true, sensitivity: 'base' }).compare);
}

async function conditionOf(
  manager: EntityManager,
  schoolId: string,
  { text = '', folioId, klass, state, from, to }: Omit<RegisterSought, 'after'>,
): Promise<{ readonly sql: string; readonly given: unknown[] }> {
  const parts = ['p.schoolId = ?', 'p.pressedAt IS NOT NULL'];
  const given: unknown[] = [schoolId];
  const add = (sql: string, ...values: unknown[]): void => {
    parts.push(sql);
    given.push(...values);
  };
  const words = soughtWords(text);
  const folios =
    words.length > 0
      ? await manager.find(FolioRow, { select: { id: true, title: true }, where: { schoolId } })
      : [];
  for (const word of words) {
    const ids = folios.filter(({ title }) => soughtWords(title).join(' ').includes(word)).map(({ id }) => id);
    const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    if (ids.length > 0) add('(p.sought LIKE ? OR p.folioId IN (?))', like, ids);
    else add('p.sought LIKE ?', like);
  }
  if (folioId) add('p.folioId = ?', folioId);
  if (klass !== undefined && klass !== '') add('p.klass = ?', klass);
  if (state) add(STATES[state]);
  if (from || to) {
    const school = await manager.findOneBy(School, { id: schoolId });
    const zone = school?.timeZone ?? 'UTC';
    if (from) add('p.pressedAt >= ?', dayBegins(from, zone));
    if (to) add('p.pressedAt < ?', dayBegins(nextDay(to), zone));
  }
  return { sql: parts.join(' AND '), given };
}

const nextDay = (day: string): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);

async function described(
  manager: EntityManager,
  schoolId: string,
  found: readonly Found[],
): Promise<SchoolPaper[]> {
  if (found.length === 0) return [];
  const ids = found.map(({ id }) => id);
  const [lines, places, folios] = await Promise.all([
    paperLines(manager, 'p.schoolId = ? AND p.id IN (?)', [schoolId, ids]),
    manager.query<{ id: string; folioId: string; klass: string; templateId: string }[]>(
      'SELECT id, folioId, klass, templateId FROM paper WHERE schoolId = ? AND id IN (?)',
      [schoolId, ids],
    ),
    manager.find(FolioRow, { select: { id: true, title: true }, where: { schoolId } }),
  ]);
  const writings = await manager.find(WritingRow, {
    select: { id: true, name: true },
    where: { schoolId, id: In([...new Set(places.map(({ templateId }) => templateId))]) },
  });
  const line = new Map(lines.map((one) => [one.id, one]));
  const place = new Map(places.map((one) => [one.id, one]));
  const titles = new Map(folios.map(({ id, title }) => [id, title]));
  const names = new Map(writings.map(({ id, name }) => [id, name]));
  return ids.flatMap((id): SchoolPaper[] => {
    const [own, at] = [line.get(id), place.get(id)];
    if (!own || !at) return [];
    const { folioId, klass, templateId } = at;
    return [
      { ...own, folioId, klass, folio: titles.get(folioId) ?? '', letter: names.get(templateId) ?? '' },
    ];
  });
}
