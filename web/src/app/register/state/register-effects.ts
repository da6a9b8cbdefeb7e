import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  BehaviorSubject,
  catchError,
  delay,
  EMPTY,
  exhaustMap,
  filter,
  finalize,
  map,
  mergeMap,
  Observable,
  of,
  switchMap,
  takeUntil,
  throttle,
} from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { DESK_ID } from '../../api/desk-id';
import { checksActions } from '../../state/checks';
import { deskActions } from '../../state/desk';
import { watchedActions } from '../../state/watched';
import { ordersActions } from '../../state/orders';
import { registerActions, registerFeature } from '../../state/register';
import { whenSaved } from '../../state/when-saved';
import { writingActions } from '../../state/writing';

const failed = (error: unknown) => of(registerActions.failed({ trouble: troubleOf(error) }));

export const loadRegister = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    const busy = new BehaviorSubject(false);
    return actions.pipe(
      ofType(registerActions.asked, deskActions.folioArrived, deskActions.rollArrived, writingActions.saved),
      // While a run is going there is news many times a second, and the whole register of a large folio takes its time: the next
      // one is asked for when the last has come. The last word always counts.
      throttle(
        () =>
          busy.pipe(
            filter((is) => !is),
            delay(250),
          ),
        { leading: true, trailing: true },
      ),
      concatLatestFrom(() => [
        store.select(registerFeature.selectFolioId),
        store.select(registerFeature.selectRevision),
      ]),
      switchMap(([, folioId, since]) => {
        if (!folioId) return EMPTY;
        busy.next(true);
        return api.register(folioId, since).pipe(
          map((register) => registerActions.arrived({ folioId, register })),
          catchError(failed),
          takeUntil(actions.pipe(ofType(deskActions.closed))),
          finalize(() => busy.next(false)),
        );
      }),
    );
  },
  { functional: true },
);

/** What the server tells the desks of a folio. */
interface News {
  readonly kind:
    'run' | 'dispatch' | 'roll' | 'writing' | 'check' | 'seen' | 'pack' | 'order' | 'watched' | 'again';
  readonly writingId?: string;
  readonly desk?: string | null;
}

/** Listens to the folio's events for as long as its desk is open; the browser connects again by itself. */
export const listen = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(deskActions.opened),
      switchMap(({ folioId }) =>
        new Observable<News>((observer) => {
          const source = new EventSource(`/api/folios/${folioId}/events`);
          let opened = false;
          source.onmessage = ({ data }) => observer.next(JSON.parse(data as string) as News);
          source.onopen = () => {
            // After a break something may have been missed.
            observer.next(opened ? { kind: 'again' } : { kind: 'run' });
            opened = true;
          };
          return () => source.close();
        }).pipe(
          mergeMap((news) => toldBy(folioId, news)),
          takeUntil(actions.pipe(ofType(deskActions.closed))),
        ),
      ),
    ),
  { functional: true },
);

/** What is to be looked at for a piece of news; what this window did itself is here already. */
function toldBy(folioId: string, { kind, writingId, desk }: News): Action[] {
  if (kind === 'check') return [checksActions.asked()];
  if (kind === 'order') return [ordersActions.news()];
  if (kind === 'watched') return [watchedActions.news()];
  if (kind === 'pack') return [registerActions.packNews()];
  if (kind === 'seen') return desk === DESK_ID ? [] : [checksActions.seenAsked()];
  const asked = registerActions.asked();
  if (desk === DESK_ID) return [asked];
  if (kind === 'writing')
    return [asked, deskActions.writingNews({ folioId, writingId: writingId! }), checksActions.asked()];
  if (kind === 'again')
    return [
      ordersActions.news(),
      watchedActions.news(),
      asked,
      deskActions.rollNews({ folioId }),
      checksActions.asked(),
      checksActions.seenAsked(),
    ];
  return kind === 'roll' ? [asked, deskActions.rollNews({ folioId }), checksActions.asked()] : [asked];
}

