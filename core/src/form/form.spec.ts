import { createHash } from 'node:crypto';
import { sha256 } from '@noble/hashes/sha2.js';
import fc from 'fast-check';
import { JSDOM } from 'jsdom';
import {
  beginAnswers,
  columnIdsOf,
  columnsOfForm,
  emptyForm,
  Form,
  type FormItem,
  formPlain,
  hasWorked,
  OTHER,
  pagesOf,
  PROBLEM_WORDS,
  problemSays,
  problemsOf,
  readAnswers,
  shownItems,
  withOwnIdentities,
  workFor,
} from './index.js';

const W = (en: string, de?: string): Record<string, string> => ({ en, ...(de ? { de } : {}) });
const choice = (id: string, en: string, de?: string) => ({ id, label: W(en, de) });
const asked = (id: string, en: string) => ({ id, label: W(en), required: false });
const short = (more: object = {}): FormItem => ({ kind: 'short', ...asked('q', 'Q'), ...more }) as FormItem;
const formOf = (...items: FormItem[]): Form =>
  Form.parse({ ...emptyForm('A form', 'en'), languages: ['en', 'de'], items });

const bridge = formOf(
  { kind: 'name', ...asked('who', 'Name'), required: true, givenId: 'given', familyId: 'family' },
  {
    kind: 'one',
    ...asked('bridge', 'Which bridge?'),
    choices: [choice('arch', 'Arch', 'Bogen'), choice('truss', 'Truss')],
    other: true,
    look: 'list',
  },
  { kind: 'page', id: 'page2', shownIf: { columnId: 'bridge', is: 'not blank', values: [] } },
  {
    kind: 'several',
    ...asked('liked', 'What did you like?'),
    choices: [choice('draw', 'Drawing; planning'), choice('break', 'Breaking')],
    other: false,
    shownIf: { columnId: 'bridge', is: 'equal', values: ['Arch'] },
  },
  {
    kind: 'short',
    ...asked('why', 'Why?'),
    shownIf: { columnId: 'liked', is: 'contains', values: ['Breaking'] },
  },
  {
    kind: 'grid',
    ...asked('grid', 'How well?'),
    rows: [choice('r1', 'Planning'), choice('r2', 'Building')],
    choices: [choice('w', 'well'), choice('b', 'badly')],
    several: false,
  },
);

const codes = (item: FormItem, value: string | string[], columnId = 'q'): string[] =>
  problemsOf(item, { [columnId]: value }).map(({ code }) => code);

describe('columns', () => {
  it('are those of the questions, by their identities, titled in the first language', () => {
    expect(columnsOfForm(bridge).map(({ id, title, type }) => [id, title, type])).toEqual([
      ['given', 'First name', undefined],
      ['family', 'Surname', undefined],
      ['bridge', 'Which bridge?', 'choice'],
      ['liked', 'What did you like?', 'several choices'],
      ['why', 'Why?', undefined],
      ['r1', 'How well?: Planning', 'choice'],
      ['r2', 'How well?: Building', 'choice'],
    ]);
  });

  it('can be one that the roll had before', () => {
    const item = short({ columnId: 'email' });
    expect(columnIdsOf(item)).toEqual(['email']);
    expect(readAnswers(formOf(item), { email: 'x', q: 'y' }).values).toEqual({ email: 'x' });
  });
});

describe('what is asked', () => {
  it('goes by the answers before, page by page', () => {
    const ids = (given: object): (string | null)[][] =>
      pagesOf(bridge, given as never).map(({ id, items }) => [id, ...items.map((one) => one.id)]);
    expect(ids({})).toEqual([[null, 'who', 'bridge']]);
    expect(ids({ bridge: 'arch' })).toEqual([
      [null, 'who', 'bridge'],
      ['page2', 'liked', 'grid'],
    ]);
    expect(ids({ bridge: 'arch', liked: ['break'] })[1]).toEqual(['page2', 'liked', 'why', 'grid']);
  });

  it('does not hang on what is not asked any more', () => {
    const given = { bridge: 'truss', liked: ['break'], why: 'fun' };
    expect(shownItems(bridge, given).map(({ id }) => id)).not.toContain('why');
    expect(readAnswers(bridge, given).values).not.toHaveProperty('why');
  });
});

