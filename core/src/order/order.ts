import { z } from 'zod';
import { Identity } from '../column/index.js';
import { Condition, sizeOfAll } from '../condition/index.js';

/** What an order may hold. */
export const ORDER_LIMITS = {
  /** Orders of a folio. */
  orders: 30,
  /** Times of a day. */
  times: 12,
  /** Days before or after the day that stands in a row. */
  days: 366,
  /** Hours for which a person is waited for: 60 days. */
  wait: 1440,
  /** People who are asked. */
  asked: 10,
  /** Tests in its condition. */
  tests: 100,
  /** Learners a day. */
  perDay: 100_000,
} as const;

/** A time of the day by the school's clocks, `15:30`. */
export const ClockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is hours and minutes: 15:30.');
/** Days of the week, Monday is 1 (ISO 8601). */
const Weekdays = z.array(z.number().int().min(1).max(7)).min(1, 'Choose at least one day.').max(7);

/** When an order acts, by the clocks of the school. */
export const OrderWhen = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('answer'),
    which: z.enum(['new', 'changed', 'both']),
    /** The form; null for every form of the folio. */
    formId: Identity.nullable(),
  }),
  z.object({
    kind: z.literal('weekly'),
    days: Weekdays,
    at: z.array(ClockTime).min(1).max(ORDER_LIMITS.times),
  }),
  /** On the hour, from the first to the last. */
  z.object({
    kind: z.literal('hourly'),
    days: Weekdays,
    from: z.number().int().min(0).max(23),
    to: z.number().int().min(0).max(23),
  }),
  /** A day of each month; 0 is the last. Months that have no such day are passed over (RFC 5545, 3.3.10). */
  z.object({ kind: z.literal('monthly'), day: z.number().int().min(0).max(31), at: ClockTime }),
  /** When the day comes that stands in a row, or so many days before (below 0) or after. */
  z.object({
    kind: z.literal('day'),
    columnId: Identity,
    after: z.number().int().min(-ORDER_LIMITS.days).max(ORDER_LIMITS.days),
    at: ClockTime,
  }),
]);
export type OrderWhen = z.infer<typeof OrderWhen>;

/** What becomes of papers once they are pressed. */
export const OrderThen = z.discriminatedUnion('kind', [
  /** They lie in the register. */
  z.object({ kind: z.literal('keep') }),
  /** They leave with the notes that sorting says. */
  z.object({ kind: z.literal('send') }),
  /** Somebody is asked, and they leave once one says yes. */
  z.object({
    kind: z.literal('ask'),
    /** Who is asked; nobody for whoever switched the order on. */
    staff: z.array(Identity).max(ORDER_LIMITS.asked),
    hours: z.number().int().min(1).max(ORDER_LIMITS.wait),
    /** What becomes of them where nobody says a word in time. */
    else: z.enum(['keep', 'send']),
  }),
]);
export type OrderThen = z.infer<typeof OrderThen>;

/** A press, and perhaps a dispatch, that happens by itself. */
export const Order = z
  .object({
    name: z.string().trim().min(1, 'Give the order a name.').max(200),
    when: OrderWhen,
    /** For whom; null for everybody. */
    if: Condition.nullable(),
    then: OrderThen,
    /** Learners a day at the most; null for any number. */
    most: z.number().int().min(1).max(ORDER_LIMITS.perDay).nullable(),
    /** What becomes of times that passed while no server ran: they are made up for once, or left out. */
    missed: z.enum(['once', 'skip']),
  })
  .refine(({ if: condition }) => !condition || sizeOfAll([condition]) <= ORDER_LIMITS.tests, {
    path: ['if'],
    message: `The condition of an order may have ${ORDER_LIMITS.tests} parts.`,
  })
  .refine(({ when }) => when.kind !== 'hourly' || when.from <= when.to, {
    path: ['when'],
    message: 'The first hour lies behind the last one.',
  })
  .meta({ id: 'Order' });
export type Order = z.infer<typeof Order>;

/** An order to begin with: on every new answer, and somebody says yes first. */
export const emptyOrder = (name: string): Order => ({
  name,
  when: { kind: 'answer', which: 'new', formId: null },
  if: null,
  then: { kind: 'ask', staff: [], hours: 72, else: 'keep' },
  most: null,
  missed: 'once',
});
