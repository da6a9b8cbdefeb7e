import type {
  AgainPlan,
  AskAgain,
  BringIn,
  Checks,
  DispatchPlan,
  Folio,
  Ground,
  OrderNext,
  Register,
  RegisterSought,
  SendManyAgain,
  SendPapersAgain,
  StartDispatch,
} from '@scriptum/core/contract';
import { findBlanks, type Blank } from '@scriptum/core/blanks';
import { cohortOf, printedFor, type PrintedValues } from '@scriptum/core/fill';
import { valuesToMeasure } from '@scriptum/core/page';
import { preflight, type Finding } from '@scriptum/core/preflight';
import { RollPatch } from '@scriptum/core/roll';
import type { Reading } from '@scriptum/core/table';
import { sorterOf } from '@scriptum/core/sorting';
import { emptySorting, templatesOf, writingsOf, type Placed, type Template } from '@scriptum/core/template';
import { openSheetFile, type WriteKind } from '@scriptum/core/workbook';
import type { DataSource } from 'typeorm';
import { checkInput, readJson } from '../input.js';
import { planPack, type PackRequest, type PlannedPack } from '../pack/plan-pack.js';
import { doOrders, type OrdersDone } from '../order/do-orders.js';
import { nextOfOrder, runOrder } from '../order/order-works.js';
import { planDispatch, queueDispatch, type Posting } from '../post/dispatch.js';
import { planAgain, sendManyAgain } from '../post/send-many.js';
import { sendPapersAgain } from '../post/send-again.js';
import { planRun, type RunRequest, type StartedRun } from '../press/plan-run.js';
import { conflict, fromProblem, notFound } from '../refusal.js';
import { prepareGround } from '../ground/prepare-ground.js';
import { keepBlob, readBlob } from '../store/blobs.js';
import { AssetRow } from '../store/entities/folio.js';
import { findFolio, loadFolio, lockFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { loadWritings } from '../store/writings.js';
import { inTransaction } from '../store/in-transaction.js';
import { DatabaseSlices } from '../jobs/database-slices.js';
import { dueChecks, endChecks, loadChecks, type DueChecks } from '../register/checks.js';
import { comparePapers } from '../register/compare-papers.js';
import { loadPlanning, toCheck } from '../register/planning.js';
import { planTry, type PlannedTry, type TryAsked } from '../register/try-papers.js';
import { registerFile } from '../register/register-file.js';
import { schoolRegisterFile } from '../register/school-register.js';
import { loadRegister } from '../register/register.js';
import { bringIn, takeOut } from '../roll/bring-in.js';
import { goBack } from '../roll/earlier.js';
import { patchRoll } from '../roll/patch-roll.js';
import { tellOutcomes } from '../register/outcomes.js';
import { rollFile } from '../roll/roll-file.js';
import { dayOfSchool, loadWorkedRoll } from '../roll/worked-roll.js';
import { takeNewer, type NewerVersion, type Taken } from '../watch/take-newer.js';

/** Which folio, of which school. */
interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** JSON that is sent as it is: made where the work is done, so that it need not be made from objects once more. */
export interface JsonBytes<T> {
  readonly json: Uint8Array;
  /** Only for the compiler. */
  readonly of?: T;
}

/** Papers that are looked at before others have their turn. */
const CHECKS_AT_ONCE = 240;

const jsonOf = <T>(value: T): JsonBytes<T> => ({ json: Buffer.from(JSON.stringify(value)) });

/**
 * All work over a whole roll: reading files, bringing them in, changing, working out, checking, planning. It runs in
 * processes of its own (`Rolls`), since a roll may be large and what people write into it may be hard to work out.
 */
export const ROLL_WORK = {
  async folio(database: DataSource, { schoolId, folioId }: Place): Promise<JsonBytes<Folio>> {
    return jsonOf(await loadFolio(database.manager, schoolId, folioId));
  },

  async bringIn(
    database: DataSource,
    { schoolId, folioId, file, as }: Place & { file: FileToRead; as: BringIn['as'] },
  ): Promise<JsonBytes<Folio>> {
    const bytes = await readBlob(database.manager, schoolId, file.blobHash);
    if (!bytes) throw notFound('The file');
    const opened = openSheetFile(bytes);
    const laidOut = opened.ok ? opened.value.layOut(file.reading, newId) : opened;
    if (!laidOut.ok) throw fromProblem(laidOut.problem);
    if (file.ifSure && laidOut.value.doubts.length > 0)
      throw conflict('reading-doubtful', 'Look how the file is read before it becomes the roll.');
    const { name, blobHash } = file;
    const read = { name, blobHash, laidOut: laidOut.value };
    return jsonOf(
      await inTransaction(database, async (manager) => {
        const roll = await bringIn(manager, schoolId, folioId, read, as);
        return loadFolio(manager, schoolId, folioId, roll);
      }),
    );
  },

  async patchRoll(
    database: DataSource,
    { schoolId, folioId, body }: Place & { body: Uint8Array },
  ): Promise<void> {
    const patch = checkInput(RollPatch, readJson(body));
    await inTransaction(database, (manager) => patchRoll(manager, schoolId, folioId, patch));
  },

  async takeOut(
    database: DataSource,
    { schoolId, folioId, sourceId }: Place & { sourceId: string },
  ): Promise<JsonBytes<Folio>> {
    await inTransaction(database, (manager) => takeOut(manager, schoolId, folioId, sourceId));
    return jsonOf(await loadFolio(database.manager, schoolId, folioId));
  },

  async goBack(
    database: DataSource,
    { schoolId, folioId, earlierId }: Place & { earlierId: string },
  ): Promise<JsonBytes<Folio>> {
    await inTransaction(database, async (manager) =>
      goBack(manager, await lockFolio(manager, schoolId, folioId), earlierId),
    );
    return jsonOf(await loadFolio(database.manager, schoolId, folioId));
  },

  async rollFile(
    database: DataSource,
    {
      schoolId,
      folioId,
      kind,
      who,
      outcome,
      base,
    }: Place & { kind: WriteKind; who: 'in' | 'all'; outcome: 'yes' | 'no'; base: string },
  ): Promise<{ title: string; bytes: Uint8Array }> {
    const folio = await findFolio(database.manager, schoolId, folioId);
    const { roll } = await loadWorkedRoll(database.manager, folio);
    const told = outcome === 'yes' ? await tellOutcomes(database.manager, folio, roll, base) : roll;
    return { title: folio.title, bytes: rollFile(told, folio.title, kind, who) };
  },

  /** What a template prints for an entry, where it is compared with the others; null where there is no such entry. */
  async printed(
    database: DataSource,
    { schoolId, folioId, template, entryId }: Place & { template: Template; entryId: string },
  ): Promise<PrintedValues | null> {
    const folio = await findFolio(database.manager, schoolId, folioId);
    const [{ roll }, day] = await Promise.all([
      loadWorkedRoll(database.manager, folio),
      dayOfSchool(database.manager, schoolId),
    ]);
    const entry = roll.entries.find(({ id }) => id === entryId);
    return entry ? printedFor(template, entry, { columns: roll.columns, day, cohort: cohortOf(roll) }) : null;
  },

  /** Makes a kept PDF ready to be the ground of pages, and keeps it so beside the folio's pictures. */
  async addGround(
    database: DataSource,
    { schoolId, folioId, blobHash, name }: Place & { blobHash: string; name: string },
  ): Promise<Ground> {
    const bytes = await readBlob(database.manager, schoolId, blobHash);
    if (!bytes) throw notFound('The file');
    const prepared = await prepareGround(bytes);
    if (!prepared.ok) throw fromProblem(prepared.problem);
    const about = { ...prepared.value.about, blanks: await blanksOf(bytes) };
    return inTransaction(database, async (manager) => {
      const folio = await findFolio(manager, schoolId, folioId);
      const kept = await keepBlob(manager, schoolId, Buffer.from(prepared.value.bytes));
      const asset = { id: newId(), name, mime: 'application/pdf', about };
      await manager.insert(AssetRow, { ...asset, schoolId, folioId: folio.id, blobHash: kept });
      return asset;
    });
  },

  /** What a placed template prints for everybody, to be measured. */
  async toMeasure(
    database: DataSource,
    {
      schoolId,
      folioId,
      template,
      templateId,
    }: Place & { template: Placed; templateId?: string | undefined },
  ): Promise<{ entryId: string; values: string }[]> {
    const folio = await findFolio(database.manager, schoolId, folioId);
    const [{ roll }, day] = await Promise.all([
      loadWorkedRoll(database.manager, folio),
      dayOfSchool(database.manager, schoolId),
    ]);
    const writings = await loadWritings(database.manager, { schoolId, folioId });
    const sorting = writingsOf(writings, 'sorting')[0]?.content ?? emptySorting();
    const sorted = sorterOf(templatesOf(writings), { sorting, columns: roll.columns });
    const theirs =
      sorting.rules.length === 0 || templateId === undefined
        ? []
        : roll.entries.filter((entry) => sorted(entry).templates.some(({ id }) => id === templateId));
    // What nobody gets yet is measured for everybody, so that it can be made.
    const entries = theirs.length > 0 ? theirs : roll.entries;
    return valuesToMeasure(template, entries, { columns: roll.columns, day, cohort: cohortOf(roll) });
  },

  async preflight(database: DataSource, { schoolId, folioId }: Place): Promise<{ findings: Finding[] }> {
    const { manager } = database;
    const folio = await findFolio(manager, schoolId, folioId);
    const planning = await loadPlanning(manager, folio);
    const { findings } = await loadWorkedRoll(manager, folio);
    return {
      findings: preflight({
        ...(await toCheck(manager, planning)),
        notes: writingsOf(planning.writings, 'note'),
        marks: findings(),
      }),
    };
  },

  async planRun(database: DataSource, request: RunRequest): Promise<StartedRun> {
    return inTransaction(database, (manager) => planRun(manager, new DatabaseSlices(database), request));
  },

  async register(
    database: DataSource,
    { schoolId, folioId, comparing }: Place & { comparing: boolean },
  ): Promise<JsonBytes<Register>> {
    return jsonOf({ ...(await loadRegister(database.manager, { schoolId, folioId })), comparing });
  },

  async registerFile(
    database: DataSource,
    asked: Place & { kind: 'csv' | 'xlsx' },
  ): Promise<{ title: string; bytes: Uint8Array }> {
    return registerFile(database.manager, asked);
  },

  async schoolRegisterFile(
    database: DataSource,
    { schoolId, asked }: Place & { asked: RegisterSought & { kind: 'csv' | 'xlsx' } },
  ): Promise<{ bytes: Uint8Array }> {
    return { bytes: await schoolRegisterFile(database.manager, schoolId, asked) };
  },

  async planPack(database: DataSource, request: PackRequest): Promise<PlannedPack> {
    return planPack(database.manager, request);
  },

  async comparePapers(database: DataSource, place: Place): Promise<boolean> {
    return comparePapers(database, place);
  },

  async dueChecks(database: DataSource, { schoolId, folioId }: Place): Promise<DueChecks> {
    const { manager } = database;
    return dueChecks(manager, await findFolio(manager, schoolId, folioId), CHECKS_AT_ONCE);
  },

  async planTry(database: DataSource, asked: TryAsked): Promise<PlannedTry> {
    return planTry(database.manager, asked);
  },

  async endChecks(
    database: DataSource,
    { schoolId, folioId, checkedWith }: Place & { checkedWith: string },
  ): Promise<void> {
    const { manager } = database;
    await endChecks(manager, await findFolio(manager, schoolId, folioId), checkedWith);
  },

  /** What is worth a look in papers as they would come out. */
  async checks(
    database: DataSource,
    { schoolId, folioId, going }: Place & { going: boolean },
  ): Promise<JsonBytes<Checks>> {
    const { manager } = database;
    return jsonOf({ ...(await loadChecks(manager, await findFolio(manager, schoolId, folioId))), going });
  },

  async planDispatch(
    database: DataSource,
    { schoolId, folioId, address }: Place & { address: string },
  ): Promise<DispatchPlan> {
    return planDispatch(database.manager, schoolId, folioId, address);
  },

  async queueDispatch(
    database: DataSource,
    {
      schoolId,
      folioId,
      asked,
      posting,
    }: Place & { asked: StartDispatch & { staffId?: string | null }; posting: Posting },
  ): Promise<number> {
    return inTransaction(database, (manager) => queueDispatch(manager, schoolId, folioId, asked, posting));
  },

  /** What the standing orders of a folio have to do now. */
  async doOrders(
    database: DataSource,
    { schoolId, folioId, posting }: Place & { posting: Posting },
  ): Promise<OrdersDone> {
    return inTransaction(database, (manager) =>
      doOrders(manager, new DatabaseSlices(database), { schoolId, folioId, posting }),
    );
  },

  /** Takes a newer version of a watched file over, or has it wait. */
  async takeNewer(
    database: DataSource,
    { version, ...asked }: Place & { watchedId: string; version: NewerVersion },
  ): Promise<Taken> {
    return inTransaction(database, (manager) => takeNewer(manager, asked, version));
  },

  async nextOfOrder(database: DataSource, asked: Place & { orderId: string }): Promise<JsonBytes<OrderNext>> {
    return jsonOf(await nextOfOrder(database.manager, asked));
  },

  async runOrder(
    database: DataSource,
    { count, ...asked }: Place & { orderId: string; staffId: string; count: number },
  ): Promise<number> {
    return inTransaction(database, (manager) => runOrder(manager, asked, count));
  },

  async planAgain(
    database: DataSource,
    { asked, ...place }: Place & { posting: Posting; asked: AskAgain },
  ): Promise<AgainPlan> {
    return planAgain(database.manager, place, asked);
  },

  async sendManyAgain(
    database: DataSource,
    { asked, ...place }: Place & { staffId: string | null; posting: Posting; asked: SendManyAgain },
  ): Promise<number> {
    return inTransaction(database, (manager) => sendManyAgain(manager, place, asked));
  },

  async sendPapersAgain(
    database: DataSource,
    { asked, ...place }: Place & { staffId: string | null; posting: Posting; asked: SendPapersAgain },
  ): Promise<number> {
    return inTransaction(database, (manager) => sendPapersAgain(manager, place, asked));
  },
};

/** The blanks of each page of a PDF; none where it cannot be looked at, which keeps nobody from using it. */
async function blanksOf(file: Uint8Array): Promise<Blank[][]> {
  // Only who brings a PDF in needs the reader.
  const { readMarks } = await import('../ground/read-marks.js');
  try {
    return (await readMarks(file)).map(findBlanks);
  } catch {
    return [];
  }
}

/** A kept file, and how it is to be read. */
export interface FileToRead {
  readonly name: string;
  readonly blobHash: string;
  readonly reading: Reading;
  /** Refused where people had better look first how it is read. */
  readonly ifSure?: boolean;
}

export type RollWork = typeof ROLL_WORK;
export type RollTask = {
  [Name in keyof RollWork]: { readonly name: Name; readonly given: Parameters<RollWork[Name]>[1] };
}[keyof RollWork];
