import type { PackAsked } from '@scriptum/core/contract';
import { classColumn } from '@scriptum/core/roll';
import type { DataSource, EntityManager } from 'typeorm';
import type { Packs } from '../pack/packs.js';
import { nextOfOrder } from '../order/order-works.js';
import type { StandingOrders } from '../order/standing-orders.js';
import type { Press } from '../press/press.js';
import { judgePapers } from '../register/judge-papers.js';
import { voidPapers } from '../register/void-papers.js';
import { FolioRow } from '../store/entities/folio.js';
import { StandingOrderRow } from '../store/entities/orders.js';
import { Staff } from '../store/entities/people.js';
import { PaperRow } from '../store/entities/register.js';
import type { Rolls } from '../tasks/rolls.js';
import { inTransaction } from '../store/in-transaction.js';
import { DEMO_ACCOUNT } from './load-demo.js';

/** Whose standing order has begun: its papers wait for a yes. */
const ASKING = 'Instrument loans';
const TITLE = 'Year 8 spring reports';
const HELD = { learner: 'Wilhelmina van der Veldt', note: 'Ask her tutor about the attendance first.' };
const VOID = { learner: 'Dag Rønningsdal', reason: 'He moved to another school before the end of term.' };

/** Presses the reports of the demo school: one is held, one is void, and a pack of them lies ready for the printer. */
export async function pressDemo(
  database: DataSource,
  {
    press,
    packs,
    rolls,
    orders,
  }: {
    readonly press: Press;
    readonly packs: Packs;
    readonly rolls: Rolls;
    readonly orders: StandingOrders;
  },
): Promise<void> {
  const { manager } = database;
  const staff = await manager.findOneByOrFail(Staff, { email: DEMO_ACCOUNT.email });
  const { schoolId, id: staffId } = staff;
  await beginOrder(manager, { rolls, orders }, { schoolId, staffId });
  const folio = await manager.findOneByOrFail(FolioRow, { schoolId, title: TITLE });
  const place = { schoolId, folioId: folio.id };
  const { run } = await press.start(schoolId, folio.id, staffId);
  if (!run) return;
  await press.ended(run.id);
  const papersOf = async (learner: string): Promise<string[]> =>
    (
      await manager.find(PaperRow, { select: { id: true }, where: { ...place, learner, state: 'pressed' } })
    ).map(({ id }) => id);
  const [held, voided] = [await papersOf(HELD.learner), await papersOf(VOID.learner)];
  await inTransaction(database, async (inside) => {
    await judgePapers(inside, { ...place, staffId, paperIds: held, hold: true, note: HELD.note });
    await voidPapers(inside, { ...place, staffId, paperIds: voided, reason: VOID.reason });
  });
  const klass = classColumn(folio.columns)?.id ?? null;
  const asked: PackAsked = {
    kind: 'print',
    who: 'all',
    sort: [],
    apart: klass,
    fronts: true,
    copies: null,
  };
  await packs.ask(place, staffId, asked);
}

/** Has an order take all whom it is for, as somebody would who has just switched it on. */
async function beginOrder(
  manager: EntityManager,
  { rolls, orders }: { readonly rolls: Rolls; readonly orders: StandingOrders },
  { schoolId, staffId }: { readonly schoolId: string; readonly staffId: string },
): Promise<void> {
  const folio = await manager.findOneByOrFail(FolioRow, { schoolId, title: ASKING });
  const place = { schoolId, folioId: folio.id };
  const order = await manager.findOneByOrFail(StandingOrderRow, place);
  const { takes } = await nextOfOrder(manager, { ...place, orderId: order.id });
  await rolls.do('runOrder', { ...place, orderId: order.id, staffId, count: takes.length });
  await orders.due(place);
}
