import { type Roll } from '../roll/index.js';
import { type Grid, type Reading, type Sheet } from '../table/index.js';
import {
  applyJoin,
  applyRefresh,
  GONE,
  guessJoinKey,
  isOneRoster,
  JoinSpec,
  planJoin,
  planRefresh,
  readingLike,
  readOneRoster,
  takeOutSource,
  WHOLE_NAME,
  type BundleTable,
  type ReadableFile,
} from './index.js';
import { at, newId, rollOf, sheetOf, texts } from '../../test/rolls.js';

describe('the key of a join', () => {
  test('numbers that both have, before names that are alike by chance', () => {
    const roll = rollOf('Number,Name\nS1,Ada\nS2,Bo\nS3,Cy\nS4,Di');
    expect(guessJoinKey(roll, sheetOf('ID,Mark\nS1,3\nS2,4\nS9,5'))).toEqual({
      left: at(roll, 'Number'),
      right: 'ID',
    });
  });
  test('a name in two columns is found in one', () => {
    const roll = rollOf('First name,Surname\nAda,Lane\nBo,Marsh\nCy,Reed');
    expect(guessJoinKey(roll, sheetOf('Who,Mark\nAda Lane,3\nBo Marsh,4'))).toEqual({
      left: WHOLE_NAME,
      right: WHOLE_NAME,
    });
  });
  test('a fifth in common is enough, less is none', () => {
    const roll = rollOf(`Number\n${Array.from({ length: 10 }, (_, n) => `S${n}`).join('\n')}`);
    const other = (shared: number): Sheet =>
      sheetOf(`ID\n${Array.from({ length: 10 }, (_, n) => (n < shared ? `S${n}` : `T${n}`)).join('\n')}`);
    expect(guessJoinKey(roll, other(2))).not.toBeNull();
    expect(guessJoinKey(roll, other(1))).toBeNull();
  });
});

describe('a joined sheet', () => {
  const roll = rollOf('Number,Name\nS1,Ada\nS2,Bo');
  const spec = (more: Partial<JoinSpec> = {}): JoinSpec =>
    JoinSpec.parse({ left: [at(roll, 'Number')], right: ['ID'], shape: 'columns', ...more });
  const join = (to: Roll, csv: string, more: Partial<JoinSpec> = {}): Roll => {
    const sheet = sheetOf(csv);
    const wanted = spec(more);
    return applyJoin(to, sheet, wanted, planJoin(to, sheet, wanted), { id: 'second', name: 'second.csv' });
  };
  test('columns of the same title are told apart; who is not in it has blank cells', () => {
    const joined = join(roll, 'ID,Name,Mark\nS1,Ada L.,7');
    expect(joined.columns.map(({ title }) => title).slice(0, 2)).toEqual(['Number', 'Name']);
    expect(new Set(joined.columns.map(({ title }) => title)).size).toBe(joined.columns.length);
    expect(texts(joined, 'Mark')).toEqual(['7', '']);
  });
  test('joined once more it keeps its columns and their place, and its newer cells', () => {
    const once = join(roll, 'ID,Mark\nS1,7\nS2,8');
    const moved = { ...once, columns: [...once.columns.slice(-1), ...once.columns.slice(0, -1)] };
    const again = join(moved, 'ID,Mark\nS1,9');
    expect(again.columns.map(({ id }) => id)).toEqual(moved.columns.map(({ id }) => id));
    expect(texts(again, 'Mark')).toEqual(['9', '']);
  });
  test('as small tables, and out again', () => {
    const joined = join(roll, 'ID,Club\nS1,Chess\nS1,Choir\nS9,Band', { shape: 'table' });
    expect(joined.entries.map(({ tables }) => tables?.['second']?.map((row) => row[1]))).toEqual([
      ['Chess', 'Choir'],
      undefined,
    ]);
    expect(takeOutSource(joined, 'second')).toEqual(roll);
  });
});

