import type { Column } from '../column/index.js';
import { SHEET_LIMITS } from '../table/index.js';
import {
  applyPatch,
  arrange,
  columnChanges,
  describePatch,
  guessAddressColumn,
  isEmptyPatch,
  learnerName,
  markNameColumns,
  PLAIN_VIEW,
  type Entry,
  type Roll,
  type RollPatch,
} from './index.js';

const column = (id: string, title: string, more: Partial<Column> = {}): Column => ({ id, title, ...more });
const rollOf = (columns: Column[], rows: string[][]): Roll => ({
  columns,
  entries: rows.map((cells, position): Entry => ({
    id: `e${position}`,
    position,
    values: Object.fromEntries(columns.map(({ id }, at) => [id, cells[at] ?? ''])),
  })),
});
const first = (roll: Roll): string => roll.columns[0]!.id;

describe('sorting', () => {
  const order = (type: Column['type'], cells: string[], down: boolean): string[] => {
    const roll = rollOf(
      [column('c', 'C', type ? { type } : {})],
      cells.map((cell) => [cell]),
    );
    return arrange(roll, { ...PLAIN_VIEW, sort: { columnId: 'c', down } }, 'en').map(
      (entry) => entry.values['c']!,
    );
  };
  test('numbers before texts, texts by the language, blanks last; the other way round but for blanks', () => {
    const cells = ['b', '10', '', 'a', '9', ''];
    expect(order('number', cells, false)).toEqual(['9', '10', 'a', 'b', '', '']);
    expect(order('number', cells, true)).toEqual(['b', 'a', '10', '9', '', '']);
  });
  test('texts, and numbers in them, in both directions', () => {
    expect(order(undefined, ['Row 10', 'row 9', 'Älv', 'alp'], false)).toEqual([
      'alp',
      'Älv',
      'row 9',
      'Row 10',
    ]);
    expect(order(undefined, ['Row 10', 'row 9', 'Älv', 'alp'], true)).toEqual([
      'Row 10',
      'row 9',
      'Älv',
      'alp',
    ]);
  });
  test('what is alike keeps its order', () =>
    expect(order('number', ['1.0', '1', '1.00'], false)).toEqual(['1.0', '1', '1.00']));
});

describe('who is who', () => {
  test('a whole name in one column; given name and surname in two', () => {
    const roles = (titles: string[]): (string | undefined)[] =>
      markNameColumns(titles.map((title, n) => column(`c${n}`, title))).map(({ role }) => role);
    expect(roles(['Class', 'Name'])).toEqual([undefined, 'name']);
    expect(roles(['Surname', 'Class', 'First name'])).toEqual(['surname', undefined, 'given name']);
    expect(roles(['Class'])).toEqual(['name']);
  });
  test('the address of the family goes before the learner’s own, where half of its cells are addresses', () => {
    const rows = (share: number): string[][] =>
      Array.from({ length: 10 }, (_, n) => [`l${n}@x.example`, n < share ? `p${n}@x.example` : 'none']);
    const columns = [column('own', 'Email'), column('home', 'Guardian email')];
    expect(guessAddressColumn(rollOf(columns, rows(6)))?.id).toBe('home');
    expect(guessAddressColumn(rollOf(columns, rows(5)))?.id).toBe('own');
    expect(
      guessAddressColumn(
        rollOf(
          [columns[1]!],
          rows(5).map((row) => [row[1]!]),
        ),
      )?.id,
    ).toBe('home');
    expect(
      guessAddressColumn(
        rollOf(
          [columns[1]!],
          rows(4).map((row) => [row[1]!]),
        ),
      ),
    ).toBeUndefined();
    expect(guessAddressColumn(rollOf(columns, []))).toBeUndefined();
  });
  test('a name is one line, without blanks too many', () => {
    const columns = [column('c', 'Name', { role: 'name' })];
    expect(learnerName({ id: 'e', position: 0, values: { c: '  Ada \n Bo ' } }, columns)).toBe('Ada Bo');
  });
});

