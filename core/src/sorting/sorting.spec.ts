import fc from 'fast-check';
import type { Condition, Made } from '../condition/index.js';
import { planNames, planPapers } from '../paper/index.js';
import { preflight } from '../preflight/index.js';
import { say } from '../sentences/index.js';
import type { Entry, Roll } from '../roll/index.js';
import {
  emptyFiling,
  emptyLetter,
  Sorting,
  type Filing,
  type SortingRule,
  type TemplateWriting,
} from '../template/index.js';
import {
  changesOf,
  countsOf,
  getsOf,
  possibleOf,
  sayRule,
  sorterOf,
  waysOf,
  type SortedBy,
} from './index.js';

const columns = [
  { id: 'n', title: 'Name' },
  { id: 'l', title: 'Level' },
  { id: 'c', title: 'Consent' },
];
const entry = (n: string, l: string, c = 'yes'): Entry => ({ id: n, position: 0, values: { n, l, c } });
const field = { id: 'f', name: 'Name', columnId: 'n' };
const template = (id: string, more: object = {}): TemplateWriting => ({
  id,
  kind: 'letter',
  name: id,
  place: 0,
  version: 1,
  content: {
    ...emptyLetter(id),
    fields: [field],
    body: {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
    },
    ...more,
  },
});
const templates = ['gold', 'silver', 'bronze', 'report'].map((id) => template(id));
const is = (columnId: string, value: string): Condition => ({ columnId, is: 'equal', values: [value] });
const gives = (id: string, condition: Condition | null, ...given: string[]): SortingRule => ({
  id,
  if: condition,
  then: { kind: 'gives', templates: given },
});
const also = (id: string, condition: Condition | null, ...given: string[]): SortingRule => ({
  id,
  if: condition,
  then: { kind: 'also', templates: given },
});
const out = (id: string, condition: Condition | null, why: string): SortingRule => ({
  id,
  if: condition,
  then: { kind: 'out', why },
});
const by = (rules: SortingRule[], made?: (entryId: string) => Made): SortedBy => ({
  sorting: Sorting.parse({ rules }),
  columns,
  made,
});
const AWARDS = [
  gives('1', is('l', 'gold'), 'gold'),
  out('2', { not: is('c', 'yes') }, 'no consent'),
  gives('3', null, 'bronze'),
];
const ids = (some: readonly { readonly id: string }[]): string[] => some.map(({ id }) => id);

test('the first rule that fits decides; who is left out gets nothing, and it is told why', () => {
  const sorted = sorterOf(templates, by(AWARDS));
  expect(sorted(entry('Ann', 'Gold', 'no'))).toMatchObject({ by: 0, overtaken: [1], leftOut: null });
  expect(ids(sorted(entry('Ann', 'Gold', 'no')).templates)).toEqual(['gold']);
  expect(sorted(entry('Bo', 'silver', 'no'))).toMatchObject({
    templates: [],
    by: 1,
    leftOut: 'no consent',
    overtaken: [],
  });
  expect(ids(sorted(entry('Cy', 'silver')).templates)).toEqual(['bronze']);
});

test('something beside comes in the order of the templates, and not to those who are left out', () => {
  const rules = [also('0', null, 'report'), ...AWARDS];
  const sorted = sorterOf(templates, by(rules));
  expect(sorted(entry('Ann', 'gold'))).toMatchObject({ by: 1, also: [0] });
  expect(ids(sorted(entry('Ann', 'gold')).templates)).toEqual(['gold', 'report']);
  expect(sorted(entry('Bo', '', 'no')).templates).toEqual([]);
  // With nothing that decides it still comes.
  expect(sorterOf(templates, by([also('0', null, 'report')]))(entry('Ann', ''))).toMatchObject({ by: null });
});

test('without rules everybody gets each; a rule without a paper takes nobody', () => {
  expect(ids(sorterOf(templates, by([]))(entry('Ann', '')).templates)).toEqual(ids(templates));
  const sorted = sorterOf(templates, by([gives('1', null), gives('2', null, 'bronze')]));
  expect(sorted(entry('Ann', '')).by).toBe(1);
});

