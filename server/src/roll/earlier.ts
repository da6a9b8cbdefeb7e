import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { Roll } from '@scriptum/core/roll';
import { keepAnswers } from '@scriptum/core/sources';
import { In, type EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { publishedForms } from '../store/published-forms.js';
import { FormAnswerRow } from '../store/entities/intake.js';
import { EarlierRow, SourceRow, type FolioRow } from '../store/entities/folio.js';
import { newId } from '../store/id.js';
import { loadRoll, replaceRoll } from '../store/rolls.js';
import { matchAllFields } from './match-fields.js';

const zip = promisify(gzip);
const unzip = promisify(gunzip);
/** States kept for each folio: before what people did, and before what was taken over by itself. */
const KEPT = 5;
const KEPT_BY_ITSELF = 2;

interface State {
  readonly roll: Roll;
  readonly sources: SourceRow[];
}

/**
 * Keeps the roll and its sources as they are, before a larger change; nothing where the roll is still empty.
 *
 * @param byItself true where no person makes it. Few of these are kept, so that those of people are not pushed out.
 */
export async function keepEarlier(
  manager: EntityManager,
  folio: FolioRow,
  what: string,
  byItself = false,
): Promise<void> {
  const { id: folioId, schoolId } = folio;
  const state: State = {
    roll: await loadRoll(manager, folio),
    sources: await manager.findBy(SourceRow, { folioId, schoolId }),
  };
  if (state.roll.entries.length === 0) return;
  await manager.insert(EarlierRow, {
    id: newId(),
    schoolId,
    folioId,
    what: what.slice(0, 300),
    at: new Date(),
    versionAfter: folio.rollVersion + 1,
    byItself,
    state: await zip(JSON.stringify(state), { level: 3 }),
  });
  const all = await manager.find(EarlierRow, {
    select: { id: true },
    where: { folioId, schoolId, byItself },
    order: { at: 'DESC' },
  });
  const old = all.slice(byItself ? KEPT_BY_ITSELF : KEPT).map(({ id }) => id);
  if (old.length > 0) await manager.delete(EarlierRow, { id: In(old), schoolId });
}

/** Puts the roll back to a kept state; later ones go, since they came after it. */
export async function goBack(manager: EntityManager, folio: FolioRow, earlierId: string): Promise<void> {
  const { id: folioId, schoolId } = folio;
  const earlier = await manager.findOneBy(EarlierRow, { id: earlierId, folioId, schoolId });
  if (!earlier) throw notFound('This earlier state of the roll');
  const { roll: before, sources } = JSON.parse((await unzip(earlier.state)).toString('utf8')) as State;
  // What people have answered since is not what is taken back.
  const answers = await manager.find(FormAnswerRow, {
    select: { writingId: true, entryId: true },
    where: { folioId, schoolId },
  });
  const roll = keepAnswers(
    before,
    await loadRoll(manager, folio),
    answers,
    await publishedForms(manager, folio),
  );
  await replaceRoll(manager, folio, roll);
  await manager.delete(SourceRow, { folioId, schoolId });
  await manager.insert(
    SourceRow,
    sources.map((source) => ({ ...source, broughtInAt: new Date(source.broughtInAt) })),
  );
  await matchAllFields(manager, folio, roll);
  await manager
    .createQueryBuilder()
    .delete()
    .from(EarlierRow)
    .where('folioId = :folioId AND schoolId = :schoolId AND at >= :at', { folioId, schoolId, at: earlier.at })
    .execute();
}
