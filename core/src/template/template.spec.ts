import { fieldsUsed, FlowText, isBlank } from '../text/index.js';
import fc from 'fast-check';
import {
  collectFields,
  CoverNote,
  columnsOfField,
  cutMustache,
  emptyLetter,
  emptyNote,
  emptyPlaced,
  fieldForColumn,
  fieldLabel,
  fieldsOf,
  isMatched,
  joinMustache,
  Letter,
  matchFields,
  mergeContents,
  type Placed,
  type PlacedBox,
  readTemplateFile,
} from './index.js';

let count = 0;
const newId = (): string => `f${++count}`;

describe('fields', () => {
  const columns = [
    { id: 'c1', title: 'First name' },
    { id: 'c2', title: 'Größe (cm)' },
  ];
  test('match by themselves where titles agree, and keep their match when the title changes', () => {
    const fields = [
      { id: 'a', name: 'first_NAME', columnId: null },
      { id: 'b', name: 'grosse cm', columnId: null },
      { id: 'c', name: 'Shoe', columnId: null },
    ];
    const matched = matchFields(fields, columns);
    expect(matched.map((field) => field.columnId)).toEqual(['c1', 'c2', null]);
    const renamed = [{ id: 'c1', title: 'Given name' }];
    expect(matchFields(matched, renamed)[0]?.columnId).toBe('c1');
    expect(fieldLabel(matched[0], renamed)).toBe('Given name');
  });
  test('a match to a column that is gone is taken back', () => {
    expect(matchFields([{ id: 'a', name: 'Gone', columnId: 'c9' }], columns)[0]?.columnId).toBeNull();
  });
  test('one column has one field, however often it is put in', () => {
    const first = fieldForColumn([], columns[0]!, newId);
    const second = fieldForColumn(first.fields, columns[0]!, newId);
    expect(second.field).toBe(first.field);
    expect(second.fields).toHaveLength(1);
  });
});

describe('mustache form', () => {
  test('cuts fields out and gives each piece the marks', () => {
    const collector = collectFields(newId);
    const line = cutMustache('Dear {{ Name }}, {{Name}} of {{Class}}!', collector, [{ type: 'bold' }]);
    expect(collector.fields.map((field) => field.name)).toEqual(['Name', 'Class']);
    expect(line).toHaveLength(7);
    expect(line[1]).toEqual({
      type: 'field',
      attrs: { fieldId: collector.fields[0]!.id },
      marks: [{ type: 'bold' }],
    });
    expect(line[1]).toEqual(line[3]);
  });
  test.each(['{{}}', '{ {Name}}', '{{a{b}}', '}}{{', '{{ }}'])('%s is plain text', (text) => {
    const collector = collectFields(newId);
    expect(cutMustache(text, collector)).toEqual([{ type: 'text', text }]);
  });
  test('two braces that stand for themselves', () => {
    const collector = collectFields(newId);
    expect(cutMustache('\\{{Name}}', collector)).toEqual([{ type: 'text', text: '{{Name}}' }]);
  });
  test('joining what was cut gives the same text', () => {
    const part = fc.oneof(
      fc.constantFrom('{{Name}}', '\\{{', ' ', '{{Class of}}'),
      fc.stringMatching(/^[a-z ,.<>#$*_]{1,8}$/),
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 12 }), (parts) => {
        const text = parts.join('');
        const collector = collectFields(newId);
        const line = cutMustache(text, collector);
        expect(joinMustache(line, (id) => collector.fields.find((field) => field.id === id)!.name)).toBe(
          text,
        );
      }),
    );
  });
});

describe('template files', () => {
  const file = (body: unknown, more: object = {}): string =>
    JSON.stringify({ scriptum: 'letter', version: 1, name: 'T', body, ...more });
  test('short forms, marks and lists', () => {
    const read = readTemplateFile(
      file([
        { type: 'heading', attrs: { level: 1 }, content: 'For {{Name}}' },
        {
          type: 'paragraph',
          content: [
            'Hello ',
            { type: 'text', text: '{{Name}}', marks: [{ type: 'textStyle', attrs: { color: '#1D6B61' } }] },
            { type: 'hardBreak' },
          ],
        },
        {
          type: 'orderedList',
          attrs: { start: 3 },
          content: ['{{Next step}}', { type: 'listItem', content: [{ type: 'paragraph', content: 'x' }] }],
        },
      ]),
      newId,
    );
    if (!read.ok) throw new Error(read.problem.message);
    expect(read.value.letter.fields.map((field) => field.name)).toEqual(['Name', 'Next step']);
    expect(fieldsUsed(read.value.letter.body)).toHaveLength(2);
    expect(Letter.parse(read.value.letter)).toEqual(read.value.letter);
  });
  test.each([
    ['{', 'template-json', 'not valid JSON'],
    ['{"scriptum":"poster"}', 'template-shape', 'scriptum'],
    [
      file([
        {
          type: 'paragraph',
          content: [{ type: 'text', text: 'x', marks: [{ type: 'textStyle', attrs: { color: 'red' } }] }],
        },
      ]),
      'template-shape',
      'body.0',
    ],
    [
      file([], { page: { size: 'A3', margins: { top: 1, right: 1, bottom: 1, left: 1 } } }),
      'template-shape',
      'page.size',
    ],
    [file([], { language: '"); evil(' }), 'template-shape', 'language'],
  ])('%s is refused, and the place is named', (json, code, says) => {
    const read = readTemplateFile(json, newId);
    expect(read).toMatchObject({ ok: false, problem: { code, message: expect.stringContaining(says) } });
  });
});

