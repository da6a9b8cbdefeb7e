import fc from 'fast-check';
import type { Entry, Roll } from '../roll/index.js';
import { emptyLetter, type Filing, type TemplateWriting } from '../template/index.js';
import {
  canonical,
  planNames as namesOf,
  planPapers as papersOf,
  type NamedPapers,
  type PlannedName,
  type PlannedPaper,
} from './index.js';

const field = { id: 'f', name: 'Name', columnId: 'n' };
const filing: Filing = { fields: [field], pattern: [{ type: 'field', attrs: { fieldId: 'f' } }] };
const planNames = (
  roll: Roll,
  templates: readonly TemplateWriting[],
  pattern: Filing,
  named?: NamedPapers,
): PlannedName[][] => namesOf({ roll, templates, filing: pattern, named });
const planPapers = (
  roll: Roll,
  templates: readonly TemplateWriting[],
  pattern: Filing,
  day: string,
): PlannedPaper[] => papersOf({ roll, templates, filing: pattern }, day);
const rollOf = (names: readonly string[]): Roll => ({
  columns: [{ id: 'n', title: 'Name' }],
  entries: names.map((n, position): Entry => ({ id: `e${position}`, position, values: { n } })),
});
const template = (id: string, name = id): TemplateWriting => ({
  id,
  kind: 'letter',
  name,
  place: 0,
  version: 1,
  content: {
    ...emptyLetter(name),
    fields: [field, { id: 'unused', name: 'Class', columnId: 'c' }],
    body: {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
    },
  },
});

test('each entry has a paper for each template, in their order', () => {
  const planned = planPapers(rollOf(['Ilse', 'Sam']), [template('a'), template('b')], filing, '2026-11-26');
  expect(
    planned.map(({ entry, templateId, place, fileName }) => [entry.id, templateId, place, fileName]),
  ).toEqual([
    ['e0', 'a', 0, 'Ilse.pdf'],
    ['e0', 'b', 1, 'Ilse – b.pdf'],
    ['e1', 'a', 0, 'Sam.pdf'],
    ['e1', 'b', 1, 'Sam – b.pdf'],
  ]);
  expect(planned[0]!.values).toEqual({ f: 'Ilse' });
});

test('a paper keeps the name that it has while the pattern gives it', () => {
  const templates = [template('a')];
  const had = new Map([
    ['e1', 'Sam.pdf'],
    ['e2', 'Sam (7).pdf'],
    ['e3', 'Old name.pdf'],
  ]);
  const names = planNames(rollOf(['Sam', 'Sam', 'Sam', 'Zoë']), templates, filing, (entryId) =>
    had.get(entryId),
  );
  expect(names.flat().map(({ fileName }) => fileName)).toEqual([
    'Sam (2).pdf',
    'Sam.pdf',
    'Sam (7).pdf',
    'Zoë.pdf',
  ]);
});

test('names stay unique whatever papers there are', () => {
  const name = fc.constantFrom('Sam', 'sam', 'Zoë', '', 'Sam (2)', 'a/b');
  fc.assert(
    fc.property(fc.array(name, { maxLength: 8 }), fc.array(fc.option(name), { maxLength: 8 }), (all, had) => {
      const kept = (entryId: string): string | undefined => {
        const one = had[Number(entryId.slice(1))];
        return one == null ? undefined : `${one}.pdf`;
      };
      const names = planNames(rollOf(all), [template('a')], filing, kept)
        .flat()
        .map(({ fileName }) => fileName);
      expect(new Set(names.map((one) => one.toLowerCase())).size).toBe(names.length);
      // Planned once more with those names, nothing changes.
      const again = planNames(
        rollOf(all),
        [template('a')],
        filing,
        (entryId) => names[Number(entryId.slice(1))],
      );
      expect(again.flat().map(({ fileName }) => fileName)).toEqual(names);
    }),
  );
});

test('what is matched in a field that stands nowhere, or to which column, does not change the look', () => {
  const [one] = planPapers(rollOf(['Ilse']), [template('a')], filing, '2026-11-26');
  const other = template('a');
  const fields = [
    { ...field, columnId: 'n' },
    { id: 'unused', name: 'X', columnId: null },
  ];
  const [two] = planPapers(
    rollOf(['Ilse']),
    [{ ...other, content: { ...other.content, fields } } as TemplateWriting],
    filing,
    '2026-11-26',
  );
  expect(two!.look).toBe(one!.look);
  expect(planPapers(rollOf(['Ilse']), [template('a', 'Other')], filing, '2026-11-26')[0]!.look).not.toBe(
    one!.look,
  );
});

// RFC 8785, 3.2.3: the names of an object are sorted, at every depth; the order of a list counts.
test('the order of keys does not count, that of lists does', () => {
  expect(canonical({ b: [{ d: 1, c: 2 }], a: 0 })).toBe('{"a":0,"b":[{"c":2,"d":1}]}');
  expect(canonical([2, 1])).not.toBe(canonical([1, 2]));
});