describe('reading', () => {
  it('makes cells of answers: choices by their words, several with what stands between', () => {
    const { values, problems } = readAnswers(bridge, {
      given: ' Ada ',
      family: 'Ærø',
      bridge: 'arch',
      liked: ['draw', 'break'],
      why: 'It cracked',
      r1: 'w',
      r2: 'b',
      unknown: 'x',
      constructor: 'x',
    });
    expect(problems).toEqual([]);
    expect(values).toEqual({
      given: 'Ada',
      family: 'Ærø',
      bridge: 'Arch',
      // What stands between answers cannot stand in one.
      liked: 'Drawing, planning; Breaking',
      why: 'It cracked',
      r1: 'well',
      r2: 'badly',
    });
  });

  it('puts between several answers what the column that was there before has between them', () => {
    const given = { given: 'A', bridge: 'arch', liked: ['draw', 'break'] };
    expect(readAnswers(bridge, given, () => ',').values['liked']).toBe('Drawing; planning, Breaking');
  });

  it('takes what was written instead of the choices, where that is offered', () => {
    const other = `${OTHER} Rope bridge `;
    expect(readAnswers(bridge, { given: 'A', bridge: other }).values['bridge']).toBe('Rope bridge');
    const closed = { ...(bridge.items[1] as Extract<FormItem, { kind: 'one' }>), other: false };
    expect(codes(closed, other, 'bridge')).toEqual(['no-choice']);
  });

  it.each([
    ['needed', short({ required: true }), ' ', 'missing'],
    ['too long, counted as people count', short({ most: 2 }), '👍👍👍', 'too-long'],
    ['short enough', short({ most: 2 }), '👍👍', undefined],
    ['too short', short({ least: 3 }), 'ab', 'too-short'],
    ['digits alone', short({ rule: { is: 'only', of: 'digits' } }), '12a', 'only-digits'],
    ['letters of any script', short({ rule: { is: 'only', of: 'letters' } }), 'Łukasz O’Neil', undefined],
    ['at the beginning', short({ rule: { is: 'begins with', text: 'TQ' } }), 'tq-12', undefined],
    ['not at the beginning', short({ rule: { is: 'begins with', text: 'TQ' } }), '12-tq', 'begins'],
    ['no number', { kind: 'number', ...asked('q', 'Q'), whole: false } as FormItem, '1e3', 'no-number'],
    ['not whole', { kind: 'number', ...asked('q', 'Q'), whole: true } as FormItem, '1.5', 'no-whole'],
    ['whole after all', { kind: 'number', ...asked('q', 'Q'), whole: true } as FormItem, '2.0', undefined],
    [
      'no such day',
      { kind: 'date', ...asked('q', 'Q'), withTime: false } as FormItem,
      '2026-02-30',
      'no-day',
    ],
    [
      'a day of a leap year',
      { kind: 'date', ...asked('q', 'Q'), withTime: false } as FormItem,
      '2028-02-29',
      undefined,
    ],
    [
      'a time is missing',
      { kind: 'date', ...asked('q', 'Q'), withTime: true } as FormItem,
      '2026-02-03T',
      'no-day',
    ],
    ['no time', { kind: 'time', ...asked('q', 'Q') } as FormItem, '24:00', 'no-time'],
    ['beyond the scale', { kind: 'scale', ...asked('q', 'Q'), from: 1, to: 5 } as FormItem, '6', 'no-choice'],
    ['no address', { kind: 'email', ...asked('q', 'Q') } as FormItem, 'ada@', 'no-email'],
    ['no telephone', { kind: 'phone', ...asked('q', 'Q') } as FormItem, '12', 'no-phone'],
    ['no consent', { kind: 'consent', ...asked('q', 'Q'), required: true } as FormItem, '', 'agree'],
  ])('%s', (_, item, value, code) => {
    expect(codes(item, value)).toEqual(code ? [code] : []);
  });

  it('lets a name be of one part', () => {
    expect(readAnswers(bridge, { given: '', family: 'Suharto' }).problems).toEqual([]);
    expect(readAnswers(bridge, {}).problems.map(({ columnId, code }) => [columnId, code])).toEqual([
      ['given', 'missing'],
      ['family', 'missing'],
    ]);
  });

  it('never throws, and gives cells of what is asked alone', () => {
    const value = fc.oneof(fc.string(), fc.array(fc.string(), { maxLength: 4 }));
    const ids = bridge.items.flatMap(columnIdsOf);
    const given = fc.dictionary(fc.oneof(fc.constantFrom(...ids), fc.string()), value);
    fc.assert(
      fc.property(given, (some) => {
        const { values } = readAnswers(bridge, some);
        const shown = shownItems(bridge, some).flatMap(columnIdsOf);
        expect(Object.keys(values).sort()).toEqual([...shown].sort());
      }),
    );
  });
});

