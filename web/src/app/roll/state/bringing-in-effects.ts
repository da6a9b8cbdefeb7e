import { inject } from '@angular/core';
import { WHOLE_NAME } from '@scriptum/core/sources';
import { SHEET_LIMITS, tooLarge, type Result } from '@scriptum/core/table';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  catchError,
  concat,
  EMPTY,
  exhaustMap,
  filter,
  first,
  from,
  map,
  mergeMap,
  of,
  switchMap,
  takeUntil,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import type { LaidOutView } from '../thread/sheet-desk';
import { SheetThread } from '../thread/sheet-thread';
import { askedOf, bringingInActions, bringingInFeature, type BringingInState } from './bringing-in';
import { deskActions, deskFeature } from '../../state/desk';
import { foliosActions } from '../../state/folios';
import { allSaved } from '../../state/when-saved';

const refused = (error: unknown) => of(bringingInActions.refused({ trouble: troubleOf(error) }));

/** The value, or a refusal as an action. */
const either = <T>(result: Result<T>, then: (value: T) => Action): Action =>
  result.ok ? then(result.value) : bringingInActions.refused({ trouble: result.problem });

export const open = createEffect(
  (actions = inject(Actions), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.fileChosen),
      switchMap(({ file, purpose, asked }) => {
        // Said before a byte is read.
        const large = file.size > SHEET_LIMITS.bytes ? tooLarge(file.size) : null;
        if (large && !large.ok) return of(bringingInActions.refused({ trouble: large.problem }));
        const opening = bringingInActions.opening({
          name: file.name,
          bytes: file.size,
          since: Date.now(),
          purpose,
          asked: asked ?? {},
        });
        const opened = from(thread.open(file)).pipe(
          map((result) => either(result, (value) => bringingInActions.opened({ opened: value }))),
          catchError(refused),
          takeUntil(actions.pipe(ofType(bringingInActions.close))),
        );
        return concat(of<Action>(opening), opened);
      }),
    ),
  { functional: true },
);

