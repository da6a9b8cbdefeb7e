import fc from 'fast-check';
import type { Column, Sheet } from '../table/index.js';
import type { Worked } from '../worked/index.js';
import { readCsv, SHEET_LIMITS } from '../table/index.js';
import {
  applyJoin,
  applyPatch,
  applyRefresh,
  arrange,
  blankEntry,
  changeColumns,
  columnChanges,
  changesNothing,
  guessJoinKey,
  guessKey,
  insistOn,
  keyTroubles,
  makeRoll,
  markNameColumns,
  PLAIN_VIEW,
  planJoin,
  planRefresh,
  proposeKey,
  takeOutSource,
  WHOLE_NAME,
  type JoinSpec,
  type RefreshDecisions,
  type Roll,
  type RollPatch,
} from './index.js';

let count = 0;
const newId = (): string => `n${++count}`;
const sheetOf = (csv: string): Sheet => {
  const read = readCsv(new TextEncoder().encode(csv), newId);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
};
function rollOf(csv: string, sourceId = 'base'): Roll {
  const sheet = sheetOf(csv);
  const columns = markNameColumns(sheet.columns.map((column) => ({ ...column, sourceId })));
  const roll = makeRoll({ ...sheet, columns }, newId);
  const key = guessKey(roll);
  return key ? { ...roll, key: [key.id] } : roll;
}
const at = (roll: Roll, title: string): string => roll.columns.find((column) => column.title === title)!.id;
const texts = (roll: Roll, title: string): string[] =>
  roll.entries.map((entry) => entry.values[at(roll, title)] ?? '');
function patched(roll: Roll, patch: RollPatch): { roll: Roll; undo: RollPatch } {
  const result = applyPatch(roll, patch);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}
const worked = (): Worked => ({ kind: 'expression', formula: [], rounding: null });
const mend = (roll: Roll, row: number, title: string, text: string): Roll =>
  patched(roll, { cells: [{ entryId: roll.entries[row]!.id, columnId: at(roll, title), text }] }).roll;