// HTML Living Standard, 4.10.21: what a browser itself says of the same box, with jsdom's reading of it.
describe('agrees with the constraint validation of HTML', () => {
  const { document } = new JSDOM('').window;
  const isValid = (attributes: Record<string, string>, value: string): boolean => {
    const box = document.createElement('input');
    for (const [name, text] of Object.entries(attributes)) box.setAttribute(name, text);
    box.value = value;
    // What a box does not hold at all is not a value of its kind.
    return box.value === value && box.checkValidity();
  };

  it('on numbers between two', () => {
    const number = {
      kind: 'number',
      ...asked('q', 'Q'),
      least: '-2.5',
      most: '40',
      whole: false,
    } as FormItem;
    const box = { type: 'number', min: '-2.5', max: '40', step: 'any' };
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 5000 }), (n) => {
        const text = String(n / 100);
        expect(problemsOf(number, { q: text }).length === 0).toBe(isValid(box, text));
      }),
    );
  });

  it('on days and times between two', () => {
    const day = {
      kind: 'date',
      ...asked('q', 'Q'),
      first: '2026-02-10',
      last: '2026-03-05',
      withTime: false,
    } as FormItem;
    const time = { kind: 'time', ...asked('q', 'Q'), first: '08:30', last: '15:15' } as FormItem;
    const two = (n: number): string => String(n).padStart(2, '0');
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 33 }), (month, n) => {
        const text = `2026-${two(month)}-${two(n)}`;
        const valid = isValid({ type: 'date', min: '2026-02-10', max: '2026-03-05' }, text);
        expect(problemsOf(day, { q: text }).length === 0).toBe(valid);
      }),
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 25 }), fc.integer({ min: 0, max: 61 }), (hour, minute) => {
        const text = `${two(hour)}:${two(minute)}`;
        const valid = isValid({ type: 'time', min: '08:30', max: '15:15' }, text);
        expect(problemsOf(time, { q: text }).length === 0).toBe(valid);
      }),
    );
  });
});

describe('a link', () => {
  const form = formOf(
    short({ prefill: 'class', initial: '8A' }),
    {
      kind: 'several',
      ...asked('s', 'S'),
      prefill: 'liked',
      choices: [choice('d', 'Drawing', 'Zeichnen'), choice('b', 'Building')],
      other: false,
    },
    { kind: 'number', ...asked('n', 'N'), prefill: 'age', whole: true, most: '20' },
  );

  it('brings answers along, by their words in any language of the form, and passes over what does not fit', () => {
    const at = (link: string): object => beginAnswers(form, new URLSearchParams(link));
    expect(at('')).toEqual({ q: '8A' });
    expect(at('class=8B&liked=zeichnen&liked=b&liked=x&age=12')).toEqual({ q: '8B', s: ['d', 'b'], n: '12' });
    expect(at('age=<script>&age=99&liked=nothing')).toEqual({ q: '8A' });
  });
});

test('every language has every sentence, with its limit in it', () => {
  const { en, ...others } = PROBLEM_WORDS;
  for (const sentences of Object.values(others))
    for (const [code, sentence] of Object.entries(en!)) {
      const other = (sentences as Record<string, string>)[code];
      expect(other).toBeTruthy();
      expect(other!.includes('{}')).toBe(sentence.includes('{}'));
    }
  const says = (code: 'day-late' | 'begins', limit: string, language: string): string =>
    problemSays({ itemId: 'q', columnId: 'q', code, limit }, language);
  expect(says('day-late', '2026-03-05', 'de-DE')).toBe('Bitte wählen Sie 5. März 2026 oder früher.');
  // Languages that the page does not speak get English; what people typed is not taken for a pattern.
  expect(says('begins', '$&', 'cy')).toBe('This has to begin with “$&”.');
});

test('a copy has identities of its own, in its conditions too', () => {
  let n = 0;
  const copy = withOwnIdentities(bridge, () => `own${++n}`);
  const ids = new Set(bridge.items.flatMap((item) => [item.id, ...columnIdsOf(item)]));
  expect(JSON.stringify(copy.items.map((item) => [item.id, ...columnIdsOf(item)]))).not.toMatch(
    new RegExp(`"(${[...ids].join('|')})"`),
  );
  const [, one, , several] = copy.items;
  expect(several!.shownIf).toEqual({ columnId: one!.id, is: 'equal', values: ['Arch'] });
  expect(formPlain(copy)).toBe(formPlain(bridge));
});

test('a form has each identity, each column and each language once', () => {
  const twice = { ...bridge, items: [...bridge.items, bridge.items[0]] };
  expect(Form.safeParse(twice).success).toBe(false);
  expect(Form.safeParse({ ...bridge, languages: ['en', 'en'] }).success).toBe(false);
  const column = { ...short({ columnId: 'bridge' }), id: 'other' };
  expect(Form.safeParse({ ...bridge, items: [...bridge.items, column] }).success).toBe(false);
});

test('work for a ticket is found by trying, and looked at with another library', () => {
  const nonce = workFor('ticket', { bits: 8, from: 0, tries: 100_000 }, sha256)!;
  const other = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();
  expect(hasWorked('ticket', nonce, 8, other)).toBe(true);
  expect(hasWorked('another', nonce, 24, other)).toBe(false);
  expect(hasWorked('ticket', '../..', 0, other)).toBe(false);
  expect(workFor('ticket', { bits: 250, from: 0, tries: 10 }, sha256)).toBeNull();
});
