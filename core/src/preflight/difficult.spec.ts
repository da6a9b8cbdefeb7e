import { say } from '../sentences/index.js';
import { sorterOf } from '../sorting/index.js';
import { difficultEntries, type Finding } from './index.js';

const columns = [
  { id: 'n', title: 'Name', role: 'name' as const },
  { id: 't', title: 'Text' },
];
const roll = {
  columns,
  entries: [
    ['Bo Li', 'x'],
    ['Wilhelmina van der Veldt', 'y'],
    ['محمد السعدي', 'z'],
    ['Ann Lee', 'a long text, longer than all of the others'],
    ['Cy Fox', ''],
    ['Di Moor', 'x'],
    ['Ed Moor', 'x'],
  ].map(([n, t], position) => ({ id: `e${position}`, position, values: { n: n!, t: t! } })),
};

test('those whose papers come out wrong first are picked, each once, with why', () => {
  const templates = [
    { id: 'a', content: {} },
    { id: 'b', content: {} },
  ];
  const sorted = sorterOf(templates, {
    columns,
    sorting: {
      rules: [
        {
          id: '1',
          if: { columnId: 'n', is: 'begins with', values: ['Di'] },
          then: { kind: 'gives', templates: ['a'] },
        },
        { id: '2', if: null, then: { kind: 'gives', templates: ['b'] } },
      ],
    },
  });
  const looks = (code: string, ...entryIds: string[]): Finding => ({
    code,
    severity: 'look',
    place: 'roll',
    message: '',
    entryIds,
  });
  const found = [looks('x', 'e4', 'e6'), looks('y', 'e4'), looks('pages-more', 'e6')];
  expect(
    difficultEntries(roll, found, sorted).map(({ entry, why }) => [
      entry.values['n'],
      why.map((one) => say(one)),
    ]),
  ).toEqual([
    ['Bo Li', ['the shortest name', 'rule 2 of the sorting']],
    ['Wilhelmina van der Veldt', ['the longest name']],
    ['محمد السعدي', ['a name from right to left']],
    ['Ann Lee', ['the longest text']],
    ['Cy Fox', ['the most blank cells', 'the most findings']],
    ['Di Moor', ['rule 1 of the sorting']],
    ['Ed Moor', ['more pages than the others']],
  ]);
  expect(difficultEntries({ columns, entries: [] }, [], sorted)).toEqual([]);
});
