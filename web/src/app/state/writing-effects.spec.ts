import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import type { Me, Proof, SaveWriting, WritingSaved } from '@scriptum/core/contract';
import { emptyLetter } from '@scriptum/core/template';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { firstValueFrom, of, Subject, throwError } from 'rxjs';
import { Api } from '../api/api';
import { testFolio, testWritings } from '../testing/folio';
import { deskActions, deskFeature } from './desk';
import { rollActions, rollFeature } from './roll';
import { sessionActions } from './session';
import { whenSaved } from './when-saved';
import * as effects from './writing-effects';
import { writingActions, writingFeature } from './writing';

const folio = testFolio(undefined, testWritings({}, { letter: 5 }));
const letterOf = (name = 'T') => emptyLetter(name);
const proof: Proof = { pages: [{ svg: '<svg/>', width: 1, height: 1 }], blocks: [], fits: [], took: 1 };
const typed = (name: string) => writingActions.changed({ id: 'letter', content: letterOf(name) });
const savedAs = (version: number): WritingSaved => ({ folioId: 'folio1', writingId: 'letter', version });
const bodyOf = (version: number, name: string) => ({
  kind: 'letter',
  name: 'Letter',
  version,
  content: letterOf(name),
});
const problem = (status: number, code: string) =>
  new HttpErrorResponse({ status, error: { code, detail: `Because of ${code}.` } });

function desk(api: Partial<Record<'saveWriting' | 'proof' | 'writing' | 'keepCopy', jest.Mock>>) {
  const all = {
    saveWriting: jest.fn((_folio: string, _id: string, { version }: SaveWriting) => of(savedAs(version + 1))),
    proof: jest.fn(() => of(proof)),
    ...api,
  };
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(deskFeature),
      provideState(rollFeature),
      provideState(writingFeature),
      provideEffects(effects),
      { provide: Api, useValue: all },
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(writingActions.proofShown());
  store.dispatch(deskActions.folioArrived({ folio }));
  const state = () => store.selectSignal(writingFeature.selectWritingState)();
  return { store, api: all, state, letter: () => state().drafts.entities['letter'] };
}

