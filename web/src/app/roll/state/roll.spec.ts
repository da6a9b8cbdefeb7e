import { HttpErrorResponse } from '@angular/common/http';
import type { Folio } from '@scriptum/core/contract';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { of, Subject, throwError } from 'rxjs';
import { Api } from '../../api/api';
import { SheetThread } from '../thread/sheet-thread';
import { testFolio, testWritings } from '../../testing/folio';
import { bringingInActions, bringingInFeature, askedOf } from './bringing-in';
import { deskActions, deskFeature } from '../../state/desk';
import { rollActions, rollFeature } from '../../state/roll';
import * as effects from './roll-effects';
import { sessionActions } from '../../state/session';
import { writingFeature } from '../../state/writing';

// The worker thread needs a browser.
jest.mock('../thread/sheet-thread', () => ({ SheetThread: class {} }));

const folio = testFolio({
  columns: [{ id: 'n', title: 'Name', sourceId: 's', role: 'name' }],
  entries: [
    { id: 'e1', position: 0, values: { n: 'Amara' } },
    { id: 'e2', position: 1, values: { n: 'Ilse' } },
  ],
});
const write = (entryId: string, text: string) =>
  rollActions.change({ patch: { cells: [{ entryId, columnId: 'n', text }] } });

function station(api: Partial<Record<'patchRoll' | 'folio', jest.Mock>> = {}) {
  const all = { patchRoll: jest.fn(() => of({})), folio: jest.fn(() => of(folio)), ...api };
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(deskFeature),
      provideState(rollFeature),
      provideState(writingFeature),
      provideEffects(effects),
      { provide: Api, useValue: all },
      { provide: SheetThread, useValue: {} },
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(deskActions.folioArrived({ folio }));
  return {
    store,
    api: all,
    names: () =>
      store
        .selectSignal(deskFeature.selectRoll)()
        .entries.map(({ values }) => values['n']),
    state: () => store.selectSignal(rollFeature.selectRollState)(),
    what: () => store.selectSignal(rollFeature.selectUndoWhat)(),
  };
}

test('a change shows at once, is saved in order, and says what undo would take back', () => {
  const answers: Subject<object>[] = [];
  const patchRoll = jest.fn(() => {
    const answer = new Subject<object>();
    answers.push(answer);
    return answer;
  });
  const { store, names, state, what } = station({ patchRoll });
  store.dispatch(write('e1', 'Amara O.'));
  store.dispatch(write('e2', 'Ilse B.'));
  expect(names()).toEqual(['Amara O.', 'Ilse B.']);
  expect(what()).toBe('Name of Ilse');
  expect(patchRoll).toHaveBeenCalledTimes(1);
  expect(state().queue).toHaveLength(2);
  answers[0]!.next({});
  answers[0]!.complete();
  expect(patchRoll).toHaveBeenCalledTimes(2);
});

test('undo and redo go back and forth, and a new change ends what could be done again', () => {
  const { store, names, api, state } = station();
  store.dispatch(write('e1', 'A'));
  store.dispatch(write('e1', 'B'));
  store.dispatch(rollActions.undo());
  store.dispatch(rollActions.undo());
  store.dispatch(rollActions.undo());
  expect(names()[0]).toBe('Amara');
  expect(store.selectSignal(deskFeature.selectRoll)().entries[0]!.mends).toBeUndefined();
  store.dispatch(rollActions.redo());
  expect(names()[0]).toBe('A');
  expect(api.patchRoll).toHaveBeenCalledTimes(5);
  store.dispatch(write('e2', 'X'));
  expect(state().undone).toEqual([]);
});

test('a change that changes nothing is none, and one that cannot be is refused in a sentence', () => {
  const { store, api, state } = station();
  store.dispatch(write('e1', 'Amara'));
  expect([state().done, api.patchRoll.mock.calls]).toEqual([[], []]);
  store.dispatch(rollActions.change({ patch: { columns: [] } }));
  expect(store.selectSignal(deskFeature.selectTrouble)()?.code).toBe('column-of-source');
});

test('what could not be saved is not shown as if it were', () => {
  const patchRoll = jest.fn(() => throwError(() => new Error('The line is down.')));
  const { store, names, state } = station({ patchRoll });
  store.dispatch(write('e1', 'Lost'));
  expect(names()[0]).toBe('Amara');
  expect(state()).toMatchObject({ queue: [], failure: null, done: [] });
  expect(store.selectSignal(deskFeature.selectTrouble)()?.message).toContain('was not kept');
});

