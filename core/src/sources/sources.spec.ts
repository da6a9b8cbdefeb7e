import fc from 'fast-check';
import type { Worked } from '../column/index.js';
import {
  applyJoin,
  applyRefresh,
  changesNothing,
  guessJoinKey,
  planJoin,
  planRefresh,
  takeOutSource,
  WHOLE_NAME,
  type JoinSpec,
  type RefreshDecisions,
} from './index.js';
import { at, mend, newId, patched, rollOf, sheetOf, texts } from '../../test/rolls.js';
import { blankEntry, columnChanges, type Roll } from '../roll/index.js';

const worked = (): Worked => ({ kind: 'expression', formula: [], rounding: null });

describe('a newer version', () => {
  const KEYED = 'Student number,Name,Class\nS1,Amara,8A\nS2,Ilse,8B\nS3,Zoë,8A\n';
  const decide = (decisions: Partial<RefreshDecisions> = {}): RefreshDecisions => ({
    otherConflicts: 'mine',
    missing: 'leave out',
    ...decisions,
  });
  const refresh = (roll: Roll, csv: string, decisions: Partial<RefreshDecisions> = {}) => {
    const sheet = sheetOf(csv);
    const plan = planRefresh(roll, sheet, 'base', decisions.columns);
    return { plan, roll: applyRefresh(roll, sheet, 'base', plan, decide(decisions), newId) };
  };

  test('the same file changes nothing (property over rows, with and without a key)', () => {
    const word = fc.constantFrom('Amara', 'Ilse', 'Zoë', '8A', '', ' x ');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(word, word), { minLength: 1, maxLength: 12 }),
        fc.boolean(),
        (rows, keyed) => {
          fc.pre(rows.some((row) => row.some((cell) => cell.trim() !== '')));
          const csv = `Student number,Name,Class\n${rows.map((row, n) => `${keyed ? `S${n}` : ''},${row.join(',')}`).join('\n')}\n`;
          fc.pre(keyed || rows.every((row) => row.join('').trim() !== ''));
          const roll = rollOf(csv);
          const again = refresh(roll, csv);
          expect(changesNothing(again.plan)).toBe(true);
          expect(again.roll).toEqual(roll);
        },
      ),
    );
  });
  test('added, changed and missing entries; identities stay', () => {
    const roll = rollOf(KEYED);
    const { plan, roll: after } = refresh(
      roll,
      'Student number,Name,Class\nS3,Zoë,8C\nS1,Amara,8A\nS4,Bo,8A\n',
    );
    expect([plan.added, plan.missing, plan.changes.length]).toEqual([[2], [roll.entries[1]!.id], 1]);
    expect(texts(after, 'Name')).toEqual(['Zoë', 'Amara', 'Bo', 'Ilse']);
    expect(after.entries[0]?.id).toBe(roll.entries[2]?.id);
    expect(after.entries[3]).toMatchObject({
      id: roll.entries[1]!.id,
      gone: true,
      leftOut: 'No longer in the source',
    });
    const back = refresh(after, KEYED).roll;
    expect(back.entries.map(({ leftOut, gone }) => [leftOut, gone])).toEqual([
      [undefined, undefined],
      [undefined, undefined],
      [undefined, undefined],
      ['No longer in the source', true],
    ]);
    expect(
      refresh(roll, 'Student number,Name,Class\nS1,Amara,8A\n', { missing: 'keep' }).roll.entries[1]?.leftOut,
    ).toBeUndefined();
  });
  test('an entry that was added here stays in, until the source has it too', () => {
    const roll = rollOf(KEYED);
    const { roll: mine } = patched(roll, {
      added: [blankEntry(roll, 'mine')],
      cells: [
        { entryId: 'mine', columnId: at(roll, 'Student number'), text: 'S9' },
        { entryId: 'mine', columnId: at(roll, 'Name'), text: 'Odalys' },
      ],
    });
    const { plan, roll: after } = refresh(mine, KEYED);
    expect(plan.missing).toEqual([]);
    expect(after).toEqual(mine);
    const found = refresh(after, `${KEYED}S9,Odalys,8C\n`);
    expect(found.plan.added).toEqual([]);
    expect(found.roll.entries.at(-1)).toMatchObject({ id: 'mine', position: 3 });
    expect(found.roll.entries.at(-1)).not.toHaveProperty('byHand');
    expect(texts(found.roll, 'Class').at(-1)).toBe('8C');
  });
  test('where the key is blank or stands twice, name and address tell who is meant', () => {
    const roll = {
      ...rollOf('Student number,Name,Mark\nS1,Amara,1\nS2,Ilse,2\nS2,Bo,3\n,Zoë,4\nS5,Odalys,5\n'),
    };
    const keyed = { ...roll, key: [at(roll, 'Student number')] };
    // Bo's number was put right, Zoë has one now, Odalys has lost hers; Ilse and Bo stand the other way round.
    const { plan, roll: after } = refresh(
      keyed,
      'Student number,Name,Mark\nS3,Bo,6\nS2,Ilse,6\nS1,Amara,6\nS4,Zoë,6\n,Odalys,6\n',
    );
    expect([plan.added, plan.missing]).toEqual([[], []]);
    const ids = (names: string[]): string[] =>
      names.map((name) => roll.entries.find(({ values }) => Object.values(values).includes(name))!.id);
    expect(after.entries.map(({ id }) => id)).toEqual(ids(['Bo', 'Ilse', 'Amara', 'Zoë', 'Odalys']));
  });
  test('another key is another person, whatever the name', () => {
    const roll = rollOf(KEYED);
    const { plan } = refresh(roll, 'Student number,Name,Class\nS7,Amara,8A\nS2,Ilse,8B\nS3,Zoë,8A\n');
    expect([plan.added, plan.missing]).toEqual([[0], [roll.entries[0]!.id]]);
  });
  test('a column that was renamed and changed is found by a title that is nearly the same; numbers must agree', () => {
    const roll = rollOf('Student number,Name,Mark,Test 1\nS1,Amara,5,1\nS2,Ilse,6,2\n');
    const { plan } = refresh(roll, 'Student number,Name,Mark (final),Test 2\nS1,Amara,7,3\nS2,Ilse,8,4\n');
    expect(plan.columns.map(({ how }) => how)).toEqual(['same', 'same', 'renamed', 'removed', 'new']);
  });
  test('no column stands twice: those worked out here or joined are left aside, those added here are the source’s', () => {
    const base = rollOf(KEYED);
    const joined: Roll = {
      ...base,
      columns: [
        ...base.columns,
        { id: 'house', title: 'House', sourceId: 'other', sourceTitle: 'House' },
        { id: 'rank', title: 'Rank', worked: worked() },
      ],
    };
    const { roll } = patched(joined, {
      columns: columnChanges(joined.columns, [...joined.columns, { id: 'team', title: 'Team' }]),
      cells: [{ entryId: joined.entries[0]!.id, columnId: 'team', text: 'Otters' }],
    });
    const csv =
      'Student number,Name,Class,House,Rank,team\nS1,Amara,8A,Reed,1,Otters\nS2,Ilse,8B,Fen,2,Hares\nS3,Zoë,8A,Fen,3,\n';
    const { plan, roll: after } = refresh(roll, csv);
    expect(plan.columns.filter(({ how }) => how === 'elsewhere').map(({ columnId }) => columnId)).toEqual([
      'house',
      'rank',
    ]);
    expect(after.columns.map(({ title }) => title)).toEqual([
      'Student number',
      'Name',
      'Class',
      'House',
      'Rank',
      'Team',
    ]);
    expect(after.columns.find(({ id }) => id === 'team')).toMatchObject({ sourceId: 'base' });
    expect(texts(after, 'Team')).toEqual(['Otters', 'Hares', '']);
    expect(changesNothing(refresh(after, csv).plan)).toBe(true);
    // And as a new column where people want it.
    expect(refresh(roll, csv, { columns: { House: null } }).roll.columns.map(({ title }) => title)).toContain(
      'House (2)',
    );
  });
  test('a sheet with no column in common finds nobody again', () => {
    const { plan } = refresh(rollOf('Name,Class\nAmara,8A\nIlse,8B\n'), 'X,Y\n1,2\n3,4\n');
    expect([plan.rows.size, plan.added.length, plan.missing.length]).toEqual([0, 2, 2]);
  });
  test('without a key, entries are found by their rows, then by name', () => {
    const roll = rollOf('Name,Class\nAmara,8A\nIlse,8B\nAmara,8C\n');
    const { roll: after } = refresh(roll, 'Name,Class\nIlse,8C\nAmara,8C\nAmara,8A\n');
    expect(after.entries.map(({ id }) => id)).toEqual([1, 2, 0].map((n) => roll.entries[n]!.id));
  });
  test('a mended cell stays where the source did not change; a conflict is decided', () => {
    const roll = mend(rollOf(KEYED), 1, 'Name', 'Ilse Brandt');
    const kept = refresh(roll, KEYED.replace('8B', '8C')).roll;
    expect([texts(kept, 'Name')[1], texts(kept, 'Class')[1]]).toEqual(['Ilse Brandt', '8C']);
    const newer = KEYED.replace('Ilse', 'Ilse B.');
    const { plan, roll: mine } = refresh(roll, newer);
    expect(plan.conflicts).toMatchObject([{ before: 'Ilse', mine: 'Ilse Brandt', after: 'Ilse B.' }]);
    expect(texts(mine, 'Name')[1]).toBe('Ilse Brandt');
    expect(Object.values(mine.entries[1]!.mends!)).toEqual([{ text: 'Ilse B.' }]);
    const key = `${roll.entries[1]!.id} ${at(roll, 'Name')}`;
    const theirs = refresh(roll, newer, { conflicts: { [key]: 'theirs' } }).roll;
    expect([texts(theirs, 'Name')[1], theirs.entries[1]!.mends]).toEqual(['Ilse B.', undefined]);
    const agrees = refresh(roll, KEYED.replace('Ilse', 'Ilse Brandt'));
    expect([agrees.plan.conflicts, agrees.roll.entries[1]!.mends]).toEqual([[], undefined]);
  });
  test('a column under a new title is found by its cells, and keeps its identity and the title that people gave it', () => {
    const roll = rollOf(KEYED);
    const { plan, roll: after } = refresh(
      roll,
      'Student number,Full name,Class,Mark\nS1,Amara,8A,7\nS2,Ilse,8B,8\nS3,Zoë,8A,9\n',
    );
    expect(plan.columns.map(({ how }) => how)).toEqual(['same', 'renamed', 'same', 'new']);
    expect(at(after, 'Full name')).toBe(at(roll, 'Name'));
    const called = {
      ...roll,
      columns: roll.columns.map((c) => (c.title === 'Name' ? { ...c, title: 'Learner' } : c)),
    };
    expect(refresh(called, 'Student number,Full name,Class\nS1,Amara,8A\n').roll.columns[1]?.title).toBe(
      'Learner',
    );
    const apart = refresh(roll, 'Student number,Full name,Class\nS1,Amara,8A\n', {
      columns: { 'Full name': null },
    }).plan;
    expect(apart.columns.map(({ how }) => how)).toEqual(['same', 'removed', 'same', 'new']);
  });
});