test('the day on which it is pressed puts no paper out of date; a sentence that goes out does', () => {
  const dated = (extra: object): TemplateWriting => {
    const base = template('a');
    const fields = [{ id: 'f', name: 'Day', columnId: null, same: { kind: 'day' as const }, ...extra }];
    return { ...base, content: { ...base.content, fields } } as TemplateWriting;
  };
  const on = (day: string, extra = {}) => planPapers(rollOf(['Ilse']), [dated(extra)], filing, day)[0]!;
  const [one, two] = [on('2026-11-26'), on('2026-11-27')];
  expect([one.values['f'], two.values['f']]).toEqual(['26 November 2026', '27 November 2026']);
  expect([one.lasting, one.look]).toEqual([two.lasting, two.look]);
  expect(on('2026-11-26', { whenBlank: { do: 'sentence' } }).look).not.toBe(one.look);
  expect(on('2026-11-26', { whenBlank: { do: 'dash' } }).look).toBe(one.look);
});

test('a paper is held back where a field is blank that holds it', () => {
  const base = template('a');
  const fields = [{ ...field, whenBlank: { do: 'hold' as const } }];
  const holding = { ...base, content: { ...base.content, fields } } as TemplateWriting;
  expect(
    planPapers(rollOf(['Ilse', '']), [holding], filing, '2026-11-26').map(({ heldBack }) => heldBack),
  ).toEqual([false, true]);
});

test('which parts stand is among the values: another condition puts only those papers out of date that it changes', () => {
  const base = template('a');
  const withPart = (value: string): TemplateWriting => {
    const body = {
      type: 'doc' as const,
      content: [
        {
          type: 'paragraph' as const,
          attrs: { part: 'part1' },
          content: [{ type: 'text' as const, text: 'x' }],
        },
      ],
    };
    const parts = [
      { id: 'part1', if: { columnId: 'n', is: 'contains' as const, values: [value] } },
      { id: 'unused', if: { columnId: 'n', is: 'blank' as const, values: [] } },
    ];
    return { ...base, content: { ...base.content, body, parts } } as TemplateWriting;
  };
  const plan = (value: string) =>
    planPapers(rollOf(['Ilse', 'Sam', 'Bo']), [withPart(value)], filing, '2026-11-26');
  const [one, other] = [plan('l'), plan('m')];
  expect(one.map(({ values }) => values)).toEqual([{ part1: 'stands' }, { part1: '' }, { part1: '' }]);
  expect(other[0]!.look).toBe(one[0]!.look);
  expect(one.map(({ lasting }, n) => canonical(lasting) === canonical(other[n]!.lasting))).toEqual([
    false,
    false,
    true,
  ]);
  expect(planPapers(rollOf(['Ilse']), [base], filing, '2026-11-26')[0]!.look).not.toContain('parts');
});

test('a learner’s name is kept up to 300 letters; a blank file name says which paper it is', () => {
  const blank = { fields: [], pattern: [] };
  const planned = planPapers(
    rollOf(['x'.repeat(400), 'Sam']),
    [template('a', 'Report'), template('b', 'Letter')],
    blank,
    '2026-11-26',
  );
  expect(planned[0]!.learner).toHaveLength(300);
  expect(planned.map(({ fileName }) => fileName)).toEqual([
    'Report 1.pdf',
    'Letter 1.pdf',
    'Report 2.pdf',
    'Letter 2.pdf',
  ]);
});

test('a table counts for the look by its columns, not by what it prints; the means of others are among the values', () => {
  const withTable = (title: string, columnId = 'n'): TemplateWriting => {
    const base = template('a');
    const table = {
      columns: ['c', 'd'].map((id) => ({
        id,
        title,
        look: { kind: 'plain' as const },
        width: 'auto' as const,
      })),
      rows: {
        kind: 'each' as const,
        rows: [
          {
            id: 'r',
            cells: [
              { kind: 'column' as const, columnId: 'n', name: '' },
              { kind: 'mean' as const, columnId, name: '' },
            ],
          },
        ],
      },
      within: [],
      blankRows: 'stand' as const,
    };
    const body = {
      type: 'doc' as const,
      content: [{ type: 'fieldBlock' as const, attrs: { fieldId: 't' } }],
    };
    return {
      ...base,
      content: { ...base.content, fields: [{ id: 't', name: 'T', columnId: null, table }], body },
    } as TemplateWriting;
  };
  const numbers = rollOf(['1', '2', '4.5']);
  const roll = { ...numbers, columns: [{ ...numbers.columns[0]!, type: 'number' as const }] };
  const [one] = planPapers(roll, [withTable('Mark')], filing, '2026-11-26');
  expect(one!.values).toEqual({ t: { text: '1, 2.5', rows: [['1', '2.5']], numeric: [true, true] } });
  expect(planPapers(roll, [withTable('Mark', 'gone')], filing, '2026-11-26')[0]!.look).toBe(one!.look);
  expect(planPapers(roll, [withTable('Points')], filing, '2026-11-26')[0]!.look).not.toBe(one!.look);
});

test('a variant stands at its letter’s place and is called as the pattern says', () => {
  const variant = { of: 'a', columnId: 'n', name: 'Name', says: ['Sam'] };
  const v = template('v');
  const templates = [
    template('a'),
    template('b'),
    { ...v, content: { ...v.content, variant } } as TemplateWriting,
  ];
  const planned = planPapers(rollOf(['Ilse', 'Sam']), templates, filing, '2026-11-26');
  expect(
    planned.map(({ entryId, templateId, place, fileName }) => [entryId, templateId, place, fileName]),
  ).toEqual([
    ['e0', 'a', 0, 'Ilse.pdf'],
    ['e0', 'b', 1, 'Ilse – b.pdf'],
    ['e1', 'v', 0, 'Sam.pdf'],
    ['e1', 'b', 1, 'Sam – b.pdf'],
  ]);
});
