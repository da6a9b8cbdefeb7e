import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Me } from '@scriptum/core/contract';
import { emptyLetter } from '@scriptum/core/template';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { of, Subject, throwError } from 'rxjs';
import { Api } from '../api/api';
import { CsrfToken } from '../api/csrf-interceptor';
import { testFolio } from '../testing/folio';
import { deskActions, deskFeature } from './desk';
import { rollFeature } from './roll';
import { sessionActions, sessionFeature } from './session';
import * as effects from './session-effects';
import * as writingEffects from './writing-effects';
import { writingActions, writingFeature } from './writing';

const nobody: Me = { staff: null, demo: null, practicePost: false, post: null };

function signedIn(saveWriting: jest.Mock) {
  const signOut = jest.fn(() => of(nobody));
  TestBed.configureTestingModule({
    providers: [
      provideRouter([{ path: '**', children: [] }]),
      provideStore(),
      provideState(sessionFeature),
      provideState(deskFeature),
      provideState(rollFeature),
      provideState(writingFeature),
      provideEffects(effects, writingEffects),
      { provide: Api, useValue: { signOut, saveWriting } },
      { provide: CsrfToken, useValue: { forget: jest.fn() } },
    ],
  });
  const store = TestBed.inject(Store);
  const staff = { name: 'N', email: 'a@x.example', school: 'S', timeZone: 'UTC' };
  store.dispatch(sessionActions.known({ me: { ...nobody, staff } }));
  store.dispatch(deskActions.folioArrived({ folio: testFolio() }));
  store.dispatch(writingActions.changed({ id: 'letter', content: emptyLetter('Typed') }));
  store.dispatch(sessionActions.signOut());
  return { store, signOut };
}

test('signing out waits until what was typed is saved', () => {
  const answer = new Subject<object>();
  const { signOut } = signedIn(jest.fn(() => answer));
  expect(signOut).not.toHaveBeenCalled();
  answer.next({ folioId: 'folio1', writingId: 'letter', version: 2 });
  answer.complete();
  expect(signOut).toHaveBeenCalledTimes(1);
});

test('where it cannot be saved nobody is signed out, and it is said why', () => {
  const { store, signOut } = signedIn(jest.fn(() => throwError(() => new Error('It is too long.'))));
  expect(signOut).not.toHaveBeenCalled();
  expect(store.selectSignal(deskFeature.selectTrouble)()?.message).toBe(
    'It is too long. You are still signed in, so that nothing is lost.',
  );
  expect(store.selectSignal(writingFeature.selectTemplateValue)()?.name).toBe('Typed');
});