describe('patches', () => {
  const roll = rollOf('Name,Class,Mark\nAmara,8A,7\nIlse,8B,\nZoë,8A,9\n');
  test('a mended cell remembers what the source says, and forgets it when it says the same again', () => {
    const mended = mend(roll, 0, 'Name', 'Amara O.');
    expect(mended.entries[0]?.mends).toEqual({ [at(roll, 'Name')]: { text: 'Amara' } });
    expect(mend(mend(mended, 0, 'Name', 'A'), 0, 'Name', 'Amara')).toEqual(roll);
  });
  test('the exact value of a workbook’s cell goes with a mend and comes back with it', () => {
    const [first] = roll.entries;
    const exact = { ...first!, exact: { [at(roll, 'Mark')]: 'n:7.25' } };
    const known = { ...roll, entries: [exact, ...roll.entries.slice(1)] };
    const { roll: mended, undo } = patched(known, {
      cells: [{ entryId: exact.id, columnId: at(roll, 'Mark'), text: '8' }],
    });
    expect(mended.entries[0]?.exact).toBeUndefined();
    expect(patched(mended, undo).roll).toEqual(known);
  });
  test('columns of a source stay, titles stay unique; those that were added here come and go with their cells', () => {
    const without = roll.columns.slice(1);
    expect(applyPatch(roll, { columns: columnChanges(roll.columns, without) })).toMatchObject({
      ok: false,
      problem: { code: 'column-of-source' },
    });
    const twice = roll.columns.map((column) => ({ ...column, title: 'X' }));
    expect(applyPatch(roll, { columns: columnChanges(roll.columns, twice) })).toMatchObject({
      ok: false,
      problem: { code: 'title-taken' },
    });
    const own = { id: 'own', title: 'Team' };
    const added = patched(roll, {
      columns: columnChanges(roll.columns, [...roll.columns, own]),
      cells: [{ entryId: roll.entries[0]!.id, columnId: 'own', text: 'Otters' }],
    });
    const taken = patched(added.roll, { columns: columnChanges(added.roll.columns, roll.columns) });
    expect(taken.roll.entries[0]?.values['own']).toBeUndefined();
    expect(patched(taken.roll, taken.undo).roll.entries[0]?.values['own']).toBe('Otters');
  });
  test('an entry that is added here stands last, is its own source, and can be taken away again', () => {
    const made = blankEntry(roll, 'new');
    const name = roll.columns[0]!.id;
    const added = patched(roll, {
      added: [{ ...made, values: { nowhere: 'x' } }],
      cells: [{ entryId: 'new', columnId: name, text: 'Odalys' }],
    });
    expect(added.roll.entries.at(-1)).toEqual({ ...made, values: { [name]: 'Odalys' } });
    expect(patched(added.roll, added.undo).roll).toEqual(roll);
    const first = roll.entries[0]!;
    const taken = patched(added.roll, { taken: [first.id, 'gone'] });
    expect(taken.roll.entries).toHaveLength(roll.entries.length);
    expect(patched(taken.roll, taken.undo).roll).toEqual(added.roll);
    // What is sent twice is there once.
    expect(patched(added.roll, { added: [made, made] }).roll).toEqual(added.roll);
  });
  test('a roll does not grow beyond its limit', () => {
    const added = Array.from({ length: SHEET_LIMITS.rows }, (_, n) => ({
      ...blankEntry({ columns: [], entries: [] }, `more${n}`),
    }));
    expect(applyPatch(roll, { added })).toMatchObject({ ok: false, problem: { code: 'too-many-rows' } });
  });
  test('every patch is taken back by its undo (property)', () => {
    const cell = fc.record({
      entryId: fc.constantFrom('x', ...roll.entries.map(({ id }) => id)),
      columnId: fc.constantFrom(...roll.columns.map(({ id }) => id)),
      text: fc.constantFrom('', 'a', '7', 'Amara', '8A'),
    });
    const out = fc.record({
      entryId: fc.constantFrom(...roll.entries.map(({ id }) => id)),
      reason: fc.constantFrom(null, 'left', 'twice'),
    });
    const patch = fc.record({
      cells: fc.array(cell, { maxLength: 6 }),
      leftOut: fc.array(out, { maxLength: 3 }),
      added: fc.array(
        fc.record({
          id: fc.constantFrom('x', 'y'),
          position: fc.nat({ max: 9 }),
          values: fc.constant({}),
          byHand: fc.boolean(),
        }),
        { maxLength: 2 },
      ),
      taken: fc.array(fc.constantFrom('x', 'y', ...roll.entries.map(({ id }) => id)), { maxLength: 2 }),
    });
    fc.assert(
      fc.property(fc.array(patch, { maxLength: 5 }), (patches) => {
        let now = roll;
        const undos: RollPatch[] = [];
        for (const one of patches) {
          const step = patched(now, one);
          undos.unshift(step.undo);
          now = step.roll;
        }
        for (const undo of undos) now = patched(now, undo).roll;
        expect(now.entries).toEqual(roll.entries);
      }),
    );
  });
});

