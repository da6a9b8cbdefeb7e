export { dayOf } from './day-of.js';
export { ClockTime, emptyOrder, Order, ORDER_LIMITS, OrderThen, OrderWhen } from './order.js';
export { type Due, dueAt, MISSED_AFTER, nextTime, recurrencesOf, type TimedWhen } from './times.js';
