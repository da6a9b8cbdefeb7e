import type { BringIn } from '@scriptum/core/contract';
import {
  applyJoin,
  carryForms,
  applyRefresh,
  planJoin,
  planRefresh,
  takeOutSource,
  WHOLE_NAME,
  type JoinSpec,
  carryWorked,
} from '@scriptum/core/sources';
import { guessKey, makeRoll, markNameColumns, type Roll } from '@scriptum/core/roll';
import { plainTitle, type Column } from '@scriptum/core/column';
import type { LaidOut, Sheet } from '@scriptum/core/table';
import { openSheetFile } from '@scriptum/core/workbook';
import type { EntityManager } from 'typeorm';
import { conflict, notFound, Refusal } from '../refusal.js';
import { readBlob } from '../store/blobs.js';
import { SourceRow, type FolioRow } from '../store/entities/folio.js';
import { publishedForms } from '../store/published-forms.js';
import { FormAnswerRow } from '../store/entities/intake.js';
import { MessageRow, PressRunRow } from '../store/entities/register.js';
import { lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { loadRoll, replaceRoll } from '../store/rolls.js';
import { keepEarlier } from './earlier.js';
import { matchAllFields } from './match-fields.js';

/** A file that was read, with the place where its bytes are kept. */
export interface ReadFile {
  readonly name: string;
  readonly blobHash: string;
  readonly laidOut: LaidOut;
}

/**
 * Brings a file in: as the roll, as a newer version of a source, or joined to the roll. One transaction's work; the roll
 * as it was is kept, to be had back.
 *
 * @param byItself true where no person does it.
 * @returns the roll as it is now.
 * @throws Refusal where a run is going, where the roll would be begun anew though letters have gone out, or where the
 *   source or the key is not there.
 */
export async function bringIn(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  file: ReadFile,
  as: BringIn['as'],
  byItself = false,
): Promise<Roll> {
  const folio = await lockFolio(manager, schoolId, folioId);
  if (await manager.existsBy(PressRunRow, { schoolId, folioId, state: 'running' })) {
    throw conflict(
      'run-going',
      'Papers of this folio are being pressed. Wait until the run has ended, or stop it, then bring in the file.',
    );
  }
  const roll = await loadRoll(manager, folio);
  if (as.kind === 'base') return beginAnew(manager, folio, roll, file);
  if (as.kind === 'refresh') return refresh(manager, folio, roll, file, as, byItself);
  return join(manager, folio, roll, file, as.join);
}

async function beginAnew(
  manager: EntityManager,
  folio: FolioRow,
  before: Roll,
  file: ReadFile,
): Promise<Roll> {
  const { id: folioId, schoolId } = folio;
  if (await manager.existsBy(MessageRow, { schoolId, folioId })) {
    throw conflict(
      'roll-in-use',
      'Letters of this folio have already gone out, so its roll cannot be begun anew. Bring the file in as a newer version of its source, or start a new folio.',
    );
  }
  if (
    before.entries.some(({ answered }) => answered !== undefined) ||
    (await manager.existsBy(FormAnswerRow, { schoolId, folioId }))
  ) {
    throw conflict(
      'answers-there',
      'People have answered a form of this folio, and a new roll would take their answers out. Join the file to the roll, or start a new folio.',
    );
  }
  await keepEarlier(manager, folio, `the new roll from ${file.name}`);
  const sourceId = newId();
  const sheet = keepIdentities(file.laidOut.sheet, before.columns, sourceId);
  const made = keepEntryIdentities(before, makeRoll(sheet, newId));
  const key = guessKey(made);
  const own = [
    ...made.columns,
    ...carryForms(before.columns, made.columns, await publishedForms(manager, folio)),
  ];
  const columns = [...own, ...carryWorked(before.columns, own)];
  const roll: Roll = { ...made, columns, ...(key ? { key: [key.id] } : {}) };
  await replaceRoll(manager, folio, roll);
  await manager.delete(SourceRow, { folioId, schoolId });
  await manager.insert(SourceRow, sourceRow(folio, sourceId, file, { kind: 'base' }));
  await matchAllFields(manager, folio, roll);
  return roll;
}

async function refresh(
  manager: EntityManager,
  folio: FolioRow,
  before: Roll,
  file: ReadFile,
  { sourceId, decisions, join: matched }: Extract<BringIn['as'], { kind: 'refresh' }>,
  byItself: boolean,
): Promise<Roll> {
  const source = await manager.findOneBy(SourceRow, {
    id: sourceId,
    folioId: folio.id,
    schoolId: folio.schoolId,
  });
  if (!source) throw notFound('The source that this file is a newer version of');
  if (source.kind === 'joined')
    return join(manager, folio, before, file, matched ?? source.joinSpec!, source, byItself);
  await keepEarlier(manager, folio, `the newer version ${file.name}`, byItself);
  const { sheet } = file.laidOut;
  const plan = planRefresh(before, sheet, sourceId, decisions.columns);
  const roll = await joinedAgain(
    manager,
    folio,
    applyRefresh(before, sheet, sourceId, plan, decisions, newId),
  );
  await replaceRoll(manager, folio, roll);
  await manager.update(
    SourceRow,
    { id: sourceId, schoolId: folio.schoolId },
    sourceRow(folio, sourceId, file, { kind: 'base' }),
  );
  await matchAllFields(manager, folio, roll);
  return roll;
}

/** The roll with its joined sheets matched anew: for people who are new, and for those whose key is another now. */
async function joinedAgain(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<Roll> {
  const { id: folioId, schoolId } = folio;
  const sources = await manager.find(SourceRow, {
    where: { folioId, schoolId, kind: 'joined' },
    order: { broughtInAt: 'ASC', id: 'ASC' },
  });
  let joined = roll;
  for (const { id, fileName, blobHash, reading, joinSpec } of sources) {
    const bytes = joinSpec && (await readBlob(manager, schoolId, blobHash));
    const opened = bytes && openSheetFile(bytes);
    const laidOut = opened?.ok ? opened.value.layOut(reading ?? {}, newId) : null;
    const columns = new Set(joined.columns.map((column) => column.id));
    // What cannot be matched any more stays as it was.
    if (!laidOut?.ok || joinSpec!.left.some((left) => left !== WHOLE_NAME && !columns.has(left))) continue;
    const { sheet } = laidOut.value;
    const name = sourceName({ name: fileName, blobHash, laidOut: laidOut.value });
    joined = applyJoin(joined, sheet, joinSpec!, planJoin(joined, sheet, joinSpec!), { id, name });
  }
  return joined;
}

async function join(
  manager: EntityManager,
  folio: FolioRow,
  before: Roll,
  file: ReadFile,
  spec: JoinSpec,
  known?: SourceRow,
  byItself = false,
): Promise<Roll> {
  const { sheet } = file.laidOut;
  checkJoin(before, sheet, spec);
  const what = `${known ? 'the newer version' : 'the joined sheet'} ${file.name}`;
  await keepEarlier(manager, folio, what, byItself);
  const sourceId = known?.id ?? newId();
  const plan = planJoin(before, sheet, spec);
  const roll = applyJoin(before, sheet, spec, plan, { id: sourceId, name: sourceName(file) });
  await replaceRoll(manager, folio, roll);
  const row = sourceRow(folio, sourceId, file, {
    kind: 'joined',
    columns: [...sheet.columns],
    joinSpec: spec,
  });
  if (known) await manager.update(SourceRow, { id: sourceId, schoolId: folio.schoolId }, row);
  else await manager.insert(SourceRow, row);
  await matchAllFields(manager, folio, roll);
  return roll;
}

function checkJoin(roll: Roll, sheet: Sheet, spec: JoinSpec): void {
  if (roll.entries.length === 0) {
    throw conflict(
      'roll-empty',
      'There is no roll yet to join this sheet to. Bring in the list of learners first.',
    );
  }
  const columns = new Set(roll.columns.map(({ id }) => id));
  const titles = new Set(sheet.columns.map(({ title }) => title));
  const missing = spec.right.find((title) => title !== WHOLE_NAME && !titles.has(title));
  if (missing !== undefined) {
    throw new Refusal(
      422,
      'key-missing',
      `The sheet has no column “${missing}”, by which its rows are matched. Choose the column to match by.`,
    );
  }
  if (
    spec.left.length !== spec.right.length ||
    spec.left.some((id) => id !== WHOLE_NAME && !columns.has(id))
  ) {
    throw new Refusal(
      422,
      'key-missing',
      'A column to match by is not in the roll any more. Choose it again.',
    );
  }
}

/** Takes a joined source out, with the columns that it gave. */
export async function takeOut(
  manager: EntityManager,
  schoolId: string,
  folioId: string,
  sourceId: string,
): Promise<void> {
  const folio = await lockFolio(manager, schoolId, folioId);
  const source = await manager.findOneBy(SourceRow, { id: sourceId, folioId, schoolId, kind: 'joined' });
  if (!source) throw notFound('This joined source');
  await keepEarlier(manager, folio, `taking out ${source.fileName}`);
  const roll = takeOutSource(await loadRoll(manager, folio), sourceId);
  await replaceRoll(manager, folio, roll);
  await manager.delete(SourceRow, { id: sourceId, schoolId });
  await matchAllFields(manager, folio, roll);
}

function sourceRow(
  folio: FolioRow,
  id: string,
  { name, blobHash, laidOut }: ReadFile,
  about: { kind: 'base' | 'joined'; columns?: Column[]; joinSpec?: JoinSpec },
): SourceRow {
  return {
    id,
    schoolId: folio.schoolId,
    folioId: folio.id,
    fileName: name,
    blobHash,
    rows: laidOut.sheet.rows.length,
    notes: [...laidOut.sheet.notes],
    broughtInAt: new Date(),
    reading: laidOut.reading,
    columns: null,
    joinSpec: null,
    ...about,
  };
}

/** What a joined source is called in the titles of its columns: the sheet, or the file without its ending. */
function sourceName({ name, laidOut }: ReadFile): string {
  return laidOut.reading.sheet || name.replace(/\.[^.]{1,5}$/, '');
}

function keepIdentities(sheet: Sheet, present: readonly Column[], sourceId: string): Sheet {
  const free = new Map(present.map((column) => [plainTitle(column.title), column]));
  const columns = sheet.columns.map((column): Column => {
    const known = free.get(plainTitle(column.title));
    if (!known) return { ...column, sourceId };
    free.delete(plainTitle(column.title));
    return { ...column, id: known.id, sourceId, ...(known.role ? { role: known.role } : {}) };
  });
  return { ...sheet, columns: markNameColumns(columns) };
}

function keepEntryIdentities(before: Roll, roll: Roll): Roll {
  if (before.entries.length === 0) return roll;
  const key = (values: Record<string, string>): string =>
    JSON.stringify(roll.columns.map((column) => values[column.id] ?? ''));
  const known = new Map<string, string[]>();
  for (const entry of before.entries)
    known.set(key(entry.values), [...(known.get(key(entry.values)) ?? []), entry.id]);
  return {
    ...roll,
    entries: roll.entries.map((entry) => ({
      ...entry,
      id: known.get(key(entry.values))?.shift() ?? entry.id,
    })),
  };
}
