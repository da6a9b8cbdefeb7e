import fc from 'fast-check';
import type { SortingRule } from '../template/index.js';
import { rebaseRules } from './rebase-rules.js';

const rule = (id: string, gives = 'a'): SortingRule => ({
  id,
  if: { papers: 'new' },
  then: { kind: 'gives', templates: [gives] },
});
const said = (rules: readonly SortingRule[]): string =>
  rules
    .map(
      ({ id, then }) =>
        `${id}${then.kind === 'gives' && then.templates[0] !== 'a' ? `=${then.templates[0]}` : ''}`,
    )
    .join(' ');
const rules = (words: string): SortingRule[] =>
  words
    .split(' ')
    .filter(Boolean)
    .map((word) => rule(...(word.split('=') as [string, string?])));

test.each([
  ['what both changed in different rules is both there', 'p q r', 'p=x q r', 'p q r=y', 'p=x q r=y'],
  ['where both changed one, it stays as it is here', 'p q', 'p=x q', 'p=y q', 'p=x q'],
  ['new ones of both', 'p q', 'p n q', 'p q m', 'p n q m'],
  ['a new one at the beginning', 'p q', 'n p q', 'p q=y', 'n p q=y'],
  ['taken out here, untouched there', 'p q r', 'p r', 'p q r=y', 'p r=y'],
  ['taken out there, untouched here', 'p q r', 'p=x q r', 'p r', 'p=x r'],
  ['taken out here, changed there', 'p q', 'p', 'p q=y', 'p q=y'],
  ['taken out there, changed here', 'p q', 'p q=x', 'p', 'p q=x'],
  ['put in another order here, a new one there', 'p q r', 'r p q', 'p q n r', 'r p q n'],
  ['put in another order there, a new one here', 'p q r', 'p n q r', 'r q p', 'r q p n'],
  ['there were none', '', 'n', 'm', 'n m'],
])('%s', (_, base, own, theirs, expected) => {
  expect(said(rebaseRules(rules(base), rules(own), rules(theirs)))).toBe(expected);
});

const some = fc
  .uniqueArray(fc.constantFrom('p', 'q', 'r', 's', 't', 'u'))
  .chain((ids) =>
    fc.tuple(...ids.map((id) => fc.constantFrom('a', 'x', 'y').map((gives) => rule(id, gives)))),
  );

test('who changed nothing has what the others made; who is alone has their own; no rule stands twice', () => {
  fc.assert(
    fc.property(some, some, some, (base, own, theirs) => {
      expect(rebaseRules(base, base, theirs)).toEqual(theirs);
      expect(rebaseRules(base, own, base)).toEqual(own);
      const ids = rebaseRules(base, own, theirs).map(({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
    }),
  );
});
