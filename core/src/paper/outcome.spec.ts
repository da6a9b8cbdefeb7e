import { arrange, PLAIN_VIEW, valueOf, type Roll } from '../roll/index.js';
import { isOutcome, outcomesOf, withOutcomes, type OutcomePaper } from './index.js';

const paper = (entryId: string, more: Partial<OutcomePaper> = {}): OutcomePaper => ({
  id: `p${entryId}`,
  entryId,
  templateId: 't',
  state: 'pressed',
  outOfDate: false,
  fileName: `${entryId}.pdf`,
  number: null,
  bytes: 1,
  message: null,
  ...more,
});
const roll: Roll = {
  columns: [{ id: 'n', title: 'Name' }],
  entries: ['a', 'b', 'c'].map((id, position) => ({ id, position, values: { n: id } })),
};
const around = {
  letters: new Map([['t', 'Report']]),
  link: ({ id }: OutcomePaper) => `https://school.example/${id}`,
  moment: (at: string) => at.slice(0, 10),
};

test('beside each learner stands what became of the papers', () => {
  const papers = [
    paper('a', {
      state: 'dispatched',
      number: '7',
      message: { to: 'a@b.example', state: 'sent', sentAt: '2026-07-01T09:00:00Z', opened: true },
    }),
    paper('b', { outOfDate: true }),
    paper('b', { id: 'second', templateId: 'gone', state: 'failed', bytes: null }),
    paper('c', { state: 'void' }),
  ];
  const { columns, entries } = withOutcomes(roll, outcomesOf(papers, around));
  const shown = columns.filter(({ id }) => isOutcome(id));
  expect(shown.map(({ title }) => title)).toEqual([
    'Paper',
    'State',
    'Number',
    'File',
    'Link',
    'Sent',
    'Sent to',
    'Opened',
  ]);
  expect(entries.map((entry) => shown.map(({ id }) => valueOf(entry, id)))).toEqual([
    ['Report', 'Sent', '7', 'a.pdf', 'https://school.example/pa', '2026-07-01', 'a@b.example', 'yes'],
    ['Report', 'Out of date; Failed', '', 'b.pdf; b.pdf', 'https://school.example/pb', '', '', ''],
    ['', '', '', '', '', '', '', ''],
  ]);
});

test('the roll can be sorted by it, and entries stay the same as long as it is the same', () => {
  const outcomes = () =>
    outcomesOf(
      [
        paper('a'),
        paper('c', { message: { to: 'c@b.example', state: 'refused', sentAt: null, opened: null } }),
      ],
      around,
    );
  const one = withOutcomes(roll, outcomes());
  expect(withOutcomes(roll, outcomes()).entries).toEqual(one.entries);
  expect(withOutcomes(roll, outcomes()).entries[0]).toBe(one.entries[0]);
  const view = { ...PLAIN_VIEW, sort: { columnId: 'outcome-state', down: true } };
  expect(arrange(one, view).map(({ id }) => id)).toEqual(['c', 'a', 'b']);
  expect(arrange(one, { ...PLAIN_VIEW, find: 'refused' }).map(({ id }) => id)).toEqual(['c']);
});
