import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import type { Folio, Proof } from '@scriptum/core/contract';
import { emptyFiling, emptyLetter, emptyNote, type Letter } from '@scriptum/core/template';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { firstValueFrom, of, Subject, throwError } from 'rxjs';
import { Api } from '../api/api';
import { deskActions, deskFeature } from './desk';
import { rollFeature } from './roll';
import { hasUnsaved, whenSaved } from './when-saved';
import * as effects from './writing-effects';
import { writingActions, writingFeature } from './writing';

const folio: Folio = {
  id: 'folio1',
  title: 'T',
  sources: [],
  earlier: null,
  roll: { columns: [], entries: [] },
  letter: emptyLetter('T'),
  letterVersion: 5,
  note: emptyNote(),
  noteVersion: 1,
  filing: emptyFiling(),
  filingVersion: 1,
  assets: [],
};
const proof: Proof = { svg: '<svg/>', pages: 1, width: 1, height: 1, took: 1 };
const typed = (name: string) => writingActions.changed({ change: { letter: emptyLetter(name) } });

function desk(api: Partial<Record<'saveLetter' | 'saveNote' | 'proof', jest.Mock>>) {
  const all = {
    saveLetter: jest.fn(() => of({ version: 6 })),
    saveNote: jest.fn(() => of({ version: 2 })),
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
  return { store, api: all, state: () => store.selectSignal(writingFeature.selectWritingState)() };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('everything saves itself a moment after the last change, once, and only what changed', () => {
  const { store, api, state } = desk({});
  store.dispatch(typed('one'));
  jest.advanceTimersByTime(300);
  store.dispatch(typed('two'));
  jest.advanceTimersByTime(300);
  expect(api.saveLetter).not.toHaveBeenCalled();
  jest.advanceTimersByTime(200);
  expect(api.saveLetter.mock.calls).toEqual([['folio1', 5, emptyLetter('two')]]);
  expect(api.saveNote).not.toHaveBeenCalled();
  expect(state().letter).toMatchObject({ version: 6, saved: 'saved' });
});

test('what is typed while a save is under way is saved after it, on its version', () => {
  const answers: Subject<{ version: number }>[] = [];
  const saveLetter = jest.fn(() => {
    const answer = new Subject<{ version: number }>();
    answers.push(answer);
    return answer;
  });
  const { store, state } = desk({ saveLetter });
  store.dispatch(typed('one'));
  jest.advanceTimersByTime(500);
  store.dispatch(typed('two'));
  jest.advanceTimersByTime(500);
  expect(saveLetter).toHaveBeenCalledTimes(1);
  answers[0]!.next({ version: 6 });
  answers[0]!.complete();
  expect((saveLetter.mock.calls as unknown as [string, number, Letter][])[1]).toEqual([
    'folio1',
    6,
    emptyLetter('two'),
  ]);
  answers[1]!.next({ version: 7 });
  answers[1]!.complete();
  expect(state().letter).toMatchObject({ version: 7, saved: 'saved', value: { name: 'two' } });
});

test('leaving the desk saves at once', () => {
  const { store, api } = desk({});
  store.dispatch(typed('one'));
  store.dispatch(deskActions.closed());
  expect(api.saveLetter).toHaveBeenCalledTimes(1);
});

test('a press waits for the save, and hears when it failed', async () => {
  const refused = new HttpErrorResponse({
    status: 409,
    error: { code: 'changed-elsewhere', detail: 'Changed in another window.' },
  });
  const { store, state } = desk({ saveLetter: jest.fn(() => throwError(() => refused)) });
  store.dispatch(typed('one'));
  const settled = await firstValueFrom(whenSaved(store));
  expect(hasUnsaved(settled)).toBe(true);
  expect(state()).toMatchObject({
    letter: { saved: 'failed', value: { name: 'one' } },
    trouble: { code: 'changed-elsewhere', message: 'Changed in another window.' },
  });
});

test('nothing to save lets a press go on at once', async () => {
  const { store, api } = desk({});
  expect(hasUnsaved(await firstValueFrom(whenSaved(store)))).toBe(false);
  expect(api.saveLetter).not.toHaveBeenCalled();
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
  answers.at(-1)!.next({ ...proof, svg: '<svg id="new"/>' });
  answers[0]!.next({ ...proof, svg: '<svg id="old"/>' });
  expect(state().proof?.svg).toBe('<svg id="new"/>');
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
  expect(api.proof).toHaveBeenLastCalledWith('folio1', 'e1', folio.letter);
  expect(state().proof).toEqual(proof);
});