describe('a newer version', () => {
  const refresh = (roll: Roll, csv: string, missing: 'keep' | 'leave out' = 'leave out') => {
    const sheet = sheetOf(csv);
    const plan = planRefresh(roll, sheet, 'base');
    return {
      plan,
      roll: applyRefresh(roll, sheet, 'base', plan, { otherConflicts: 'mine', missing }, newId),
    };
  };
  test('who is not in it is left out behind the others, or kept', () => {
    const roll = rollOf('Name,Mark\nAda,1\nBo,2\nCy,3');
    const out = refresh(roll, 'Name,Mark\nCy,3\nAda,1').roll;
    expect(out.entries.map(({ position, leftOut }) => [position, leftOut])).toEqual([
      [0, undefined],
      [1, undefined],
      [2, GONE],
    ]);
    expect(texts(out, 'Name')).toEqual(['Cy', 'Ada', 'Bo']);
    const kept = refresh(roll, 'Name,Mark\nCy,3\nAda,1', 'keep').roll;
    expect(kept.entries[2]).toMatchObject({ gone: true, position: 2 });
    expect(kept.entries[2]!.leftOut).toBeUndefined();
  });
  test('a column of another title is found by its cells, where four of five are the same', () => {
    const csv = (title: string, changed: number): string =>
      `Name,${title}\n${Array.from({ length: 10 }, (_, n) => `N${n},${n < changed ? 'other' : n * 7}`).join('\n')}`;
    const how = (changed: number): string[] =>
      refresh(rollOf(csv('Points', 0)), csv('Total', changed)).plan.columns.map((pair) => pair.how);
    expect(how(2)).toEqual(['same', 'renamed']);
    expect(how(3)).toEqual(['same', 'removed', 'new']);
  });
  test('a title that is nearly the same is the same, unless it has other numbers', () => {
    const how = (before: string, after: string): string[] =>
      refresh(rollOf(`Name,${before}\nA,1\nB,2\nC,3`), `Name,${after}\nA,7\nB,8\nC,9`).plan.columns.map(
        (pair) => pair.how,
      );
    expect(how('Homework', 'Homework mark')).toEqual(['same', 'renamed']);
    expect(how('Homework', 'Homwork')).toEqual(['same', 'renamed']);
    expect(how('Test 1', 'Test 2')).toEqual(['same', 'removed', 'new']);
    expect(how('Art', 'Arts')).toEqual(['same', 'removed', 'new']);
  });
  test('two titles that are both nearly the same are nobody’s', () => {
    const { plan } = refresh(
      rollOf('Name,Homework\nA,1\nB,2'),
      'Name,Homework one,Homework two\nA,7,8\nB,9,9',
    );
    expect(plan.columns.map((pair) => pair.how).sort()).toEqual(['new', 'new', 'removed', 'same']);
  });
});

describe('a OneRoster bundle', () => {
  test('known by its parts, in any folder and case', () => {
    expect(isOneRoster(['users.csv', 'manifest.csv'])).toBe(isOneRoster(['a/Users.CSV', 'a/Manifest.csv']));
    expect(isOneRoster(['orgs.csv'])).toBe(false);
  });
  test('two guardians have columns, a third has none', () => {
    const table = (titles: string[], rows: string[][]): BundleTable => ({ titles, rows });
    const titles = [
      'sourcedId',
      'status',
      'enabledUser',
      'role',
      'givenName',
      'familyName',
      'email',
      'agentSourcedIds',
    ];
    const user = (id: string, role: string, name: string, agents = ''): string[] => [
      id,
      'active',
      'true',
      role,
      name,
      'Reed',
      `${name}@x.example`,
      agents,
    ];
    const read = readOneRoster(
      {
        users: table(titles, [
          user('s', 'student', 'Ada', 'g1,g2,g3'),
          ...['g1', 'g2', 'g3'].map((id) => user(id, 'guardian', id)),
        ]),
      },
      newId,
    );
    const text = JSON.stringify(read);
    expect([text.includes('g1@'), text.includes('g2@'), text.includes('g3@')]).toEqual([true, true, false]);
  });
});