describe('a file on its way in', () => {
  const { reducer } = bringingInFeature;
  const opening = bringingInActions.opening({
    name: 'x.xlsx',
    bytes: 1,
    since: 0,
    purpose: { kind: 'base' },
    asked: {},
  });
  test('another sheet forgets the header that was chosen for the first', () => {
    const asked = [
      bringingInActions.ask({ asked: { header: { row: 3, count: 2 } } }),
      bringingInActions.ask({ asked: { decimal: ',' } }),
      bringingInActions.ask({ asked: { sheet: 'Two' } }),
    ].reduce(reducer, reducer(undefined, opening)).asked;
    expect(asked).toEqual({ decimal: ',', sheet: 'Two' });
  });
  test('what the server is asked for follows the purpose', () => {
    const newer = reducer(
      reducer(undefined, opening),
      bringingInActions.choosePurpose({ purpose: { kind: 'refresh', sourceId: 's' } }),
    );
    const decided = reducer(newer, bringingInActions.decide({ decisions: { missing: 'keep' } }));
    expect(askedOf(decided)).toEqual({
      kind: 'refresh',
      sourceId: 's',
      decisions: { otherConflicts: 'mine', missing: 'keep' },
    });
    expect(
      askedOf(reducer(newer, bringingInActions.choosePurpose({ purpose: { kind: 'join' } }))),
    ).toBeNull();
  });
});

test('columns are saved with how they were seen; who is picked goes on where the row was taken away', () => {
  const { store, api } = station();
  const before = folio.roll.columns;
  const columns = [...before, { id: 'own', title: 'Team' }];
  store.dispatch(rollActions.change({ patch: { columns } }));
  const [own] = columns.slice(-1);
  const behind = before.at(-1)!.id;
  expect(api.patchRoll).toHaveBeenLastCalledWith('folio1', { columns: [{ do: 'add', column: own, behind }] });
  store.dispatch(rollActions.undo());
  expect(api.patchRoll).toHaveBeenLastCalledWith('folio1', { columns: [{ do: 'remove', was: own }] });
  store.dispatch(deskActions.pick({ entryId: 'e1' }));
  store.dispatch(rollActions.change({ patch: { taken: ['e1'] } }));
  expect(store.selectSignal(deskFeature.selectPickedId)()).toBe('e2');
  store.dispatch(rollActions.undo());
  expect(
    store
      .selectSignal(deskFeature.selectRoll)()
      .entries.map(({ id }) => id),
  ).toEqual(['e1', 'e2']);
});

test('an old notice and a draft of another column go when people go on', () => {
  const { store } = station();
  const state = store.selectSignal(rollFeature.selectRollState);
  for (const next of [
    deskActions.pick({ entryId: 'e2' }),
    rollActions.lookDifferent({ view: { find: 'x' } }),
    rollActions.openWorked({ columnId: 'n' }),
    write('e1', 'Amara O.'),
  ]) {
    store.dispatch(rollActions.notice({ text: 'Part of it did not fit.' }));
    store.dispatch(next);
    expect(state().notice).toBeNull();
  }
  const draft = {
    columnId: 'n',
    what: 'the formula',
    worked: { kind: 'expression' as const, formula: [], rounding: null },
  };
  store.dispatch(rollActions.draft({ draft }));
  store.dispatch(rollActions.openWorked({ columnId: 'n' }));
  expect(state().draft).toEqual(draft);
  store.dispatch(rollActions.openWorked({ columnId: null }));
  expect(state().draft).toBeNull();
});

