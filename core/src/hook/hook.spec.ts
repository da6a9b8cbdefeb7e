import { Validator } from '@seriousme/openapi-schema-validator';
import fc from 'fast-check';
import type { Column } from '../column/index.js';
import { hookDescription } from './describe.js';
import { matchSubmission } from './match-submission.js';
import { HOOK_LIMITS, readSubmission, SubmissionWrong } from './read-submission.js';

const short = (body: unknown): [string, string, string | readonly string[]][] =>
  readSubmission(body).map(({ key, title, value }) => [key, title, value]);

describe('a submission is read', () => {
  test('flat, and in objects of objects', () => {
    expect(short({ name: 'Ada', marks: 12.5, consent: true, none: null, clubs: ['Chess', 'Choir'] })).toEqual(
      [
        ['name', 'name', 'Ada'],
        ['marks', 'marks', '12.5'],
        ['consent', 'consent', 'yes'],
        ['none', 'none', ''],
        ['clubs', 'clubs', ['Chess', 'Choir']],
      ],
    );
    expect(short({ learner: { name: { given: 'Ada' } } })).toEqual([
      ['learner.name.given', 'learner name given', 'Ada'],
    ]);
  });

  test('as questions with their answers, by identity', () => {
    const answers = [
      { id: 'q1', question: 'Who are you?', answer: 'Ada' },
      { ref: 'q2', title: 'Which clubs?', values: ['Chess', 'Choir'] },
      { label: 'Say more', value: 'More' },
      { label: 'Say more', value: 'And more' },
    ];
    expect(short({ answers })).toEqual([
      ['answers.q1', 'Who are you?', 'Ada'],
      ['answers.q2', 'Which clubs?', ['Chess', 'Choir']],
      ['answers.Say more', 'Say more', 'More'],
      ['answers.Say more (2)', 'Say more', 'And more'],
    ]);
    expect(short({ siblings: [{ first: 'Bo' }, { first: 'Cy' }] })).toEqual([
      ['siblings.1.first', 'siblings 1 first', 'Bo'],
      ['siblings.2.first', 'siblings 2 first', 'Cy'],
    ]);
  });

  test.each([
    [[{ name: 'Ada' }], 'one submission at a time'],
    ['text', 'JSON object'],
    [{}, 'no answers'],
    [{ essay: 'x'.repeat(HOOK_LIMITS.text + 1) }, '“essay” is longer than 40,000'],
    [Object.fromEntries(Array.from({ length: 301 }, (_, n) => [`q${n}`, '1'])), '300 answers'],
    [{ a: { b: { c: { d: { e: { f: { g: { h: '1' } } } } } } } }, 'levels deep'],
  ])('what cannot be read is told: %#', (body, says) => {
    expect(() => readSubmission(body)).toThrow(SubmissionWrong);
    expect(() => readSubmission(body)).toThrow(says);
  });

  test('whatever JSON comes, it is read or refused, and no answer is lost', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue({ maxDepth: 3 })), (body) => {
        try {
          const keys = readSubmission(body).map(({ key }) => key);
          expect(new Set(keys).size).toBe(keys.length);
        } catch (error) {
          expect(error).toBeInstanceOf(SubmissionWrong);
        }
      }),
    );
  });
});

describe('answers go into columns', () => {
  let n = 0;
  const newId = (): string => `new${++n}`;
  const columns: Column[] = [
    { id: 'c1', title: 'Full name' },
    { id: 'c2', title: 'E-Mail', type: 'email' },
    { id: 'c3', title: 'Clubs', type: 'several choices', format: { separator: ',' } },
  ];
  const match = (body: object, shape = {}, some = columns) =>
    matchSubmission(readSubmission(body), shape, some, newId);

  test('by identity, then by title, else into new ones', () => {
    const first = match({
      c1: 'Ada',
      email: 'ada@x.example',
      clubs: ['Chess', 'Choir'],
      Essay: '…',
      ways: ['a', 'b'],
    });
    const { shape, added } = first;
    expect(first.cells).toEqual({
      c1: 'Ada',
      c2: 'ada@x.example',
      c3: 'Chess, Choir',
      [shape['Essay']!]: '…',
      [shape['ways']!]: 'a; b',
    });
    expect(added.map(({ title, type }) => [title, type])).toEqual([
      ['Essay', undefined],
      ['ways', 'several choices'],
    ]);
    // The next one stands in the same columns, whatever they are called by now.
    const renamed = [...columns, ...added].map((column) => ({ ...column, title: `${column.title}!` }));
    const second = match({ email: 'bo@x.example', Essay: 'Bo’s' }, shape, renamed);
    expect(second.added).toEqual([]);
    expect(second.cells).toEqual({ c2: 'bo@x.example', [shape['Essay']!]: 'Bo’s' });
  });

  test('what is left out stays out; a column that was taken out is made anew', () => {
    const { shape } = match({ secret: '1', Essay: '2' });
    const next = match({ secret: '1', Essay: '3' }, { ...shape, secret: null });
    expect(Object.values(next.cells)).toEqual(['3']);
    expect(next.added).toHaveLength(1);
    expect(next.shape['Essay']).not.toBe(shape['Essay']);
  });

  test('two answers never stand in one column, and no name is a trap', () => {
    const { cells, added } = match({
      'full name': 'Ada',
      'FULL NAME': 'Bo',
      constructor: 'x',
      toString: 'y',
    });
    expect(Object.values(cells).sort()).toEqual(['Ada', 'Bo', 'x', 'y']);
    expect(added).toHaveLength(3);
  });
});

test('the description of the hook is one of OpenAPI (validated by its schema)', async () => {
  const { valid, errors } = await new Validator().validate(hookDescription('https://scriptum.example', '1'));
  expect([valid, errors]).toEqual([true, undefined]);
});
