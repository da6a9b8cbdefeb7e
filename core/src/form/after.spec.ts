import { MarkingKey } from '../column/index.js';
import {
  answersTold,
  emptyForm,
  Form,
  formForAnswering,
  isKeyOfForm,
  keyOfForm,
  marksOf,
  OTHER,
  withOwnIdentities,
} from './index.js';
import type { FormItem } from './index.js';

const W = (en: string, de?: string): Record<string, string> => ({ en, ...(de ? { de } : {}) });
const asked = (id: string, en: string, de?: string) => ({ id, label: W(en, de), required: false });
const choice = (id: string, en: string, de?: string) => ({ id, label: W(en, de) });
const formOf = (...items: FormItem[]): Form =>
  Form.parse({ ...emptyForm('Quiz', 'en'), languages: ['en', 'de'], items });
const capital = (right: string[], points = '2'): FormItem => ({
  kind: 'one',
  ...asked('capital', 'Capital?', 'Hauptstadt?'),
  choices: [choice('a', 'Paris'), choice('b', 'paris'), choice('c', 'Lyon', 'Lyon (Stadt)')],
  other: true,
  look: 'list',
  mark: { points, right },
});
const river: FormItem = {
  kind: 'short',
  ...asked('river', 'River?'),
  mark: { points: '1', right: [' Tyne ', ''] },
};

describe('a marking key of a form', () => {
  test('has the words of choices as they stand in cells, and tells capitals apart there alone', () => {
    const key = keyOfForm(formOf(capital(['b']), river), { before: null, known: null })!;
    expect(MarkingKey.parse(key)).toEqual(key);
    expect(
      key.questions.map(({ id, mode, points, answers, capitals }) => [id, mode, points, answers, capitals]),
    ).toEqual([
      ['capital', 'text', '2', [{ text: 'paris' }], true],
      ['river', 'text', '1', [{ text: 'Tyne' }], false],
    ]);
    expect(
      keyOfForm(formOf({ kind: 'short', ...asked('q', 'Q') }), { before: null, known: null }),
    ).toBeNull();
  });

  test('loses what the form has lost, and nothing that people added', () => {
    const before = formOf(capital(['a']), river);
    const first = keyOfForm(before, { before: null, known: null })!;
    const known: MarkingKey = {
      ...first,
      give: 'percent',
      questions: first.questions.map((one) => ({
        ...one,
        answers: [...one.answers, { text: 'added', points: '0.5' }],
        refused: ['no'],
        rightRemark: 'Well done',
      })),
    };
    const now = keyOfForm(formOf(capital(['c'], '3')), { before, known })!;
    expect(now.give).toBe('percent');
    expect(now.questions).toHaveLength(1);
    expect(now.questions[0]).toMatchObject({
      points: '3',
      refused: ['no'],
      rightRemark: 'Well done',
      answers: [{ text: 'Lyon' }, { text: 'added', points: '0.5' }],
    });
    // What is marked no more is in no key; the column stays, and is blank.
    expect(keyOfForm(formOf(), { before, known })?.questions).toEqual([]);
  });

  test('is the one that marks a column of the roll already, whoever made it', () => {
    const form = formOf({ ...river, columnId: 'theirs' } as FormItem);
    const own = keyOfForm(form, { before: null, known: null })!;
    const theirs = { ...own.questions[0]!, id: 'by-hand', answers: [{ text: 'Tees' }], topic: 'Rivers' };
    const known: MarkingKey = { ...own, questions: [theirs, { ...theirs, id: 'other', columnId: 'else' }] };
    expect(isKeyOfForm(known, form, null)).toBe(true);
    expect(isKeyOfForm({ ...known, questions: known.questions.slice(1) }, form, null)).toBe(false);
    const key = keyOfForm(form, { before: null, known })!;
    expect(
      key.questions.map(({ id, topic, answers }) => [id, topic, answers.map(({ text }) => text)]),
    ).toEqual([
      ['by-hand', 'Rivers', ['Tyne', 'Tees']],
      ['other', 'Rivers', ['Tees']],
    ]);
    // What is called right once is not doubled by publishing again.
    expect(keyOfForm(form, { before: form, known: key })).toEqual(key);
  });

  test('is not told to whoever answers', () => {
    const form = formOf(capital(['a']), river);
    expect(JSON.stringify(formForAnswering(form))).not.toMatch(/mark|Tyne/);
    expect(marksOf(formForAnswering(form))).toEqual([]);
    expect(marksOf(form)).toHaveLength(2);
  });

  test('goes along when a form is copied, by the new identities', () => {
    const form = Form.parse({
      ...formOf(capital(['a', 'c']), { kind: 'email', ...asked('mail', 'Email') }),
      terms: { ...emptyForm('x', 'en').terms, copyTo: 'mail' },
    });
    let n = 0;
    const copy = withOwnIdentities(form, () => `new${++n}`);
    const [item, mail] = copy.items;
    if (item?.kind !== 'one') throw new Error('It is another item.');
    expect(item.mark?.right).toEqual([item.choices[0]!.id, item.choices[2]!.id]);
    expect(copy.terms.copyTo).toBe(mail!.id);
  });

  test.each(['0', '-1', '', 'two', '1,5'])('takes no %s points', (points) => {
    const item = { ...river, mark: { points, right: ['x'] } };
    expect(Form.safeParse({ ...emptyForm('Quiz', 'en'), items: [item] }).success).toBe(false);
  });
});

