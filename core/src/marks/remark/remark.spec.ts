import fc from 'fast-check';
import { Remark, type RemarkPart, type RemarkWord } from '../../column/index.js';
import { plainBank } from '../begin/plain-bank.js';
import { chooseRemarks, lettersOf, ratio, remarksFor, wordForms, writeRemark } from '../index.js';

/** `{they}` is a word that changes. */
const parts = (text: string): RemarkPart[] =>
  text
    .split(/(\{\w+\})/)
    .filter(Boolean)
    .map((part) => (part.startsWith('{') ? { word: part.slice(1, -1) as RemarkWord } : { text: part }));
const remark = (
  id: string,
  text: string,
  from: string | null = null,
  to: string | null = null,
  more = {},
): Remark => Remark.parse({ id, parts: parts(text), from, to, ...more });

describe('pronouns and verbs agree', () => {
  const one = remark(
    'r',
    '{they} {are} quick. {name} finish{es} early; {their} work show{s} that {they} {have} practised {themself}.',
  );
  test.each([
    ['she/her', 'She is quick. Mina finishes early; her work shows that she has practised herself.'],
    ['He', 'He is quick. Mina finishes early; his work shows that he has practised himself.'],
    ['they/them', 'They are quick. Mina finishes early; their work shows that they have practised themself.'],
    [
      'xe/xem/xyr/xyrs/xemself',
      'Xe is quick. Mina finishes early; xyr work shows that xe has practised xemself.',
    ],
    ['', 'Mina is quick. Mina finishes early; Mina’s work shows that Mina has practised Mina.'],
  ])('%s', (pronouns, expected) => expect(writeRemark(one, wordForms('Mina', pronouns)!)).toBe(expected));
  // R. Huddleston and G. K. Pullum, The Cambridge Grammar of the English Language (2002), 5.17 and 18: singular they takes
  // the plural verb, a name the singular one; from memory.
  test.each([
    ['{name} work{s} hard, and {they} {are} quick.', 'Sam works hard, and they are quick.'],
    [
      '{they} work{s} hard, and {name} {is} quick.'.replace('{is}', '{are}'),
      'They work hard, and Sam is quick.',
    ],
    [
      '{name} need{s} help. Please ask {them}; {name} {do} not.',
      'Sam needs help. Please ask them; Sam does not.',
    ],
    ['Well done! {have} {they} finished?', 'Well done! Have they finished?'],
    [
      '{name} {have} improved: {they} {have} read, and {were} glad.',
      'Sam has improved: they have read, and were glad.',
    ],
  ])('they/them: %s', (written, expected) =>
    expect(writeRemark(remark('r', written), wordForms('Sam', 'they/them')!)).toBe(expected),
  );
  test('the starter bank agrees for everybody', () => {
    const written = ['they/them', 'she/her', ''].map((pronouns) =>
      plainBank(() => 'r').map((one) => writeRemark(one, wordForms('Sam', pronouns)!)),
    );
    expect(written[0]).toEqual([
      'Sam has had an excellent term. They are ready for harder work.',
      'Sam works steadily, and their understanding grows.',
      'Sam needs more practice. Please look through their work together at home.',
    ]);
    expect(written[1]![0]).toBe('Sam has had an excellent term. She is ready for harder work.');
    expect(written[2]![0]).toBe('Sam has had an excellent term. Sam is ready for harder work.');
  });
  test('pronouns that nobody knows are told', () => expect(wordForms('Mina', 'dragon/knight')).toBeNull());
});

test('a remark fits by mark, subject, tone and language', () => {
  const bank = [
    remark('any', 'x'),
    remark('maths', 'x', null, null, { subject: 'Maths' }),
    remark('warm', 'x', null, null, { tone: 'warm' }),
    remark('dry', 'x', null, null, { tone: 'dry', language: 'de' }),
  ];
  const ids = (asked: object): string[] =>
    remarksFor({ subject: '', tone: '', language: '', ...asked }, bank).map(({ id }) => id);
  expect(ids({})).toEqual(['any', 'warm', 'dry']);
  expect(ids({ subject: 'maths' })).toEqual(['any', 'maths', 'warm', 'dry']);
  expect(ids({ tone: 'warm' })).toEqual(['any', 'warm']);
  expect(ids({ language: 'en' })).toEqual(['any', 'warm']);
});

test('the ends of a range belong to it', () => {
  const bank = [remark('low', 'x', null, '49.9'), remark('high', 'x', '50', null)];
  const chosen = (mark: string): string | undefined =>
    chooseRemarks(bank, [{ id: 'e', mark: ratio(mark), className: '' }])[0]?.id;
  expect([chosen('49.9'), chosen('49.95'), chosen('50')]).toEqual(['low', undefined, 'high']);
});

test('neighbours in a class never get the same remark where there is a choice, and choices stay', () => {
  const bank = ['a', 'b', 'c'].map((id) => remark(id, id));
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.string({ minLength: 1, maxLength: 5 }), { minLength: 2, maxLength: 30 }),
      fc.array(fc.constantFrom('8A', '8B'), { minLength: 30, maxLength: 30 }),
      (ids, classes) => {
        const seekers = ids.map((id, n) => ({ id, mark: ratio('50'), className: classes[n]! }));
        const chosen = chooseRemarks(bank, seekers);
        const last = new Map<string, string>();
        seekers.forEach(({ className }, n) => {
          expect(chosen[n]!.id).not.toBe(last.get(className));
          last.set(className, chosen[n]!.id);
        });
        expect(chooseRemarks(bank, seekers)).toEqual(chosen);
      },
    ),
  );
});

test('one remark alone goes to all, and without a mark there is none', () => {
  const seekers = ['x', 'y'].map((id) => ({ id, mark: ratio('50'), className: '' }));
  expect(chooseRemarks([remark('only', 'x')], seekers).map((one) => one?.id)).toEqual(['only', 'only']);
  expect(chooseRemarks([remark('only', 'x')], [{ id: 'x', mark: null, className: '' }])).toEqual([null]);
});

// Unicode Standard Annex #29, extended grapheme clusters.
test('letters are counted as people see them', () => {
  expect([lettersOf('Zoë'), lettersOf('Zoe\u0308'), lettersOf('👩‍🏫'), lettersOf('')]).toEqual([3, 3, 1, 0]);
});