describe('columns that two change at once', () => {
  const [one, two, three]: [Column, Column, Column] = [
    { id: 'a', title: 'A' },
    { id: 'b', title: 'B', type: 'number', format: { decimal: ',' } },
    { id: 'c', title: 'C' },
  ];
  const before = [one, two];
  const change = (now: Column[], after: Column[]): unknown => {
    const changed = changeColumns(now, columnChanges(before, after));
    return changed.ok ? changed.value : changed.problem.code;
  };
  test('changes of different columns are both there; what came stays, what went stays gone', () => {
    const renamed = { ...two, title: 'Beta' };
    expect(change([one, renamed], [{ ...one, hidden: true }, two])).toEqual([
      { ...one, hidden: true },
      renamed,
    ]);
    expect(change([one, three, two], [{ ...one, hidden: true }, two])).toEqual([
      { ...one, hidden: true },
      three,
      two,
    ]);
    expect(change([two], [one, two, three])).toEqual([two, three]);
    expect(change([one, two, three], [two])).toEqual([two, three]);
    expect(change([one, two, three], [two, one])).toEqual([two, one, three]);
    // Behind a column that is gone is at the end; before all others is there whatever came.
    expect(change([one], [one, two, three])).toEqual([one, three]);
    expect(change([three], [two, one])).toEqual([three]);
  });
  test('the same column is asked about, unless both say the same', () => {
    const mine = [one, { ...two, title: 'Mine' }];
    expect(change([one, { ...two, title: 'Theirs' }], mine)).toBe('column-changed-elsewhere');
    expect(change([one], mine)).toBe('column-changed-elsewhere');
    expect(change([one, { ...two, title: 'Theirs' }], [one])).toBe('column-changed-elsewhere');
    expect(change([one, two, { ...three, title: 'Theirs' }], [one, two, three])).toBe(
      'column-changed-elsewhere',
    );
    expect(change(mine, mine)).toEqual(mine);
    // Kept in another order of its parts.
    const again: Column = { format: { decimal: ',' }, type: 'number', title: 'B', id: 'b' };
    expect(change([one, again, three], [one, { ...two, title: 'Mine' }])).toEqual([one, mine[1], three]);
  });
  test('who has seen theirs and insists has their own, also where it is gone', () => {
    const mine = [one, { ...two, title: 'Mine' }];
    const insisted = (now: Column[], after: Column[]): unknown =>
      changeColumns(now, insistOn(columnChanges(before, after), now));
    expect(insisted([one, { ...two, title: 'Theirs' }], mine)).toEqual({ ok: true, value: mine });
    expect(insisted([one], mine)).toEqual({ ok: true, value: mine });
    expect(insisted([one, { ...two, title: 'Theirs' }], [one])).toEqual({ ok: true, value: [one] });
    expect(insisted([one, two, { ...three, title: 'Theirs' }], [one, two, three])).toEqual({
      ok: true,
      value: [one, two, three],
    });
  });
  test('only what is another one is in the changes, and moves are as few as can be', () => {
    const list = [one, two, three, { id: 'd', title: 'D' }];
    expect(columnChanges(list, list)).toEqual([]);
    expect(columnChanges(list, [three, one, two, list[3]!])).toEqual([
      { do: 'move', columnId: 'c', behind: null },
    ]);
    expect(columnChanges(list, [one, three, list[3]!, two])).toEqual([
      { do: 'move', columnId: 'b', behind: 'd' },
    ]);
    expect(columnChanges(list, [one, { ...two, title: 'Beta' }, list[3]!])).toEqual([
      { do: 'remove', was: three },
      { do: 'set', column: { ...two, title: 'Beta' }, was: two },
    ]);
  });
  const column = fc.record({
    id: fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'),
    title: fc.constantFrom('x', 'y', 'z'),
  });
  const list = fc.uniqueArray(column, { selector: ({ id }) => id, maxLength: 6 });
  test('changes make one list of another, and back (property)', () => {
    fc.assert(
      fc.property(list, list, (from, to) => {
        expect(changeColumns(from, columnChanges(from, to))).toEqual({ ok: true, value: to });
      }),
    );
  });
  test('a change goes through others’ changes (property)', () => {
    fc.assert(
      fc.property(list, list, list, (now, seen, after) => {
        const changed = changeColumns(now, columnChanges(seen, after));
        if (!changed.ok) return;
        const ids = changed.value.map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        // What others added stays; what was added here is there; what was changed here is as it was wanted.
        const known = new Set(seen.map(({ id }) => id));
        for (const { id } of [...now, ...after]) if (!known.has(id)) expect(ids).toContain(id);
        for (const wanted of after) {
          const before = seen.find(({ id }) => id === wanted.id);
          if (before && before.title !== wanted.title) expect(changed.value).toContainEqual(wanted);
        }
        // Sent once more, since the answer was lost, it changes nothing.
        const again = changeColumns(changed.value, columnChanges(seen, after));
        if (again.ok) expect(new Set(again.value.map(({ id }) => id))).toEqual(new Set(ids));
      }),
    );
  });
});

