import { inject } from '@angular/core';
import { type CanActivateFn, Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map, take } from 'rxjs';
import { sessionActions, sessionFeature } from '../state/session';

/** Lets signed-in staff pass; others are led to the sign-in page, and back after it. */
export const signedIn: CanActivateFn = (_route, state) => {
  const store = inject(Store);
  const router = inject(Router);
  store.dispatch(sessionActions.asked());
  return store.select(sessionFeature.selectSessionState).pipe(
    filter(({ status }) => status === 'known'),
    take(1),
    map(({ me }) =>
      me?.staff ? true : router.createUrlTree(['/sign-in'], { queryParams: { back: state.url } }),
    ),
  );
};