test('a rule gives a letter in the words of the learner’s language', () => {
  const polish = template('polish', { variant: { of: 'bronze', columnId: 'c', name: 'C', says: ['pl'] } });
  const sorted = sorterOf([...templates, polish], by(AWARDS.slice(2)));
  expect(ids(sorted(entry('Ann', '', 'pl')).templates)).toEqual(['polish']);
  expect(ids(sorted(entry('Ann', '', 'en')).templates)).toEqual(['bronze']);
  expect(getsOf([...templates, polish], by(AWARDS.slice(2)))(polish.content, entry('Ann', '', 'pl'))).toBe(
    true,
  );
});

const NEW: Made = { isNew: true, changed: false };
const OLD: Made = { isNew: false, changed: false };
test('rules may ask what was made before, and what was made by that stays', () => {
  const rules = [gives('1', { papers: 'new' }, 'gold'), out('2', { papers: 'not changed' }, 'has it')];
  const [first, later] = [by(rules, () => NEW), by(rules, () => OLD)];
  const one = entry('Ann', '');
  expect(ids(sorterOf(templates, first)(one).templates)).toEqual(['gold']);
  expect(sorterOf(templates, later)(one)).toMatchObject({ templates: [], leftOut: 'has it' });
  expect(waysOf(later)).toHaveLength(3);
  expect([...possibleOf(templates, later)(one)]).toEqual(['gold']);
  expect(waysOf(by(AWARDS))).toHaveLength(1);
  // A template may not ask for it: its papers would be out of date by being there.
  expect(say(sayRule(rules[0]!, columns, new Map([['gold', 'Gold']])))).toBe('If the learner is new: Gold');
});

test('a paper that stays though another one would be made now keeps its name for itself', () => {
  const filing: Filing = { fields: [field], pattern: [{ type: 'field', attrs: { fieldId: 'f' } }] };
  const rules = [gives('1', { papers: 'new' }, 'gold'), gives('2', null, 'bronze')];
  const roll: Roll = { columns, entries: [entry('Ann', '')] };
  const names = planNames({
    roll,
    templates,
    filing,
    by: by(rules, () => OLD),
    named: (_, id) => (id === 'gold' ? 'Ann.pdf' : undefined),
  });
  expect(names).toEqual([[{ templateId: 'bronze', fileName: 'Ann (2).pdf' }]]);
});

test('whose papers a change changes is told, and whom each rule takes', () => {
  const all = [entry('Ann', 'gold'), entry('Bo', 'silver'), entry('Cy', 'x', 'no'), entry('Di', 'x')];
  const before = sorterOf(templates, by(AWARDS));
  const after = sorterOf(templates, by([gives('0', is('l', 'silver'), 'silver'), ...AWARDS]));
  expect(
    changesOf(all, before, after).map((one) => [
      one.entry.id,
      ids(one.before.templates),
      ids(one.after.templates),
    ]),
  ).toEqual([['Bo', ['bronze'], ['silver']]]);
  const counts = countsOf(all, before, 3);
  expect(counts.rules.map(({ entries }) => ids(entries))).toEqual([['Ann'], ['Cy'], ['Bo', 'Di']]);
  expect(counts.without).toEqual([]);
});

const folio = (rules: SortingRule[], entries: Entry[], on = templates) => ({
  roll: { columns, entries },
  templates: on.map(({ content }) => content),
  sorting: { by: by(rules), templates: on },
  notes: [],
  filing: emptyFiling(),
  assets: new Set<string>(),
});
const codes = (...given: Parameters<typeof folio>): string[] =>
  preflight(folio(...given))
    .filter(({ place }) => place === 'sorting')
    .map(({ code }) => code);

