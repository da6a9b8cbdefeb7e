import fc from 'fast-check';
import type { Column } from '../column/index.js';
import { SHEET_LIMITS } from '../table/index.js';
import {
  applyPatch,
  arrange,
  blankEntry,
  changeColumns,
  columnChanges,
  insistOn,
  keyTroubles,
  PLAIN_VIEW,
  proposeKey,
  type RollPatch,
} from './index.js';
import { at, mend, patched, rollOf } from '../../test/rolls.js';

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
  test('a column of pictures that is taken out comes back with them', () => {
    const photo = { id: 'photo', title: 'Photo', type: 'picture' as const };
    const cell = {
      entryId: roll.entries[0]!.id,
      columnId: 'photo',
      text: 'amara.jpg',
      exact: 'i:0123456789abcdef',
    };
    const { roll: with_, undo } = patched(roll, {
      columns: columnChanges(roll.columns, [...roll.columns, photo]),
      cells: [cell],
    });
    const { roll: out, undo: back } = patched(with_, {
      columns: columnChanges(with_.columns, roll.columns),
    });
    expect(out.entries[0]!.exact).toBeUndefined();
    expect(patched(out, back).roll.entries[0]!.exact).toEqual({ photo: cell.exact });
    // Undone and done again.
    const undone = patched(with_, undo);
    expect(undone.roll.columns).toEqual(roll.columns);
    expect(patched(undone.roll, undone.undo).roll.entries[0]!.exact).toEqual({ photo: cell.exact });
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
    expect(applyPatch(roll, { added })).toMatchObject({ ok: false, problem: { code: 'too-many-entries' } });
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
