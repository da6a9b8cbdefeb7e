import type { Column } from '@scriptum/core/column';
import { ORDER_LIMITS, type Order, type OrderThen, type OrderWhen } from '@scriptum/core/order';
import {
  addPart,
  changePart,
  flatOf,
  flatPieces,
  newTest,
  titleOf,
  type ConditionSurroundings,
} from '../../editor/condition-sentence';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../../ui/sentence/sentence-piece';

/** What an order's sentence is made for. */
export interface OrderSurroundings extends ConditionSurroundings {
  /** Whose answers come: forms, other services, and watched files, of which each row is one. */
  readonly forms: readonly { readonly id: string; readonly name: string; readonly isFile?: boolean }[];
  readonly staff: readonly { readonly id: string; readonly name: string }[];
}

const WHENS: readonly SentenceOption[] = [
  { value: 'answer new', label: 'every new answer' },
  { value: 'answer both', label: 'every new or changed answer' },
  { value: 'answer changed', label: 'every changed answer' },
  { value: 'weekly', label: 'days of the week', hint: 'at set times' },
  { value: 'hourly', label: 'every hour', hint: 'from one hour to another' },
  { value: 'monthly', label: 'a day of each month' },
  { value: 'day', label: 'the day in a row', hint: 'or some days before or after' },
];

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const SCHOOL_DAYS = [1, 2, 3, 4, 5];
const EVERY_DAY = [1, 2, 3, 4, 5, 6, 7];
const DAYS_AFTER = [-28, -14, -7, -3, -2, -1, 0, 1, 2, 3, 7, 14, 28];
const WAITS = [1, 4, 24, 48, 72, 120, 168, 336, 720];
const TYPED_TIME = /^([01]?\d|2[0-3])[:.]([0-5]\d)$/;

const part = (
  id: string,
  label: string,
  text: string,
  options: readonly SentenceOption[],
  more: Partial<SentencePart> = {},
): SentencePart => ({ id, label, text, value: '', options, ...more });

/** An order as sentences: when, for whom, what then; the last line says how much and what of times that were missed. */
export function orderSentence(order: Order, around: OrderSurroundings): SentencePiece[] {
  return [
    ...whenPieces(order.when, around),
    ', ',
    ...whomPieces(order, around),
    ', press what the sorting says, then ',
    ...thenPieces(order.then, around),
    '.',
    '\n',
    'It takes ',
    part(
      'most',
      'how many learners a day',
      order.most === null ? 'any number of learners' : `${order.most} learners at the most`,
      [{ value: '', label: 'any number of learners' }],
      { value: String(order.most ?? ''), typed: 'So many learners at the most' },
    ),
    ' a day',
    ...(order.when.kind === 'answer'
      ? ['.']
      : [
          '. Times that pass while Scriptum is not running are ',
          part(
            'missed',
            'what becomes of times that were missed',
            order.missed === 'once' ? 'made up for once' : 'left out',
            [
              { value: 'once', label: 'made up for once' },
              { value: 'skip', label: 'left out' },
            ],
            { value: order.missed },
          ),
          '.',
        ]),
  ];
}