test('blank is what prints nothing', () => {
  expect(
    isBlank({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: '  ' }] }] }),
  ).toBe(true);
  expect(
    isBlank({
      type: 'doc',
      content: [
        {
          type: 'bulletList',
          content: [
            {
              type: 'listItem',
              content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'a' } }] }],
            },
          ],
        },
      ],
    }),
  ).toBe(false);
});

test('a document with anything unknown in it is refused', () => {
  expect(FlowText.safeParse({ type: 'doc', content: [{ type: 'script', content: [] }] }).success).toBe(false);
  expect(
    FlowText.safeParse({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'x', marks: [{ type: 'textStyle', attrs: { fontSize: '900pt' } }] },
          ],
        },
      ],
    }).success,
  ).toBe(false);
});

test('a writing has so many tests of cells in all its conditions together, and not one more', () => {
  const test1 = { columnId: 'c', is: 'blank' as const, values: [] };
  const letter = (count: number) => ({
    ...emptyLetter('L'),
    parts: [{ id: 'part1', if: { all: Array.from({ length: count - 2 }, () => test1) } }],
    fields: [{ id: 'f', name: 'F', columnId: 'c', wordsIf: [{ if: test1, words: 'x' }] }],
  });
  expect(Letter.safeParse(letter(300)).success).toBe(true);
  expect(Letter.safeParse(letter(301)).success).toBe(false);
  expect(
    CoverNote.safeParse({ ...emptyNote(), fields: letter(301).fields, parts: letter(301).parts }).success,
  ).toBe(false);
});

test('a table and a chart in a template file find their columns by name', () => {
  const cell = { kind: 'column', columnId: null, name: 'English mark' };
  const within = [{ columnId: null, name: 'class' }];
  const column = { id: 'a', title: 'Mark', look: { kind: 'plain' }, width: 'auto' };
  const table = {
    columns: [column],
    rows: { kind: 'each', rows: [{ id: 'r', cells: [cell, { kind: 'text', text: 'x' }] }] },
    within,
    blankRows: 'stand',
  };
  const own = { ...table, rows: { kind: 'own', sourceId: 's', name: 'Clubs' } };
  const questions = { ...table, rows: { kind: 'questions', columnId: null, name: 'Score' } };
  const bars = {
    kind: 'bars',
    values: [{ title: 'E', columnId: null, name: 'English mark' }],
    mean: true,
    within,
    axis: '',
  };
  const place = { kind: 'place', columnId: null, name: 'English mark', within: [], axis: '' };
  const blocks = [
    ...[table, own, questions].map((one) => ({ table: one })),
    ...[bars, place].map((one) => ({ chart: one })),
  ];
  const file = {
    scriptum: 'letter',
    version: 1,
    name: 'T',
    body: [
      { type: 'paragraph', content: '{{F}}' },
      ...blocks.map((one) => ({ type: 'fieldBlock', field: { name: 'F', columnId: null, ...one } })),
    ],
  };
  const read = readTemplateFile(JSON.stringify(file), newId);
  if (!read.ok) throw new Error(read.problem.message);
  const { fields } = read.value.letter;
  // The text field of the same name is another one.
  expect(fields).toHaveLength(6);
  const known = [
    { id: 'm', title: 'English mark' },
    { id: 'c', title: 'Class' },
    { id: 'k', title: 'Score' },
  ];
  const matched = matchFields(fields, known);
  expect(matched.map(columnsOfField)).toEqual([[], ['m', 'c'], ['c'], ['k', 'c'], ['m', 'c'], ['m']]);
  expect(matched.map(isMatched)).toEqual([false, true, true, true, true, true]);
  expect(fieldsOf(read.value.letter)).toEqual(fields.map(({ id }) => id));
});

describe('boxes that two changed at once', () => {
  const line = (id: string, x: number): PlacedBox => ({
    kind: 'line',
    id,
    page: 0,
    x,
    y: 0,
    width: 10,
    height: 0,
    stroke: { colour: '#000000', weight: 0.3 },
  });
  const of = (...boxes: PlacedBox[]): Placed => ({ ...emptyPlaced('C'), boxes });
  const base = of(line('a', 1), line('b', 1), line('c', 1));

  test('go together where each changed others, put some in or took some away', () => {
    const mine = of(line('a', 5), line('b', 1), line('m', 9));
    const theirs = of(line('b', 7), line('a', 1), line('c', 1), line('t', 9));
    expect(mergeContents(base, mine, theirs)?.boxes).toEqual([
      line('b', 7),
      line('a', 5),
      line('t', 9),
      line('m', 9),
    ]);
  });

  test('are for somebody to decide where both changed one, or one took away what the other changed', () => {
    expect(
      mergeContents(
        base,
        of(line('a', 5), line('b', 1), line('c', 1)),
        of(line('a', 6), line('b', 1), line('c', 1)),
      ),
    ).toBeNull();
    expect(
      mergeContents(base, of(line('b', 1), line('c', 1)), of(line('a', 6), line('b', 1), line('c', 1))),
    ).toBeNull();
    // The same change is none to decide on.
    const same = of(line('a', 6), line('b', 1), line('c', 1));
    expect(mergeContents(base, same, structuredClone(same))).toEqual(same);
  });

  test('are for somebody to decide where a page came or went meanwhile', () => {
    const theirs = { ...of(line('a', 1)), pages: [{}, {}] };
    expect(mergeContents(base, of(line('a', 5), line('b', 1), line('c', 1)), theirs)).toBeNull();
  });
});