test('rules that never fire, that overlap, that give nothing, and people whom none takes are found', () => {
  const all = [entry('Ann', 'gold', 'no'), entry('Bo', 'x')];
  const gold = templates.slice(0, 1);
  expect(codes([gives('1', null, 'gold')], all, gold)).toEqual([]);
  expect(codes([gives('1', is('l', 'gold'), 'gold')], all, gold)).toEqual(['sorting-nobody']);
  expect(codes([gives('1', is('l', 'tin'), 'gold'), gives('2', null, 'gold')], all, gold)).toEqual([
    'rule-nobody',
  ]);
  expect(
    codes(
      [gives('1', is('l', 'gold'), 'gold'), out('2', is('c', 'no'), ''), gives('3', null, 'gold')],
      all,
      gold,
    ),
  ).toEqual(['rules-overlap']);
  expect(codes([gives('1', is('gone', ''), 'gold'), gives('2', null, 'gold')], all, gold)).toEqual([
    'rule-column-gone',
  ]);
  expect(codes([gives('1', null, 'silver')], all, gold).sort()).toEqual([
    'rule-gives-gone',
    'sorting-nothing',
    'template-nobody',
  ]);
  // At least 30, then at least 20: everybody reads that the first one counts.
  const steps = [
    gives('1', { columnId: 'l', is: 'at least', values: ['30'] }, 'gold'),
    gives('2', { columnId: 'l', is: 'at least', values: ['20'] }, 'gold'),
    gives('3', null, 'gold'),
  ];
  expect(codes(steps, [entry('Ann', '31'), entry('Bo', '25')], gold)).toEqual([]);
});

test('what nobody gets stands in nobody’s way', () => {
  const dead = template('dead', { fields: [{ ...field, columnId: null }] });
  const found = preflight(folio([gives('1', null, 'gold')], [entry('Ann', '')], [templates[0]!, dead]));
  expect(found.map(({ code }) => code)).toEqual(['template-nobody']);
  expect(preflight(folio([], [entry('Ann', '')], [templates[0]!, dead])).some(({ blocks }) => blocks)).toBe(
    true,
  );
});

const anyRules = fc.array(
  fc.record({
    if: fc.option(
      fc.oneof(
        fc
          .record({ columnId: fc.constantFrom('l', 'c', 'gone'), value: fc.constantFrom('gold', 'yes', '') })
          .map(({ columnId, value }) => is(columnId, value)),
        fc
          .constantFrom('new', 'not new', 'changed', 'not changed')
          .map((papers) => ({ papers }) as Condition),
      ),
    ),
    then: fc.oneof(
      fc
        .subarray(['gold', 'silver', 'report', 'gone'])
        .map((given) => ({ kind: 'gives' as const, templates: given })),
      fc.subarray(['bronze', 'report']).map((given) => ({ kind: 'also' as const, templates: given })),
      fc.constant({ kind: 'out' as const, why: 'x' }),
    ),
  }),
  { maxLength: 6 },
);

test('sorting is total and says the same each time, whatever the rules are', () => {
  const cell = fc.constantFrom('gold', 'yes', '', 'x');
  const made = fc.constantFrom(NEW, OLD, { isNew: false, changed: true });
  fc.assert(
    fc.property(anyRules, fc.array(fc.tuple(cell, cell), { maxLength: 6 }), made, (some, cells, before) => {
      const rules = some.map((rule, n) => ({ id: `r${n}`, ...rule }));
      const all = cells.map(([l, c], n) => entry(`e${n}`, l, c));
      const given = by(rules, () => before);
      const [one, two] = [sorterOf(templates, given), sorterOf(templates, given)];
      const possible = possibleOf(templates, given);
      for (const each of all) {
        const sorted = one(each);
        expect(two(each)).toEqual(sorted);
        // Each template once, in their order; and either something, nothing because of a rule, or nothing at all.
        expect(ids(sorted.templates)).toEqual(
          ids(templates).filter((id) => ids(sorted.templates).includes(id)),
        );
        if (sorted.leftOut !== null) expect(sorted.templates).toEqual([]);
        for (const id of ids(sorted.templates)) expect(possible(each).has(id)).toBe(true);
      }
      const roll = { columns, entries: all };
      const filing: Filing = { fields: [field], pattern: [{ type: 'field', attrs: { fieldId: 'f' } }] };
      const planned = planPapers({ roll, templates, filing, by: given }, '2026-11-27');
      const paths = planned.map(({ fileName }) => fileName.toLowerCase());
      expect(new Set(paths).size).toBe(paths.length);
    }),
  );
});
