import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, mergeMap, of, switchMap } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { postActions } from './post';

const failed = (error: unknown) => of(postActions.failed({ trouble: troubleOf(error) }));

export const loadMailboxes = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(postActions.asked),
      switchMap(() =>
        api.mailboxes().pipe(
          map((arrived) => postActions.mailboxesArrived(arrived)),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const setMood = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(postActions.chooseMood),
      switchMap(({ mood: wanted }) =>
        api.setPracticeManner(wanted).pipe(
          map(({ mood }) => postActions.moodSet({ mood })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const loadMessages = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(postActions.openMailbox),
      switchMap(({ mailbox }) =>
        api.mailList(mailbox).pipe(
          mergeMap(({ messages }) => {
            const newest = messages[0];
            const arrived = postActions.messagesArrived({ messages });
            return newest ? [arrived, postActions.openMail({ id: newest.id })] : [arrived];
          }),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);

export const loadMail = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(postActions.openMail),
      switchMap(({ id }) =>
        api.mail(id).pipe(
          map((mail) => postActions.mailArrived({ mail })),
          catchError(failed),
        ),
      ),
    ),
  { functional: true },
);