export const readSourceAgain = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(bringingInActions.readSourceAgain),
      concatLatestFrom(() => store.select(deskFeature.selectFolio)),
      switchMap(([{ sourceId, fileName, asked }, folio]) =>
        api.sourceFile(folio!.id, sourceId).pipe(
          map((blob) =>
            bringingInActions.fileChosen({
              file: new File([blob], fileName),
              purpose: { kind: 'refresh', sourceId },
              asked,
            }),
          ),
          catchError((error: unknown) => of(deskActions.failed({ trouble: troubleOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** A newer version begins with the reading of before, unless somebody said how it is read. */
export const readAsBefore = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.opened, bringingInActions.choosePurpose),
      concatLatestFrom(() => [
        store.select(bringingInFeature.selectBringingInState),
        store.select(deskFeature.selectFolio),
      ]),
      switchMap(([action, { purpose, asked }, folio]) => {
        const source =
          purpose.kind === 'refresh' ? folio?.sources.find(({ id }) => id === purpose.sourceId) : undefined;
        const first = action.type === bringingInActions.opened.type;
        if (!source || Object.keys(asked).length > 0)
          return first ? of(bringingInActions.ask({ asked: {} })) : EMPTY;
        const titles = source.columns
          ? source.columns.map(({ title }) => title)
          : folio!.roll.columns
              .filter(({ sourceId, summary }) => sourceId === source.id && !summary)
              .map(({ sourceTitle, title }) => sourceTitle ?? title);
        return from(thread.desk().readingLike(source.reading, titles)).pipe(
          map((like) => bringingInActions.ask({ asked: like })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

/** Leaving stops the thread in whatever it does, and a file that was taken need not stay in memory. */
export const stop = createEffect(
  (actions = inject(Actions), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.close, deskActions.closed, deskActions.rollArrived),
      mergeMap(() => {
        thread.stop();
        thread.file = null;
        return EMPTY;
      }),
    ),
  { functional: true, dispatch: false },
);

export const layOut = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.ask),
      concatLatestFrom(() => store.select(bringingInFeature.selectAsked)),
      switchMap(([, asked]) => from(lay(thread, asked)).pipe(catchError(refused))),
    ),
  { functional: true },
);

async function lay(thread: SheetThread, asked: BringingInState['asked']): Promise<Action> {
  const result: Result<LaidOutView> = await thread.desk().layOut(asked);
  if (result.ok) return bringingInActions.laidOut({ view: result.value });
  return bringingInActions.notLaidOut({ trouble: result.problem, top: await thread.desk().top(asked) });
}

/** Compares with the roll as soon as there is something to compare. */
export const compare = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.laidOut, bringingInActions.choosePurpose),
      concatLatestFrom(() => [
        store.select(bringingInFeature.selectBringingInState),
        store.select(deskFeature.selectWritten),
        store.select(deskFeature.selectFolio),
      ]),
      switchMap(([, state, roll, folio]): Observable<Action> => {
        const { purpose, view } = state;
        if (!view || purpose.kind === 'base') return EMPTY;
        const source =
          purpose.kind === 'refresh' ? folio?.sources.find(({ id }) => id === purpose.sourceId) : null;
        if (source?.join) return of(bringingInActions.joinBy({ spec: source.join }));
        const work = thread.withRoll(roll, async (desk): Promise<Action> => {
          if (purpose.kind === 'refresh') {
            const result = await desk.compare(purpose.sourceId, state.decisions.columns);
            return either(result, (comparison) => bringingInActions.compared({ comparison }));
          }
          const guess = await desk.guessKey();
          const left = guess?.left ?? WHOLE_NAME;
          const right = guess?.right ?? WHOLE_NAME;
          return bringingInActions.joinBy({
            spec: { left: [left], right: [right], near: [], shape: 'columns', summaries: [] },
          });
        });
        return from(work).pipe(catchError(refused));
      }),
    ),
  { functional: true },
);

export const compareAgain = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.decide),
      filter(({ decisions }) => decisions.columns !== undefined),
      concatLatestFrom(() => [
        store.select(bringingInFeature.selectBringingInState),
        store.select(deskFeature.selectWritten),
      ]),
      switchMap(([, { purpose, decisions }, roll]) =>
        purpose.kind === 'refresh'
          ? from(thread.withRoll(roll, (desk) => desk.compare(purpose.sourceId, decisions.columns))).pipe(
              map((result) => either(result, (comparison) => bringingInActions.compared({ comparison }))),
              catchError(refused),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const planJoin = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.joinBy),
      concatLatestFrom(() => store.select(deskFeature.selectWritten)),
      switchMap(([{ spec }, roll]) =>
        from(thread.withRoll(roll, (desk) => desk.join(spec))).pipe(
          map((result) => either(result, (join) => bringingInActions.joinPlanned({ join }))),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const take = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), thread = inject(SheetThread)) =>
    actions.pipe(
      ofType(bringingInActions.take),
      concatLatestFrom(() => [
        store.select(bringingInFeature.selectBringingInState),
        store.select(deskFeature.selectFolio),
      ]),
      exhaustMap(([, state, folio]) => {
        const as = askedOf(state);
        const { file } = thread;
        if (!as || !file || !folio || !state.view) return EMPTY;
        const { reading } = state.view;
        return allSaved(store).pipe(
          mergeMap(() => api.keepFile(folio.id, file)),
          mergeMap(({ fileId }) => api.bringIn(folio.id, { fileId, name: file.name, reading, as })),
          map((arrived) => deskActions.rollArrived({ folio: arrived })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

/** Shows how the file is read, once the new folio is on the desk. */
export const readStarted = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(foliosActions.started),
      switchMap(({ folio, file }) =>
        file
          ? actions.pipe(
              ofType(deskActions.folioArrived),
              filter((arrived) => arrived.folio.id === folio.id),
              first(),
              map(() => bringingInActions.fileChosen({ file, purpose: { kind: 'base' } })),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);