/** Presses what is on screen: first everything is saved, then the run starts. */
export const press = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.press),
      exhaustMap(({ entryIds, only }) => {
        return whenSaved(store).pipe(
          mergeMap(({ folioId, unsaved }) => {
            if (unsaved) {
              const message = `${unsaved.message} Nothing was pressed.`;
              return of(registerActions.failed({ trouble: { ...unsaved, message } }));
            }
            return api
              .startRun(folioId!, { ...(entryIds ? { entryIds } : {}), ...(only ? { only } : {}) })
              .pipe(
                map(({ run, upToDate }) => registerActions.pressing({ count: run?.total ?? 0, upToDate })),
                catchError(failed),
              );
          }),
        );
      }),
    ),
  { functional: true },
);

export const stop = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.stop),
      concatLatestFrom(() => store.select(registerFeature.selectFolioId)),
      exhaustMap(([{ runId }, folioId]) =>
        api.stopRun(folioId!, runId).pipe(
          map(() => registerActions.asked()),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const hold = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.hold),
      concatLatestFrom(() => store.select(registerFeature.selectFolioId)),
      mergeMap(([{ paperIds, hold: held }, folioId]) =>
        api.holdPapers(folioId!, paperIds, held).pipe(
          map(() => registerActions.asked()),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const voidPapers = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.void),
      concatLatestFrom(() => store.select(registerFeature.selectFolioId)),
      mergeMap(([{ paperIds, reason }, folioId]) =>
        api.voidPapers(folioId!, paperIds, reason).pipe(
          map(() => registerActions.asked()),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const issueAgain = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.issueAgain),
      mergeMap(({ paperIds, reason }) =>
        whenSaved(store).pipe(
          mergeMap(({ folioId, unsaved }) => {
            if (unsaved) {
              const message = `${unsaved.message} Nothing was issued again.`;
              return of(registerActions.failed({ trouble: { ...unsaved, message } }));
            }
            return api.issueAgain(folioId!, paperIds, reason).pipe(
              map(({ run, upToDate }) => registerActions.pressing({ count: run?.total ?? 0, upToDate })),
              catchError(failed),
            );
          }),
        ),
      ),
    ),
  { functional: true },
);

export const planDispatch = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.planDispatch),
      exhaustMap(() =>
        whenSaved(store).pipe(
          mergeMap(({ folioId, unsaved }) =>
            unsaved
              ? of(registerActions.failed({ trouble: unsaved }))
              : api.dispatchPlan(folioId!).pipe(
                  map((plan) => registerActions.planArrived({ plan })),
                  catchError(failed),
                ),
          ),
        ),
      ),
    ),
  { functional: true },
);

export const dispatch = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.dispatch),
      concatLatestFrom(() => store.select(registerFeature.selectFolioId)),
      exhaustMap(([{ type: _, ...asked }, folioId]) =>
        api.dispatch(folioId!, asked).pipe(
          map(({ queued }) => registerActions.queued({ count: queued })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const sendAgain = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.sendAgain),
      concatLatestFrom(() => store.select(registerFeature.selectFolioId)),
      mergeMap(([{ messageId }, folioId]) =>
        api.sendAgain(folioId!, messageId).pipe(
          map(() => registerActions.queued({ count: 1 })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const sendPapersAgain = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(registerActions.sendPapersAgain),
      exhaustMap(({ type: _, ...asked }) =>
        whenSaved(store).pipe(
          mergeMap(({ folioId, unsaved }) => {
            if (unsaved) {
              const message = `${unsaved.message} Nothing was sent.`;
              return of(registerActions.failed({ trouble: { ...unsaved, message } }));
            }
            return api.sendPapersAgain(folioId!, asked).pipe(
              map(({ queued }) => registerActions.queued({ count: queued })),
              catchError(failed),
            );
          }),
        ),
      ),
    ),
  { functional: true },
);

/** Tries the mail account again, and with it all that waits for it. */
export const tryMailAgain = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(registerActions.tryMailAgain),
      exhaustMap(() =>
        api.tryMailAgain().pipe(
          map(() => registerActions.asked()),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);
