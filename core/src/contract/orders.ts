import { z } from 'zod';
import { Order } from '../order/index.js';
import { Id, Instant } from './common.js';

/**
 * How far an order is with a learner: `owed`, it will look; `blocked`, something has to be mended first; `pressing`; `asked`, somebody
 * is to say yes; `said yes`, about to leave; `sent`; `kept`, pressed and no more; `left`, nothing is done, and why.
 */
export const ORDER_STATES = [
  'owed',
  'blocked',
  'pressing',
  'asked',
  'said yes',
  'sent',
  'kept',
  'left',
] as const;
export const OrderState = z.enum(ORDER_STATES);
export type OrderState = z.infer<typeof OrderState>;

/** A standing order with how it goes. */
export const OrderLine = z
  .object({
    id: Id,
    order: Order,
    version: z.number().int(),
    isOn: z.boolean(),
    /** Who switched it on last, who is told and asked where nobody else is named. */
    owner: z.string().nullable(),
    /** When it acts next; null where it waits for answers, or is off. */
    nextAt: Instant.nullable(),
    /** The times after that one. */
    then: z.array(Instant),
    lastAt: Instant.nullable(),
    /** Learners that wait for a yes. */
    asked: z.number().int(),
    /** Learners that something has to be mended for. */
    blocked: z.number().int(),
    /** Learners that it will look at. */
    owed: z.number().int(),
    sent: z.number().int(),
    kept: z.number().int(),
    left: z.number().int(),
    /** Learners that it began with today. */
    today: z.number().int(),
  })
  .meta({ id: 'OrderLine' });
export type OrderLine = z.infer<typeof OrderLine>;
export const OrderList = z
  .object({
    orders: z.array(OrderLine),
    /** Who can be asked: the staff of the school. */
    staff: z.array(z.object({ id: Id, name: z.string() })),
    /** Hooks, whose answers orders act on as on those to forms. */
    hooks: z.array(z.object({ id: Id, name: z.string() })),
    /** Watched files, whose new and changed rows orders act on as on answers. */
    watched: z.array(z.object({ id: Id, name: z.string() })),
  })
  .meta({ id: 'OrderList' });
export type OrderList = z.infer<typeof OrderList>;

export const AddOrder = z.object({ id: Id, order: Order }).meta({ id: 'AddOrder' });
export const SaveOrder = z.object({ order: Order, version: z.number().int() }).meta({ id: 'SaveOrder' });
export const SwitchOrder = z.object({ isOn: z.boolean() }).meta({ id: 'SwitchOrder' });

/** What an order did, or has to do, for one learner. */
export const OrderWork = z
  .object({
    id: Id,
    entryId: Id,
    learner: z.string(),
    state: OrderState,
    /** Why nothing is done, or what is waited for. */
    why: z.string().nullable(),
    at: Instant,
    /** Until when a yes is waited for. */
    until: Instant.nullable(),
    /** Who said yes or no. */
    by: z.string().nullable(),
    papers: z.array(z.object({ id: Id, fileName: z.string() })),
  })
  .meta({ id: 'OrderWork' });
export type OrderWork = z.infer<typeof OrderWork>;
export const OrderWorkList = z
  .object({ work: z.array(OrderWork), more: z.boolean() })
  .meta({ id: 'OrderWorkList' });
export type OrderWorkList = z.infer<typeof OrderWorkList>;
export const WorkSought = z.object({ state: OrderState.optional() });

/** Whom an order would take now by `run now`, and whom it passes over, and why. */
export const OrderNext = z
  .object({
    takes: z.array(Id),
    /** By the reason, the most frequent first. */
    passed: z.array(z.object({ why: z.string(), entryIds: z.array(Id) })),
  })
  .meta({ id: 'OrderNext' });
export type OrderNext = z.infer<typeof OrderNext>;

/** How many learners somebody was shown that an order would take. */
export const RunOrder = z.object({ count: z.number().int().min(0) }).meta({ id: 'RunOrder' });
export const OrderRan = z.object({ owed: z.number().int() }).meta({ id: 'OrderRan' });

/** Somebody's word about papers that an order waits with. */
export const AnswerAsked = z
  .object({ workIds: z.array(Id).min(1).max(5000), yes: z.boolean() })
  .meta({ id: 'AnswerAsked' });
export const AnsweredAsked = z
  .object({ done: z.number().int(), passedOver: z.number().int() })
  .meta({ id: 'AnsweredAsked' });