describe('a joined sheet', () => {
  const roll = rollOf('Name,Class\nZoë Ångström,8A\nIlse Brandt,8B\nAmara Okonjo,8A\nBo,8C\n');
  const spec = (change: Partial<JoinSpec> = {}): JoinSpec => ({
    left: [at(roll, 'Name')],
    right: ['Learner'],
    near: [],
    shape: 'columns',
    summaries: [],
    ...change,
  });
  const source = { id: 'src', name: 'Marks' };
  test('equal keys match; accents, order and single letters are asked; the rest is listed', () => {
    const sheet = sheetOf('Learner,Mark\nilse  brandt,7\nZoe Angstrom,8\nOkonjo Amara,9\nNobody,1\n');
    const plan = planJoin(roll, sheet, spec());
    expect([...plan.rows.values()]).toEqual([[0]]);
    expect(plan.near.map(({ entry, rowText }) => [entry, rowText])).toEqual([
      ['Zoë Ångström', 'Zoe Angstrom'],
      ['Amara Okonjo', 'Okonjo Amara'],
    ]);
    expect(plan.loneRows).toEqual([1, 2, 3]);
    const near = plan.near.map(({ entryKey, rowKey }, n) => ({
      entry: entryKey,
      row: rowKey,
      same: n === 0,
    }));
    const answered = planJoin(roll, sheet, spec({ near }));
    expect([answered.rows.size, answered.near]).toEqual([2, []]);
    const joined = applyJoin(roll, sheet, spec({ near }), answered, source);
    expect(texts(joined, 'Mark')).toEqual(['8', '7', '', '']);
    expect(takeOutSource(joined, 'src')).toEqual(roll);
  });
  test('numbers that differ are never alike; leading zeros are asked', () => {
    const numbered = rollOf('Id,Name\n00123,A\n124,B\n');
    const plan = planJoin(
      numbered,
      sheetOf('Learner,M\n123,x\n125,y\n'),
      spec({ left: [at(numbered, 'Id')] }),
    );
    expect(plan.near.map(({ rowText }) => rowText)).toEqual(['123']);
  });
  test('a name in two columns on the other side', () => {
    const sheet = sheetOf('First name,Surname,Mark\nIlse,Brandt,7\nBo,,3\n');
    expect(guessJoinKey(roll, sheet)).toEqual({ left: WHOLE_NAME, right: WHOLE_NAME });
    const plan = planJoin(roll, sheet, spec({ left: [WHOLE_NAME], right: [WHOLE_NAME] }));
    expect(plan.rows.size).toBe(2);
  });
  test('several rows make a small table, with sums, counts, means, the latest and lists', () => {
    const sheet = sheetOf(
      'Learner,Day,Minutes,What\nIlse Brandt,2026-03-05,10,late\nIlse Brandt,2026-03-04,2.5,sick\nBo,2026-03-01,,late\n',
    );
    const summaries: JoinSpec['summaries'] = [
      { of: 'Minutes', how: 'sum' },
      { of: 'Minutes', how: 'mean' },
      { of: 'Minutes', how: 'count' },
      { of: 'What', how: 'latest' },
      { of: 'What', how: 'list' },
    ];
    const wanted = spec({ shape: 'table', summaries });
    const joined = applyJoin(roll, sheet, wanted, planJoin(roll, sheet, wanted), source);
    const of = (n: number): string[] =>
      joined.columns.slice(2).map(({ id }) => joined.entries[n]!.values[id]!);
    expect(of(1)).toEqual(['12.5', '6.25', '2', 'late', 'late, sick']);
    expect(of(3)).toEqual(['', '', '0', 'late', 'late']);
    expect(joined.entries[1]?.tables?.['src']).toHaveLength(2);
    const again = applyJoin(joined, sheet, wanted, planJoin(joined, sheet, wanted), source);
    expect(again).toEqual(joined);
  });
  test('titles that are taken get the source’s name, and a mended cell of a joined column stays mended', () => {
    const sheet = sheetOf('Learner,Class,Mark\nIlse Brandt,9Z,7\n');
    const joined = applyJoin(roll, sheet, spec(), planJoin(roll, sheet, spec()), source);
    expect(joined.columns.map(({ title }) => title)).toEqual(['Name', 'Class', 'Class (Marks)', 'Mark']);
    const mended = mend(joined, 1, 'Mark', '8');
    const newer = sheetOf('Learner,Class,Mark\nIlse Brandt,9Z,9\n');
    const after = applyJoin(mended, newer, spec(), planJoin(mended, newer, spec()), source);
    expect(texts(after, 'Mark')[1]).toBe('8');
    expect(after.entries[1]?.mends?.[at(after, 'Mark')]).toEqual({ text: '9' });
  });
});
