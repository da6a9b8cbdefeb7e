import { inject } from '@angular/core';
import type { Folio } from '@scriptum/core/contract';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { concatMap, debounceTime, from, map, switchMap } from 'rxjs';
import { dayIn } from '@scriptum/core/time';
import { MarksThread } from '../thread/marks-thread';
import { deskActions, deskFeature } from '../../state/desk';
import { marksActions } from '../../state/marks-actions';
import { rollActions } from '../../state/roll';
import { sessionFeature } from '../../state/session';

const hasWorked = (folio: Folio | null): folio is Folio =>
  folio?.roll.columns.some(({ worked }) => worked) ?? false;

const idsOf = (folio: Folio): string[] => folio.roll.entries.map(({ id }) => id);

/** @param today the day it is at the school, ISO 8601. */
async function loadAll(thread: MarksThread, folio: Folio, today: string) {
  const tables = folio.sources
    .filter(({ columns }) => columns)
    .map(({ id, fileName, columns }) => ({ id, name: fileName, columns: columns! }));
  const texts = await thread.load(folio.roll, tables, today);
  return marksActions.workedOut({ texts, entryIds: idsOf(folio), anew: true });
}

/** Works the columns out in their thread: all of them for a roll that arrives, what depends on a change after it. */
export const workOut = createEffect(
  (actions = inject(Actions), store = inject(Store), thread = inject(MarksThread)) =>
    actions.pipe(
      ofType(deskActions.folioArrived, deskActions.rollArrived, rollActions.changed),
      concatLatestFrom(() => [
        store.select(deskFeature.selectFolio),
        store.select(sessionFeature.selectTimeZone),
      ]),
      concatMap(([action, folio, timeZone]) => {
        const today = dayIn(new Date(), timeZone);
        if (!hasWorked(folio)) {
          thread.forget();
          return from([marksActions.workedOut({ texts: [], entryIds: [], anew: true })]);
        }
        const changed = action.type === rollActions.changed.type && thread.ready ? action : null;
        return from(
          changed
            ? thread
                .change(changed.how === 'undo' ? changed.step.undo : changed.step.patch)
                .then((texts) =>
                  texts
                    ? marksActions.workedOut({ texts, entryIds: idsOf(folio), anew: false })
                    : loadAll(thread, folio, today),
                )
            : loadAll(thread, folio, today),
        );
      }),
    ),
  { functional: true },
);

/** Findings follow once there is time for them. */
export const findInMarks = createEffect(
  (actions = inject(Actions), thread = inject(MarksThread)) =>
    actions.pipe(
      ofType(marksActions.workedOut),
      debounceTime(150),
      switchMap(() => (thread.ready ? from(thread.desk().findings()) : from([[]]))),
      map((findings) => marksActions.findingsArrived({ findings })),
    ),
  { functional: true },
);