describe('after a change that was refused', () => {
  const gone = () => throwError(() => new Error('The entry is gone.'));
  const patched = (mock: jest.Mock) => mock.mock.calls.map(([, patch]) => patch.cells[0].text as string);

  test('those behind it wait until the roll is there as it is, and go on it', () => {
    const first = new Subject<object>();
    const patchRoll = jest.fn().mockReturnValueOnce(first).mockReturnValue(of({}));
    const arrived = new Subject<Folio>();
    const { store, names, state } = station({ patchRoll, folio: jest.fn(() => arrived) });
    store.dispatch(write('e1', 'Lost'));
    store.dispatch(write('e2', 'Kept'));
    first.error(new Error('The entry is gone.'));
    // Nothing leaves before it is known what stands there.
    expect(patched(patchRoll)).toEqual(['Lost']);
    expect(state().failure?.message).toBe('The entry is gone.');
    arrived.next(folio);
    arrived.complete();
    expect(patched(patchRoll)).toEqual(['Lost', 'Kept']);
    expect(names()).toEqual(['Amara', 'Kept']);
    expect(state()).toMatchObject({ queue: [], failure: null });
  });

  test('what stood on it is named, not sent', () => {
    const first = new Subject<object>();
    const patchRoll = jest.fn().mockReturnValueOnce(first).mockReturnValue(of({}));
    const { store } = station({ patchRoll });
    store.dispatch(rollActions.change({ patch: { added: [{ id: 'e3', position: 2, values: {} }] } }));
    store.dispatch(write('e3', 'New'));
    first.error(new Error('No more entries.'));
    expect(patchRoll).toHaveBeenCalledTimes(1);
    const trouble = store.selectSignal(deskFeature.selectTrouble)();
    expect(trouble?.message).toBe(
      'No more entries. The last change was not kept, nor what was built on it (1).',
    );
  });

  test('in a folio that was left it is said where it was', () => {
    const answer = new Subject<object>();
    const { store, state } = station({ patchRoll: jest.fn(() => answer) });
    store.dispatch(write('e1', 'Lost'));
    store.dispatch(deskActions.opened({ folioId: 'folio2' }));
    const writings = testWritings().map((one) => ({ ...one, id: `b${one.id}` }));
    store.dispatch(deskActions.folioArrived({ folio: testFolio(folio.roll, writings, 'folio2') }));
    answer.error(new Error('The entry is gone.'));
    expect(state()).toMatchObject({ queue: [], failure: null });
    expect(store.selectSignal(deskFeature.selectTrouble)()?.message).toContain('In another folio: ');
  });

  test('where somebody else changed the same column it is asked whose it shall be', () => {
    const theirs = {
      ...folio,
      roll: {
        ...folio.roll,
        columns: folio.roll.columns.map((one) => ({ ...one, title: `${one.title} (theirs)` })),
      },
    };
    const code = 'column-changed-elsewhere';
    const refused = new HttpErrorResponse({ status: 409, error: { code, detail: 'Changed.' } });
    const patchRoll = jest
      .fn()
      .mockReturnValueOnce(throwError(() => refused))
      .mockReturnValue(of({}));
    const { store, state } = station({ patchRoll, folio: jest.fn(() => of(theirs)) });
    const columns = folio.roll.columns.map((one) => ({ ...one, title: `${one.title} (mine)` }));
    store.dispatch(rollActions.change({ patch: { columns } }));
    const titles = (): string[] =>
      store
        .selectSignal(deskFeature.selectWritten)()
        .columns.map(({ title }) => title);
    expect(titles()).toEqual(theirs.roll.columns.map(({ title }) => title));
    expect(store.selectSignal(deskFeature.selectTrouble)()).toBeNull();
    expect(state().contested).toMatchObject({ folioId: 'folio1', message: 'Changed.' });
    store.dispatch(rollActions.insist({ contested: state().contested! }));
    expect(titles()).toEqual(columns.map(({ title }) => title));
    expect(state()).toMatchObject({ contested: null, queue: [] });
    const sent = patchRoll.mock.calls.at(-1)![1] as { columns: { was: { title: string } }[] };
    expect(sent.columns.map(({ was }) => was.title)).toEqual(theirs.roll.columns.map(({ title }) => title));
    store.dispatch(rollActions.undo());
    expect(titles()).toEqual(theirs.roll.columns.map(({ title }) => title));
  });

  test('while nobody is signed in it is kept, and leaves after that', () => {
    const signedOut = new HttpErrorResponse({ status: 401, error: { code: 'signed-out', detail: 'Out.' } });
    const patchRoll = jest
      .fn()
      .mockReturnValueOnce(throwError(() => signedOut))
      .mockReturnValue(of({}));
    const { store, state, names } = station({ patchRoll });
    store.dispatch(write('e1', 'Typed on'));
    store.dispatch(write('e2', 'And on'));
    expect(state().queue).toHaveLength(2);
    const staff = { name: 'N', email: 'a@x.example', school: 'S', timeZone: 'UTC' };
    store.dispatch(sessionActions.known({ me: { staff, demo: null, practicePost: false, post: null } }));
    expect(patched(patchRoll)).toEqual(['Typed on', 'Typed on', 'And on']);
    expect(state()).toMatchObject({ queue: [], failure: null });
    expect(names()).toEqual(['Typed on', 'And on']);
  });

  test('the roll cannot be taken back or joined over it', () => {
    const goBack = jest.fn();
    const { store } = station({ patchRoll: jest.fn(gone), folio: jest.fn(() => new Subject<Folio>()) });
    store.dispatch(write('e1', 'Lost'));
    store.dispatch(rollActions.goBack({ earlierId: 'x' }));
    expect(goBack).not.toHaveBeenCalled();
    expect(store.selectSignal(deskFeature.selectTrouble)()?.message).toContain('The entry is gone.');
  });
});