describe('the view', () => {
  const roll = rollOf('Name,Mark,Day\nZoë,9,4/5/2026\nadam,10,30/4/2026\nÅsa,,1/5/2026\nBo,x,\n');
  const shown = (view: Partial<typeof PLAIN_VIEW>): string[] =>
    arrange(roll, { ...PLAIN_VIEW, ...view }, 'en').map((entry) => entry.values[at(roll, 'Name')]!);
  test('numbers sort by value, blanks last, either way', () => {
    const typed = { ...roll.columns.find(({ title }) => title === 'Mark')!, type: 'number' as const };
    const numbers = {
      ...roll,
      columns: roll.columns.map((column) => (column.id === typed.id ? typed : column)),
    };
    const names = (down: boolean): string[] =>
      arrange(numbers, { ...PLAIN_VIEW, sort: { columnId: typed.id, down } }).map(
        (e) => e.values[at(roll, 'Name')]!,
      );
    expect(names(false)).toEqual(['Zoë', 'adam', 'Bo', 'Åsa']);
    expect(names(true).at(-1)).toBe('Åsa');
  });
  test('names sort as the language does (Unicode CLDR root collation)', () => {
    expect(shown({ sort: { columnId: at(roll, 'Name'), down: false } })).toEqual([
      'adam',
      'Åsa',
      'Bo',
      'Zoë',
    ]);
  });
  test('dates sort by time, whatever they look like', () => {
    expect(shown({ sort: { columnId: at(roll, 'Day'), down: false } })).toEqual(['adam', 'Åsa', 'Zoë', 'Bo']);
  });
  test('finding and narrowing', () => {
    expect(shown({ find: 'asa' })).toEqual(['Åsa']);
    expect(shown({ filters: { [at(roll, 'Mark')]: { kind: 'blank' } } })).toEqual(['Åsa']);
    expect(shown({ filters: { [at(roll, 'Name')]: { kind: 'is', texts: ['Bo', 'Zoë'] } } })).toEqual([
      'Zoë',
      'Bo',
    ]);
    expect(shown({ who: 'out' })).toEqual([]);
  });
});

describe('keys', () => {
  test('an identity number is the key; blank and repeated keys are found', () => {
    const roll = rollOf('Student number,Name\nS1,Amara\nS2,Ilse\n');
    expect(roll.key).toEqual([at(roll, 'Student number')]);
    expect(keyTroubles(mend(roll, 1, 'Student number', ' s1 ')).repeated).toHaveLength(1);
    expect(keyTroubles(mend(roll, 1, 'Student number', '')).blank).toHaveLength(1);
    expect(rollOf('Name,Class\nA,8A\n').key).toBeUndefined();
  });
  test('a column of identity numbers that tells nearly all apart is proposed, with those whom it does not', () => {
    const roll = rollOf('Student number,Name\nS1,Amara\nS2,Ilse\nS2,Bo\nS4,Zoë\n');
    expect(roll.key).toBeUndefined();
    const proposal = proposeKey(roll)!;
    expect(proposal.column.title).toBe('Student number');
    expect(proposal.repeated.map((group) => group.map(({ id }) => id))).toEqual([
      [roll.entries[1]!.id, roll.entries[2]!.id],
    ]);
    expect(proposeKey({ ...roll, key: [proposal.column.id] })).toBeNull();
    expect(proposeKey(rollOf('Student number,Name\nS1,Amara\nS1,Ilse\n,Bo\n'))).toBeNull();
    expect(proposeKey(rollOf('Name,Class\nA,8A\nB,8A\n'))).toBeNull();
  });
});

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
