import type { SortingRule } from '@scriptum/core/template';
import type { SentencePiece } from '../../ui/sentence/sentence-piece';
import { changeRule, ruleSentence, type RuleSurroundings } from './sorting-sentence';

const around: RuleSurroundings = {
  columns: [
    { id: 'l', title: 'Level' },
    { id: 'c', title: 'Consent' },
  ],
  entry: undefined,
  papers: true,
  cellsOf: (id) => (id === 'l' ? ['gold', 'silver'] : []),
  templates: [
    { id: 'g', name: 'Gold award', off: false },
    { id: 's', name: 'Silver award', off: true },
  ],
  notes: [{ id: 'n', name: 'For gold' }],
};
const gold: SortingRule = {
  id: 'r',
  if: { columnId: 'l', is: 'equal', values: ['gold'] },
  then: { kind: 'gives', templates: ['g'] },
};
const text = (rule: SortingRule): string =>
  ruleSentence(rule, around)
    .map((piece) => (typeof piece === 'string' ? piece : piece.look === 'add' ? '' : piece.text))
    .join('')
    .replace(/\s+/g, ' ')
    .replace(/ ([,.])/g, '$1');
const part = (rule: SortingRule, id: string): Exclude<SentencePiece, string> =>
  ruleSentence(rule, around).find(
    (piece): piece is Exclude<SentencePiece, string> => typeof piece !== 'string' && piece.id === id,
  )!;
const change = (rule: SortingRule, id: string, value: string): SortingRule =>
  changeRule(rule, { id, value }, around);

test('a rule reads as a sentence, whoever it is for and whatever they get', () => {
  expect(text(gold)).toBe('If Level is gold, they get Gold award.');
  expect(text(change(gold, 'kind', 'also'))).toBe('If Level is gold, they also get Gold award.');
  const out = change(change(gold, 'kind', 'out'), 'why', 'no consent');
  expect(text(out)).toBe('If Level is gold, they are left out, because no consent.');
  expect(text(change(gold, 'who', 'all'))).toBe('Everyone else gets Gold award.');
  expect(text(change(change(gold, 'who', 'all'), 'kind', 'also'))).toBe('Everyone also gets Gold award.');
  expect(text(change(out, 'who', 'all'))).toBe('Everyone else is left out, because no consent.');
  expect(text(change(gold, 'if 0', 'papers new'))).toBe('If the learner is new, they get Gold award.');
  expect(text(change(gold, 'more', 's'))).toBe(
    'If Level is gold, they get Gold award and Silver award (switched off).',
  );
});

test('cells of the column are offered; what is lacking stands out', () => {
  expect(part(gold, 'with 0').options.map(({ value }) => value)).toEqual(['gold', 'silver']);
  const empty = change(gold, 'paper 0', 'out');
  expect(empty.then).toEqual({ kind: 'gives', templates: [] });
  expect(part(empty, 'more')).toMatchObject({ text: 'choose a paper', look: 'missing' });
  expect(part({ ...gold, then: { kind: 'gives', templates: ['gone'] } }, 'paper 0')).toMatchObject({
    text: 'what was deleted',
    look: 'missing',
  });
});

test('tests are put in and taken out; without any it is for everyone', () => {
  const two = change(gold, 'add', 'all');
  expect(two.if).toEqual({ all: [gold.if, { columnId: 'l', is: 'equal', values: [''] }] });
  const papers = change(two, 'if 1', 'papers changed');
  expect(text(papers)).toBe(
    'If Level is gold and something changed since their last paper, they get Gold award.',
  );
  expect(change(papers, 'if 1', 'out').if).toEqual(gold.if);
  expect(change(gold, 'if 0', 'out').if).toBeNull();
  expect(change(change(gold, 'who', 'all'), 'who', 'if').if).toEqual({
    columnId: 'l',
    is: 'equal',
    values: [''],
  });
  expect(change(papers, 'if 1', 'c').if).toEqual({
    all: [gold.if, { columnId: 'c', is: 'equal', values: [''] }],
  });
});

test('a rule names the cover note that goes along beside those for everybody', () => {
  const named = change(gold, 'more-note', 'n');
  expect(text(named)).toBe('If Level is gold, they get Gold award, with the note For gold.');
  // What they get as papers changes nothing of it; who is left out gets no note either.
  expect(change(named, 'kind', 'also').then).toEqual({ kind: 'also', templates: ['g'], notes: ['n'] });
  expect(change(named, 'kind', 'out').then).toEqual({ kind: 'out', why: '' });
  expect(text(change(named, 'cover 0', 'out'))).toBe('If Level is gold, they get Gold award.');
});
