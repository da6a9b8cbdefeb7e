import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { catchError, exhaustMap, filter, map, of, switchMap, tap, type Observable } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { CsrfToken } from '../api/csrf-interceptor';
import { deskActions } from './desk-actions';
import { sessionActions, sessionFeature } from './session';
import { signedOutBy } from './signed-out';
import { whenSaved } from './when-saved';

export const askWhoIsSignedIn = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(sessionActions.asked, sessionActions.askedAgain),
      concatLatestFrom(() => store.select(sessionFeature.selectStatus)),
      filter(([{ type }, status]) => status !== 'known' || type === sessionActions.askedAgain.type),
      exhaustMap(() =>
        api.me().pipe(
          map((me) => sessionActions.known({ me })),
          catchError((error: unknown) => of(sessionActions.failed({ trouble: troubleOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

export const signIn = createEffect(
  (actions = inject(Actions), api = inject(Api), csrf = inject(CsrfToken), router = inject(Router)) =>
    actions.pipe(
      ofType(sessionActions.signIn),
      exhaustMap(({ email, password, back }) =>
        api.signIn(email, password).pipe(
          map((me) => sessionActions.known({ me })),
          tap(() => {
            csrf.forget();
            // The guard reads the session from the store, which has it after this turn.
            setTimeout(() => void router.navigateByUrl(back));
          }),
          catchError((error: unknown) => {
            csrf.forget();
            return of(sessionActions.failed({ trouble: troubleOf(error) }));
          }),
        ),
      ),
    ),
  { functional: true },
);

export const signOut = createEffect(
  (
    actions = inject(Actions),
    api = inject(Api),
    csrf = inject(CsrfToken),
    router = inject(Router),
    store = inject(Store),
  ) =>
    actions.pipe(
      ofType(sessionActions.signOut, sessionActions.signOutEverywhere),
      switchMap(({ type }) =>
        whenSaved(store).pipe(
          switchMap(({ unsaved }): Observable<Action> => {
            // Who has signed out has left, and what is not saved by then would go with them.
            if (unsaved) {
              const message = `${unsaved.message} You are still signed in, so that nothing is lost.`;
              return of(deskActions.failed({ trouble: { ...unsaved, message } }));
            }
            return (type === sessionActions.signOut.type ? api.signOut() : api.signOutEverywhere()).pipe(
              map((me) => sessionActions.known({ me })),
              tap(() => {
                csrf.forget();
                void router.navigateByUrl('/sign-in');
              }),
              catchError((error: unknown) => of(sessionActions.failed({ trouble: troubleOf(error) }))),
            );
          }),
        ),
      ),
    ),
  { functional: true },
);

/** A session that ran out shows itself at the next request; what is on screen stays there until people leave it. */
export const noticeSignedOut = createEffect(
  (actions = inject(Actions), router = inject(Router), csrf = inject(CsrfToken)) =>
    actions.pipe(
      filter(signedOutBy),
      tap(() => {
        csrf.forget();
        // More than one request may find out; the way back is from where the first one did.
        if (!router.url.startsWith('/sign-in'))
          void router.navigate(['/sign-in'], { queryParams: { back: router.url } });
      }),
      map(() => sessionActions.ended()),
    ),
  { functional: true },
);