function whenPieces(when: OrderWhen, around: OrderSurroundings): SentencePiece[] {
  const value = when.kind === 'answer' ? `answer ${when.which}` : when.kind;
  const kind = (text: string): SentencePart => part('when', 'when it acts', text, WHENS, { value });
  switch (when.kind) {
    case 'answer': {
      const said = WHENS.find((one) => one.value === value)!.label;
      const form = around.forms.find(({ id }) => id === when.formId);
      return [
        'On ',
        kind(form?.isFile ? said.replace('answer', 'row') : said),
        form?.isFile ? ' in ' : ' to ',
        part(
          'form',
          'which form',
          when.formId === null ? 'any form' : (form?.name ?? 'a form that is gone'),
          [
            { value: '', label: 'any form' },
            ...around.forms.map(({ id, name }) => ({ value: id, label: name })),
          ],
          { value: when.formId ?? '', ...(when.formId !== null && !form ? { look: 'missing' } : {}) },
        ),
      ];
    }
    case 'weekly':
      return ['On ', kind(daysText(when.days)), ' ', daysPart(when.days), ' at ', ...timePieces(when.at)];
    case 'hourly':
      return [
        kind('Every hour'),
        ' from ',
        hourPart('from', when.from),
        ' to ',
        hourPart('to', when.to),
        ' on ',
        part('days', 'on which days', daysText(when.days), daysOptions(when.days)),
      ];
    case 'monthly':
      return [
        'On ',
        part(
          'monthday',
          'the day of the month',
          when.day === 0 ? 'the last day' : `day ${when.day}`,
          [
            { value: '0', label: 'the last day' },
            ...Array.from({ length: 31 }, (_, n) => ({ value: String(n + 1), label: `day ${n + 1}` })),
          ],
          { value: String(when.day) },
        ),
        ' of ',
        kind('each month'),
        ' at ',
        timePart('at', when.at),
      ];
    case 'day':
      return [
        'On ',
        part(
          'after',
          'how many days before or after',
          afterText(when.after),
          DAYS_AFTER.map((days) => ({ value: String(days), label: afterText(days) })),
          { value: String(when.after), typed: 'So many days after (−3 for before)' },
        ),
        ' ',
        kind('the day'),
        ' in ',
        part(
          'column',
          'the column with the day',
          titleOf(when.columnId, around.columns) ?? 'choose a column',
          daysFirst(around.columns).map(({ id, title }) => ({ value: id, label: title })),
          {
            value: when.columnId,
            ...(titleOf(when.columnId, around.columns) === null ? { look: 'missing' } : {}),
          },
        ),
        ' at ',
        timePart('at', when.at),
      ];
  }
}

const daysFirst = (columns: readonly Column[]): Column[] =>
  [...columns].sort((a, b) => Number(isDay(b)) - Number(isDay(a)));
const isDay = ({ type }: Column): boolean => type === 'date' || type === 'date-time';

const afterText = (days: number): string =>
  days === 0
    ? 'on'
    : `${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'} ${days < 0 ? 'before' : 'after'}`;

