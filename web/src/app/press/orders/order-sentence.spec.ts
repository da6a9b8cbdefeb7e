import type { Column } from '@scriptum/core/column';
import { emptyOrder, Order } from '@scriptum/core/order';
import type { SentencePiece } from '../../ui/sentence/sentence-piece';
import { changeOrder, orderSentence, type OrderSurroundings } from './order-sentence';

const columns: Column[] = [
  { id: 'name01', title: 'Name' },
  { id: 'back01', title: 'Back on', type: 'date' },
];
const around: OrderSurroundings = {
  columns,
  entry: undefined,
  forms: [{ id: 'form01', name: 'Sign-up' }],
  staff: [
    { id: 'staff01', name: 'Office' },
    { id: 'staff02', name: 'Head' },
  ],
};
const textOf = (pieces: readonly SentencePiece[]): string =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text)).join('');
const say = (order: Order): string => textOf(orderSentence(order, around));
const changed = (...changes: [string, string][]): Order =>
  changes.reduce((now, [id, value]) => changeOrder(now, { id, value }, around), emptyOrder('Order'));

test('every way to begin can be chosen, is an order, and reads as a sentence', () => {
  const [, , ...others] = orderSentence(emptyOrder('Order'), around);
  expect(others.length).toBeGreaterThan(0);
  const when = orderSentence(emptyOrder('Order'), around).find(
    (piece) => typeof piece !== 'string' && piece.id === 'when',
  );
  const options = typeof when === 'object' ? when.options : [];
  expect(options).toHaveLength(7);
  for (const { value } of options)
    for (const then of ['ask', 'send', 'keep']) {
      const order = changed(['when', value], ['then', then]);
      expect(Order.safeParse(order).success).toBe(true);
      expect(say(order)).not.toMatch(/undefined|null|NaN|\s\s| \./);
    }
});

test('what is chosen or typed is what the order says afterwards', () => {
  expect(say(changed(['form', 'form01'], ['then', 'send'], ['most', '50']))).toBe(
    'On every new answer to Sign-up, for everybody, press what the sorting says, then send them with their notes.\nIt takes 50 learners at the most a day.',
  );
  const weekly = changed(
    ['when', 'weekly'],
    ['days', '1,3'],
    ['at 0', '8.05'],
    ['at more', '15:30'],
    ['missed', 'skip'],
  );
  expect(weekly.when).toEqual({ kind: 'weekly', days: [1, 3], at: ['08:05', '15:30'] });
  expect(say(weekly)).toContain('On Monday and Wednesday ± at 08:05 and 15:30 +, for everybody');
  expect(say(weekly)).toContain('are left out.');
  expect(changeOrder(weekly, { id: 'at 1', value: 'out' }, around).when).toMatchObject({ at: ['08:05'] });
  expect(say(changed(['when', 'day'], ['after', '−3']))).toContain(
    'On 3 days before the day in Back on at 08:00',
  );
  expect(changed(['when', 'hourly'], ['from', '18']).when).toMatchObject({ from: 16, to: 18 });
  expect(say(changed(['when', 'monthly']))).toContain('On the last day of each month at 15:30');
  expect(
    say(changed(['staff', 'staff02'], ['staff', 'staff01'], ['hours', '4'], ['else', 'send'])),
  ).toContain(
    'wait for a yes of Head or Office within 4 hours, and send them with their notes; else send them even so.',
  );
  expect(say(changed(['whom', 'if'], ['with 0', 'Ada']))).toContain('if Name is Ada +, press');
});

test('what cannot be taken changes nothing', () => {
  const order = changed(['when', 'weekly']);
  for (const [id, value] of [
    ['at 0', '25:00'],
    ['at more', 'noon'],
    ['most', '0'],
    ['most', 'many'],
    ['after', '3'],
    ['hours', '4'],
  ] as const)
    if (id !== 'hours') expect(changeOrder(order, { id, value }, around)).toEqual(order);
  expect(changeOrder(changed(['when', 'day']), { id: 'after', value: '1000' }, around).when).toMatchObject({
    after: 0,
  });
});