describe('how a newer file is read', () => {
  const grid = (name: string, rows: string[][], notes: string[] = []): Grid => ({
    name,
    hidden: false,
    rows,
    exact: rows.map(() => undefined),
    merges: [],
    notes: notes.map((code) => ({ code, message: code })),
  });
  const file = (grids: readonly (Grid & { hidden: boolean })[]): ReadableFile => ({
    sheets: grids.map(({ name, hidden }) => ({ name, hidden })),
    grid: ({ sheet }: Reading) => ({
      ok: true,
      value: grids.find(({ name }) => name === (sheet ?? grids[0]!.name)) ?? grids[0]!,
    }),
  });
  const people = [
    ['Number', 'Name', 'Mark'],
    ['S1', 'Ada', '1'],
  ];
  const titles = ['Number', 'Name', 'Mark'];
  test('the sheet of the same name, though another one has the titles too', () => {
    const two = file([grid('Old', people), grid('Now', people)]);
    expect(readingLike(two, { sheet: 'Now', header: { row: 1, count: 1 } }, titles)).toMatchObject({
      sheet: 'Now',
      header: { row: 1, count: 1 },
    });
  });
  test('else the one that has the titles, wherever they stand; a hidden one is none', () => {
    const others = [grid('Read me', [['Hello'], ['World']]), { ...grid('Secret', people), hidden: true }];
    const moved = grid('Term 2', [['Class 8A'], [], ...people]);
    expect(readingLike(file([...others, moved]), { sheet: 'Term 1' }, titles)).toMatchObject({
      sheet: 'Term 2',
      header: { row: 3, count: 1 },
    });
  });
  test('half of the titles are enough, fewer are not', () => {
    const read = (rows: string[][]): Reading =>
      readingLike(file([grid('', rows)]), {}, ['Number', 'Name', 'Mark', 'Class']);
    expect(
      read([
        ['Number', 'Name', 'Other', 'Else'],
        ['1', '2', '3', '4'],
      ]).header,
    ).toEqual({ row: 1, count: 1 });
    expect(
      read([
        ['Number', 'That', 'Other', 'Else'],
        ['1', '2', '3', '4'],
      ]).header,
    ).toBeUndefined();
  });
  test('letters of before where they are only guessed now, and never against a mark in the file', () => {
    const read = (encoding: Reading['encoding'], notes: string[]): Reading['encoding'] =>
      readingLike(file([grid('', people, notes)]), { encoding }, titles).encoding;
    expect(read('windows-1250', ['encoding-guessed'])).toBe('windows-1250');
    expect(read('windows-1250', [])).toBeUndefined();
    expect(read('utf-8', ['encoding-guessed'])).toBeUndefined();
    expect(
      readingLike(file([grid('Sheet', people, ['encoding-guessed'])]), { encoding: 'macintosh' }, titles)
        .encoding,
    ).toBeUndefined();
  });
  test('what was chosen of totals, hidden rows and titles stays', () => {
    const before: Reading = { keepTotals: true, skipHidden: false, header: { row: 1, count: 0 } };
    expect(readingLike(file([grid('', [['1', '2']])]), before, titles)).toEqual({
      keepTotals: true,
      skipHidden: false,
      header: { row: 1, count: 0 },
    });
  });
});

test('rows that were added by hand stand behind all others, in their order', () => {
  const roll = rollOf('Name,Mark\nAda,1\nBo,2');
  const own = ['Cy', 'Di'].map((name, n) => ({
    id: `own${n}`,
    position: n,
    values: { [at(roll, 'Name')]: name },
    byHand: true,
  }));
  const with2: Roll = { ...roll, entries: [...own, ...roll.entries] };
  const sheet = sheetOf('Name,Mark\nAda,1\nEmil,3');
  const plan = planRefresh(with2, sheet, 'base');
  const after = applyRefresh(
    with2,
    sheet,
    'base',
    plan,
    { otherConflicts: 'mine', missing: 'leave out' },
    newId,
  );
  expect(after.entries.map(({ values, position }) => [values[at(roll, 'Name')], position])).toEqual([
    ['Ada', 0],
    ['Emil', 1],
    ['Bo', 2],
    ['Cy', 3],
    ['Di', 4],
  ]);
});

describe('which of two is taken', () => {
  test('of keys that say as much the first column and the first title', () => {
    const roll = rollOf('A,B\nS1,S1\nS2,S2\nS3,S3');
    expect(guessJoinKey(roll, sheetOf('X,Y\nS1,S1\nS2,S2'))).toEqual({ left: at(roll, 'A'), right: 'X' });
  });
  test('a column of one name in two is no whole name', () => {
    const roll = rollOf('Name,Mark\nAda,1\nBo,2');
    expect(guessJoinKey(roll, sheetOf('Name,Note\nAda,x\nBo,y'))).toEqual({
      left: at(roll, 'Name'),
      right: 'Name',
    });
  });
  test('names of which as many letters differ as may, and one more; of two alike the first', () => {
    const near = (name: string, ...rows: string[]): (string | null)[] => {
      const roll = rollOf(`Name\n${name}\nZed Other`);
      const plan = planJoin(roll, sheetOf(`Name,Mark\n${rows.map((row) => `${row},1`).join('\n')}`), {
        ...JoinSpec.parse({ left: [at(roll, 'Name')], right: ['Name'], shape: 'columns' }),
      });
      return plan.near.map(({ rowText }) => rowText);
    };
    // Twelve letters: two may differ; five: one; four: none.
    expect(near('Marietta Lane', 'Mariette Lame')).toEqual(['Mariette Lame']);
    expect(near('Marietta Lane', 'Mariettx Lmnx')).toEqual([]);
    expect(near('Sarah', 'Sarai')).toEqual(['Sarai']);
    expect(near('Sara', 'Sari')).toEqual([]);
    expect(near('Sarah', 'Sarai', 'Sarab')).toEqual(['Sarai']);
  });
});

test('two titles that are alike to one column are nobody’s to choose between', () => {
  const roll = rollOf('Name,Remark\nAda,x\nBo,y');
  const plan = planRefresh(roll, sheetOf('Name,Remarks A,Remarks B\nAda,1,2\nBo,3,4'), 'base');
  expect(plan.columns.filter(({ how }) => how === 'renamed')).toEqual([]);
});