describe('what a patch says of itself', () => {
  const roll = rollOf(
    [column('n', 'Name', { role: 'name' }), column('m', 'Mark')],
    [
      ['Ada', '1'],
      ['Bo', '2'],
    ],
  );
  const cell = (entryId: string, columnId: string) => ({ entryId, columnId, text: 'x' });
  const entry = { id: 'entry9', position: 9, values: {} };
  test.each<[RollPatch, string]>([
    [{ cells: [cell('e0', 'm')] }, 'Mark of Ada'],
    [{ cells: [cell('gone', 'm')] }, '1 cell'],
    [{ cells: [cell('e0', 'm')], columns: columnChanges(roll.columns, []) }, '1 cell'],
    [{ cells: [cell('e0', 'm'), cell('e1', 'm')] }, '2 cells'],
    [{ leftOut: [{ entryId: 'e0', reason: 'x' }] }, '1 entry left out or taken back'],
    [
      {
        leftOut: [
          { entryId: 'e0', reason: 'x' },
          { entryId: 'e1', reason: null },
        ],
      },
      '2 entries left out or taken back',
    ],
    [{ added: [entry] }, '1 entry added'],
    [{ added: [entry, { ...entry, id: 'entry8' }] }, '2 entries added'],
    [{ taken: ['e0'] }, '1 entry taken away'],
    [{ key: ['n'] }, 'the key'],
    [{ columns: columnChanges(roll.columns, []) }, 'the columns'],
  ])('%j is %s', (patch, what) => expect(describePatch(patch, roll)).toBe(what));

  test.each<[RollPatch, boolean]>([
    [{}, true],
    [{ cells: [], leftOut: [], added: [], taken: [], columns: [] }, true],
    [{ key: ['n'] }, false],
    [{ cells: [cell('e0', 'm')] }, false],
    [{ taken: ['e0'] }, false],
    [{ columns: columnChanges(roll.columns, []) }, false],
  ])('%j changes nothing: %s', (patch, is) => expect(isEmptyPatch(patch)).toBe(is));
});

describe('patches at their edges', () => {
  const roll = rollOf(
    [column('n', 'Name')],
    Array.from({ length: 6 }, (_, n) => [`N${n}`]),
  );
  test('one entry, some, all, and the last: each is written where it stands', () => {
    for (const count of [1, 3, 4, 6]) {
      const ids = roll.entries.slice(-count).map(({ id }) => id);
      const patched = applyPatch(roll, {
        cells: ids.map((entryId) => ({ entryId, columnId: first(roll), text: 'new' })),
      });
      if (!patched.ok) throw new Error();
      expect([...patched.value.touched].sort()).toEqual([...ids].sort());
      expect(patched.value.roll.entries.map(({ values }) => values['n'])).toEqual([
        ...roll.entries.slice(0, -count).map(({ values }) => values['n']),
        ...Array<string>(count).fill('new'),
      ]);
    }
  });
  test('an entry goes where its position says', () => {
    const at = (position: number): string[] => {
      const patched = applyPatch(roll, { added: [{ id: 'added1', position, values: {} }] });
      return patched.ok ? patched.value.roll.entries.map(({ id }) => id) : [];
    };
    expect(at(0).indexOf('added1')).toBe(1);
    expect(at(5).indexOf('added1')).toBe(6);
    expect(at(99).at(-1)).toBe('added1');
  });
  test('as many columns as a sheet may have, and not one more', () => {
    const columns = Array.from({ length: SHEET_LIMITS.columns }, (_, n) => column(`c${n}`, `C${n}`));
    const change = (after: Column[]) => applyPatch(rollOf([], []), { columns: columnChanges([], after) });
    expect(change(columns).ok).toBe(true);
    expect(change([...columns, column('more', 'More')])).toMatchObject({
      ok: false,
      problem: { code: 'roll-columns' },
    });
  });
  test.each([
    ['', 'title-blank'],
    ['  ', 'title-blank'],
    ['Name', 'title-taken'],
  ])('a column cannot be called “%s”', (title, code) => {
    const after = [...roll.columns, column('x', title)];
    expect(applyPatch(roll, { columns: columnChanges(roll.columns, after) })).toMatchObject({
      ok: false,
      problem: { code },
    });
  });
  test('a key loses the columns that go', () => {
    const keyed = { ...rollOf([column('n', 'Name'), column('own', 'Own')], [['A', '1']]), key: ['n', 'own'] };
    const patched = applyPatch(keyed, { columns: columnChanges(keyed.columns, keyed.columns.slice(0, 1)) });
    expect(patched.ok && patched.value.roll.key).toEqual(['n']);
    const other = applyPatch(keyed, { key: ['own', 'gone'] });
    expect(other.ok && [other.value.roll.key, other.value.undo.key]).toEqual([['own'], ['n', 'own']]);
  });
});