test('answers are told as people read them, in their language, without what was left blank', () => {
  const form = formOf(
    { kind: 'section', id: 's1', title: W('Nothing below') },
    { kind: 'section', id: 's2', title: W('About', 'Über') },
    capital([]),
    {
      kind: 'several',
      ...asked('liked', 'Liked'),
      choices: [choice('x', 'Drawing; planning'), choice('y', 'Breaking')],
      other: false,
    },
    {
      kind: 'grid',
      ...asked('grid', 'How well?'),
      rows: [choice('r1', 'Planning'), choice('r2', 'Building')],
      choices: [choice('w', 'well', 'gut')],
      several: false,
    },
    { kind: 'name', ...asked('who', 'Name'), givenId: 'g', familyId: 'f' },
    { kind: 'number', ...asked('n', 'Length'), whole: false, unit: W('cm') },
    { kind: 'consent', ...asked('ok', 'Agree') },
    { kind: 'signature', ...asked('sign', 'Sign') },
    { kind: 'file', ...asked('file', 'File'), takes: 'pdf', most: 2, megabytes: 5 },
    { kind: 'date', ...asked('day', 'Day'), withTime: false },
    { kind: 'short', ...asked('blank', 'Blank') },
    { kind: 'hidden', id: 'h', name: 'Source', prefill: 'src' },
    {
      kind: 'short',
      ...asked('unasked', 'Unasked'),
      shownIf: { columnId: 'capital', is: 'equal', values: ['Paris'] },
    },
    { kind: 'page', id: 'p', title: W('The end') },
  );
  const told = answersTold(
    form,
    {
      capital: `${OTHER}Rome`,
      liked: ['x', 'y'],
      r1: 'w',
      g: 'محمد',
      f: '',
      n: '12.5',
      ok: 'yes',
      sign: ['u1'],
      file: ['u2', 'u3', 'gone'],
      day: '2026-11-25',
      unasked: 'never asked',
      h: 'link',
    },
    {
      language: 'de',
      files: { u2: 'a.pdf', u3: 'b.pdf' },
      yes: 'Ja',
      signed: 'Unterschrieben',
      moment: (iso) => `am ${iso}`,
    },
  );
  expect(told.map(({ question, answer }) => [question, answer])).toEqual([
    ['Über', null],
    ['Hauptstadt?', 'Rome'],
    ['Liked', 'Drawing; planning; Breaking'],
    ['How well?', 'Planning: gut'],
    ['Name', 'محمد'],
    ['Length', '12.5 cm'],
    ['Agree', 'Ja'],
    ['Sign', 'Unterschrieben'],
    ['File', 'a.pdf; b.pdf'],
    ['Day', 'am 2026-11-25'],
  ]);
});