/** A mock whose answers come when the test says so. */
function slow<T>() {
  const answers: Subject<T>[] = [];
  const ask = jest.fn((..._given: unknown[]) => {
    const answer = new Subject<T>();
    answers.push(answer);
    return answer;
  });
  const answer = (n: number, value: T): void => {
    answers[n]!.next(value);
    answers[n]!.complete();
  };
  return { ask, answer };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('everything saves itself a moment after the last change, once, and only what changed', () => {
  const { store, api, letter } = desk({});
  store.dispatch(typed('one'));
  jest.advanceTimersByTime(300);
  store.dispatch(typed('two'));
  jest.advanceTimersByTime(300);
  expect(api.saveWriting).not.toHaveBeenCalled();
  jest.advanceTimersByTime(200);
  expect(api.saveWriting.mock.calls).toEqual([['folio1', 'letter', bodyOf(5, 'two')]]);
  expect(letter()).toMatchObject({ version: 6, saved: 'saved' });
});

test('who types on and on is saved every three seconds all the same', () => {
  const { store, api } = desk({});
  for (let n = 0; n < 60; n++) {
    store.dispatch(typed(`word ${n}`));
    jest.advanceTimersByTime(200);
  }
  expect(api.saveWriting.mock.calls.length).toBeGreaterThanOrEqual(3);
  expect(api.saveWriting.mock.calls.length).toBeLessThan(8);
});

test('what is typed while a save is under way is saved after it, on its version', () => {
  const { ask, answer } = slow<WritingSaved>();
  const { store, letter } = desk({ saveWriting: ask });
  store.dispatch(typed('one'));
  jest.advanceTimersByTime(500);
  store.dispatch(typed('two'));
  jest.advanceTimersByTime(500);
  expect(ask).toHaveBeenCalledTimes(1);
  answer(0, savedAs(6));
  expect(ask.mock.calls[1]).toEqual(['folio1', 'letter', bodyOf(6, 'two')]);
  answer(1, savedAs(7));
  expect(letter()).toMatchObject({ version: 7, saved: 'saved', content: { name: 'two' } });
});

test('leaving the desk saves at once', () => {
  const { store, api } = desk({});
  store.dispatch(typed('one'));
  store.dispatch(deskActions.closed());
  expect(api.saveWriting).toHaveBeenCalledTimes(1);
});

test('a folio that is left and opened again while its save is under way loses nothing', () => {
  const { ask, answer } = slow<WritingSaved>();
  const { store, letter } = desk({ saveWriting: ask });
  store.dispatch(typed('new'));
  store.dispatch(deskActions.closed());
  const other = testFolio(
    undefined,
    testWritings().map((one) => ({ ...one, id: `b${one.id}` })),
    'folio2',
  );
  store.dispatch(deskActions.folioArrived({ folio: other }));
  // As the server had it before the save went through.
  store.dispatch(deskActions.folioArrived({ folio }));
  answer(0, savedAs(6));
  expect(letter()).toMatchObject({ saved: 'saved', version: 6, content: { name: 'new' } });
  expect(ask).toHaveBeenCalledTimes(1);
});

test('what could not be saved while nobody was signed in is, as soon as somebody is again', () => {
  const saveWriting = jest.fn(() => throwError(() => problem(401, 'signed-out')));
  const { store, letter } = desk({ saveWriting });
  const me: Me = {
    staff: { name: 'N', email: 'a@x.example', school: 'S', timeZone: 'UTC' },
    demo: null,
    practicePost: false,
    post: null,
  };
  store.dispatch(sessionActions.known({ me }));
  store.dispatch(deskActions.folioArrived({ folio }));
  store.dispatch(typed('typed on'));
  jest.advanceTimersByTime(500);
  expect(letter()).toMatchObject({ saved: 'failed' });
  saveWriting.mockImplementation((() => of(savedAs(6))) as never);
  store.dispatch(sessionActions.known({ me }));
  expect(letter()).toMatchObject({ saved: 'saved', version: 6, content: { name: 'typed on' } });
});

test('a press waits for the save, and hears when it failed', async () => {
  const { store, letter, state } = desk({
    saveWriting: jest.fn(() => throwError(() => problem(422, 'nonsense'))),
  });
  store.dispatch(typed('one'));
  const { unsaved } = await firstValueFrom(whenSaved(store));
  expect(unsaved).toMatchObject({ code: 'nonsense', message: 'Because of nonsense.' });
  expect(letter()).toMatchObject({ saved: 'failed', content: { name: 'one' } });
  expect(state().trouble?.code).toBe('nonsense');
});

test('a press hears of a change to the roll that failed', async () => {
  const { store } = desk({});
  const patch = { cells: [{ entryId: 'e', columnId: 'n', text: 'x' }] };
  const step = { patch, undo: patch, what: 'x' };
  store.dispatch(rollActions.changed({ folioId: 'folio1', roll: folio.roll, step, how: 'do' }));
  const settled = firstValueFrom(whenSaved(store));
  const trouble = { code: 'entry-gone', message: 'The entry is gone.' };
  store.dispatch(rollActions.saveFailed({ trouble, folioId: 'folio1', kept: false }));
  expect((await settled).unsaved).toEqual(trouble);
});

test('nothing to save lets a press go on at once', async () => {
  const { store, api } = desk({});
  expect((await firstValueFrom(whenSaved(store))).unsaved).toBeNull();
  expect(api.saveWriting).not.toHaveBeenCalled();
});

describe('where somebody else saved first', () => {
  const theirs = (content: object) => {
    const [writing] = testWritings({ letter: { ...letterOf(), ...content } }, { letter: 6 });
    return of({ writing, changedAt: '2026-11-25T12:00:00Z', changedBy: 'Marit' });
  };
  const overtaken = () =>
    jest
      .fn()
      .mockReturnValueOnce(throwError(() => problem(409, 'changed-elsewhere')))
      .mockReturnValue(of(savedAs(7)));

  test('changes that go together are saved together', () => {
    const saveWriting = overtaken();
    const { store, letter } = desk({
      saveWriting,
      writing: jest.fn(() => theirs({ language: 'de-DE' })),
    });
    store.dispatch(typed('mine'));
    jest.advanceTimersByTime(500);
    expect(saveWriting.mock.calls[1]![2]).toMatchObject({
      version: 6,
      content: { name: 'mine', language: 'de-DE' },
    });
    expect(letter()).toMatchObject({ saved: 'saved', version: 7 });
  });

  test('a press is refused until somebody chose; one’s own can be kept as a copy', async () => {
    const keepCopy = jest.fn(() => of({}));
    const { store, letter } = desk({
      saveWriting: overtaken(),
      writing: jest.fn(() => theirs({ name: 'theirs' })),
      keepCopy,
    });
    store.dispatch(typed('mine'));
    jest.advanceTimersByTime(500);
    expect(letter()).toMatchObject({ saved: 'conflict', content: { name: 'mine' } });
    expect((await firstValueFrom(whenSaved(store))).unsaved?.message).toContain('Decide first');
    store.dispatch(writingActions.settle({ id: 'letter', take: 'theirs, mine kept' }));
    expect(keepCopy).toHaveBeenCalledWith(
      'folio1',
      expect.objectContaining({ id: 'letter', content: letterOf('mine') }),
      'Letter, my copy',
    );
    expect(letter()).toMatchObject({ saved: 'saved', version: 6, content: { name: 'theirs' } });
  });

  test('where the copy cannot be kept, nothing is taken', () => {
    const { store, letter } = desk({
      saveWriting: overtaken(),
      writing: jest.fn(() => theirs({ name: 'theirs' })),
      keepCopy: jest.fn(() => throwError(() => problem(409, 'too-many'))),
    });
    store.dispatch(typed('mine'));
    jest.advanceTimersByTime(500);
    store.dispatch(writingActions.settle({ id: 'letter', take: 'theirs, mine kept' }));
    expect(letter()).toMatchObject({ saved: 'conflict', content: { name: 'mine' } });
    expect(store.selectSignal(deskFeature.selectTrouble)()?.code).toBe('too-many');
  });
});

test('the newest proof wins, whatever order the answers come in', async () => {
  jest.useRealTimers();
  const answers: Subject<Proof>[] = [];
  const { store, state } = desk({
    proof: jest.fn(() => {
      const answer = new Subject<Proof>();
      answers.push(answer);
      return answer;
    }),
  });
  await Promise.resolve();
  store.dispatch(typed('one'));
  await Promise.resolve();
  store.dispatch(typed('two'));
  await Promise.resolve();
  answers.at(-1)!.next({ ...proof, took: 2 });
  answers[0]!.next({ ...proof, took: 3 });
  expect(state().proof?.took).toBe(2);
});

test('a paper that nobody sees is not typeset; it is once it is shown', async () => {
  const { store, api, state } = desk({});
  await Promise.resolve();
  const before = api.proof.mock.calls.length;
  store.dispatch(writingActions.proofHidden());
  expect(state().proof).toBeNull();
  store.dispatch(deskActions.pick({ entryId: 'e1' }));
  await Promise.resolve();
  expect(api.proof.mock.calls.length).toBe(before);
  store.dispatch(writingActions.proofShown());
  await Promise.resolve();
  expect(api.proof).toHaveBeenLastCalledWith('folio1', 'e1', letterOf());
  expect(state().proof).toEqual(proof);
});