function daysText(days: readonly number[]): string {
  const own = [...days].sort();
  if (own.join() === EVERY_DAY.join()) return 'every day';
  if (own.join() === SCHOOL_DAYS.join()) return 'Monday to Friday';
  const names = own.map((day) => WEEKDAYS[day - 1]!);
  return names.length === 1 ? names[0]! : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`;
}

function daysOptions(days: readonly number[]): SentenceOption[] {
  const one = (day: number): SentenceOption => {
    const others = days.includes(day) ? days.filter((other) => other !== day) : [...days, day];
    return {
      value: others.join(','),
      label: `${days.includes(day) ? 'not on' : 'on'} ${WEEKDAYS[day - 1]!}`,
    };
  };
  return [
    { value: SCHOOL_DAYS.join(','), label: 'Monday to Friday' },
    { value: EVERY_DAY.join(','), label: 'every day' },
    ...EVERY_DAY.map(one).filter(({ value }) => value !== ''),
  ];
}

/** Other days, behind the words that say which there are. */
const daysPart = (days: readonly number[]): SentencePart =>
  part('days', 'other days', '±', daysOptions(days), { look: 'add' });

const timePart = (id: string, at: string): SentencePart =>
  part(
    id,
    'at what time',
    at,
    ['07:00', '08:00', '12:00', '15:30', '18:00'].map((time) => ({ value: time, label: time })),
    { value: at, typed: 'At this time' },
  );

function timePieces(times: readonly string[]): SentencePiece[] {
  const pieces = times.flatMap((at, n): SentencePiece[] => [
    n === 0 ? '' : n === times.length - 1 ? ' and ' : ', ',
    {
      ...timePart(`at ${n}`, at),
      ...(times.length > 1
        ? { options: [{ value: 'out', label: 'Take this out' }, ...timePart('', at).options] }
        : {}),
    },
  ]);
  if (times.length < ORDER_LIMITS.times)
    pieces.push(' ', { ...timePart('at more', ''), label: 'another time', text: '+', look: 'add' });
  return pieces.filter((piece) => piece !== '');
}

const hourPart = (id: string, hour: number): SentencePart =>
  part(
    id,
    id === 'from' ? 'the first hour' : 'the last hour',
    `${hour}:00`,
    Array.from({ length: 24 }, (_, n) => ({ value: String(n), label: `${n}:00` })),
    { value: String(hour) },
  );

function whomPieces({ if: condition }: Order, around: OrderSurroundings): SentencePiece[] {
  const whom = part(
    'whom',
    'for whom it is',
    condition === null ? 'for everybody' : 'if',
    [
      { value: 'all', label: 'for everybody' },
      { value: 'if', label: 'if …', hint: 'those for whom something holds' },
    ],
    { value: condition === null ? 'all' : 'if' },
  );
  const flat = condition && flatOf(condition);
  if (!condition) return [whom];
  return flat
    ? [whom, ' ', ...flatPieces(flat, around), ' ', addPart(flat)]
    : [whom, ' a condition of several kinds holds'];
}

function thenPieces(then: OrderThen, around: OrderSurroundings): SentencePiece[] {
  const kind = part(
    'then',
    'what becomes of the papers',
    then.kind === 'ask'
      ? 'wait for a yes'
      : then.kind === 'send'
        ? 'send them with their notes'
        : 'leave them in the register',
    [
      { value: 'ask', label: 'wait for a yes', hint: 'and send them then' },
      { value: 'send', label: 'send them with their notes', hint: 'at once, by itself' },
      { value: 'keep', label: 'leave them in the register', hint: 'nothing is sent' },
    ],
    { value: then.kind },
  );
  if (then.kind !== 'ask') return [kind];
  return [
    kind,
    ' of ',
    ...staffPieces(then.staff, around),
    ' within ',
    part(
      'hours',
      'how long it waits',
      waitText(then.hours),
      WAITS.map((hours) => ({ value: String(hours), label: waitText(hours) })),
      { value: String(then.hours) },
    ),
    ', and send them with their notes; else ',
    part(
      'else',
      'what becomes of them without a word',
      then.else === 'keep' ? 'leave them in the register' : 'send them even so',
      [
        { value: 'keep', label: 'leave them in the register' },
        { value: 'send', label: 'send them even so' },
      ],
      { value: then.else },
    ),
  ];
}

const waitText = (hours: number): string =>
  hours % 24 === 0
    ? `${hours / 24} ${hours === 24 ? 'day' : 'days'}`
    : `${hours} ${hours === 1 ? 'hour' : 'hours'}`;

function staffPieces(staff: readonly string[], { staff: all }: OrderSurroundings): SentencePiece[] {
  const nameOf = (id: string): string => all.find((one) => one.id === id)?.name ?? 'somebody who is gone';
  const left = all
    .filter(({ id }) => !staff.includes(id))
    .map(({ id, name }) => ({ value: id, label: name }));
  if (staff.length === 0) return [part('staff', 'who is asked', 'whoever switched it on', left)];
  return [
    ...staff.flatMap((id, n): SentencePiece[] => [
      n === 0 ? '' : ' or ',
      part(
        `staff ${n}`,
        'who is asked',
        nameOf(id),
        [{ value: 'out', label: 'Take this out' }, { value: id, label: nameOf(id) }, ...left],
        { value: id },
      ),
    ]),
    ...(left.length > 0 && staff.length < ORDER_LIMITS.asked
      ? [' ', part('staff', 'somebody else too', '+', left, { look: 'add' })]
      : []),
  ].filter((piece) => piece !== '');
}

/** The order with what was chosen in a part of its sentence; the same where it cannot be taken. */
export function changeOrder(order: Order, change: SentenceChange, around: OrderSurroundings): Order {
  const [name = '', at = ''] = change.id.split(' ');
  const { value } = change;
  switch (name) {
    case 'when':
      return { ...order, when: newWhen(value, around) };
    case 'whom': {
      const [first] = around.columns;
      return { ...order, if: value === 'all' || !first ? null : (order.if ?? newTest(first.id)) };
    }
    case 'then':
      return { ...order, then: newThen(value as OrderThen['kind']) };
    case 'most': {
      const most = Number(value);
      if (value === '') return { ...order, most: null };
      const isNumber = Number.isInteger(most) && most >= 1 && most <= ORDER_LIMITS.perDay;
      return isNumber ? { ...order, most } : order;
    }
    case 'missed':
      return { ...order, missed: value as Order['missed'] };
    case 'staff':
    case 'hours':
    case 'else':
      return order.then.kind === 'ask' ? { ...order, then: changeAsk(order.then, name, at, value) } : order;
    case 'form':
    case 'days':
    case 'at':
    case 'from':
    case 'to':
    case 'monthday':
    case 'after':
    case 'column':
      return { ...order, when: changeWhen(order.when, name, at, value) };
    default:
      return { ...order, if: changePart(order.if, change, around) };
  }
}

function newWhen(value: string, { columns }: OrderSurroundings): OrderWhen {
  const [kind, which] = value.split(' ');
  switch (kind) {
    case 'answer':
      return { kind, which: which as 'new' | 'changed' | 'both', formId: null };
    case 'hourly':
      return { kind, days: SCHOOL_DAYS, from: 8, to: 16 };
    case 'monthly':
      return { kind, day: 0, at: '15:30' };
    case 'day':
      return { kind, columnId: daysFirst(columns)[0]?.id ?? 'none', after: 0, at: '08:00' };
    default:
      return { kind: 'weekly', days: SCHOOL_DAYS, at: ['15:30'] };
  }
}

function newThen(kind: OrderThen['kind']): OrderThen {
  return kind === 'ask' ? { kind, staff: [], hours: 72, else: 'keep' } : { kind };
}

function changeAsk(
  then: Extract<OrderThen, { kind: 'ask' }>,
  name: 'staff' | 'hours' | 'else',
  at: string,
  value: string,
): OrderThen {
  if (name === 'hours') return { ...then, hours: Number(value) };
  if (name === 'else') return { ...then, else: value as 'keep' | 'send' };
  if (at === '') return { ...then, staff: [...then.staff, value] };
  return {
    ...then,
    staff: then.staff.flatMap((id, n) => (n === Number(at) ? (value === 'out' ? [] : [value]) : [id])),
  };
}

function changeWhen(when: OrderWhen, name: string, at: string, value: string): OrderWhen {
  switch (name) {
    case 'form':
      return when.kind === 'answer' ? { ...when, formId: value || null } : when;
    case 'days':
      return 'days' in when ? { ...when, days: value.split(',').map(Number).sort() } : when;
    case 'from':
    case 'to': {
      if (when.kind !== 'hourly') return when;
      const changed = { ...when, [name]: Number(value) };
      return changed.from <= changed.to ? changed : { ...changed, from: changed.to, to: changed.from };
    }
    case 'monthday':
      return when.kind === 'monthly' ? { ...when, day: Number(value) } : when;
    case 'after': {
      const days = Number(value.replace('−', '-'));
      const isNumber = value !== '' && Number.isInteger(days) && Math.abs(days) <= ORDER_LIMITS.days;
      return when.kind === 'day' && isNumber ? { ...when, after: days } : when;
    }
    case 'column':
      return when.kind === 'day' ? { ...when, columnId: value } : when;
    default:
      return changeTime(when, at, value);
  }
}

function changeTime(when: OrderWhen, at: string, value: string): OrderWhen {
  const [, hours, minutes] = TYPED_TIME.exec(value.trim()) ?? [];
  const time = hours ? `${hours.padStart(2, '0')}:${minutes}` : null;
  if (when.kind === 'monthly' || when.kind === 'day') return time ? { ...when, at: time } : when;
  if (when.kind !== 'weekly') return when;
  if (value === 'out') return { ...when, at: when.at.filter((_, n) => n !== Number(at)) };
  if (!time) return when;
  const times = at === 'more' ? [...when.at, time] : when.at.map((one, n) => (n === Number(at) ? time : one));
  return { ...when, at: [...new Set(times)].sort() };
}
