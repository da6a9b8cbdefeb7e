import { IsNull, type DataSource } from 'typeorm';
import type { Programs } from '../press/programs.js';
import type { Typesetter } from '../press/typesetter.js';
import { EntryRow, type FolioRow } from '../store/entities/folio.js';
import type { Rolls } from './rolls.js';

export interface FirstPageParts {
  readonly database: DataSource;
  readonly programs: Programs;
  readonly typesetter: Typesetter;
  readonly rolls: Rolls;
}

/** Learners who are asked for a paper, since the first ones may get none. */
const ASKED = 20;

/** The first page of a folio's first paper as it would come out now, as SVG; null where nobody gets one, or it cannot be set. */
export async function firstPage(
  { database, programs, typesetter, rolls }: FirstPageParts,
  { id: folioId, schoolId }: FolioRow,
  gone?: AbortSignal,
): Promise<string | null> {
  const { manager } = database;
  const entries = await manager.find(EntryRow, {
    select: { id: true },
    where: { folioId, schoolId, leftOut: IsNull(), gone: false },
    order: { position: 'ASC' },
    take: ASKED,
  });
  if (entries.length === 0) return null;
  const entryIds = entries.map(({ id }) => id);
  const {
    papers: [paper],
  } = await rolls.do('planTry', { schoolId, folioId, entryIds, messages: false, address: '' });
  if (!paper) return null;
  const program = await programs.load(manager, schoolId, folioId, paper.template);
  const own = await programs.own(manager, schoolId, folioId, paper.printed);
  const set = await typesetter.proof(program, paper.values, own, gone);
  return set.ok ? (set.pages[0]?.svg ?? null) : null;
}
