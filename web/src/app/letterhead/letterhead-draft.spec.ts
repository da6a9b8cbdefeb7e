import { TestBed } from '@angular/core/testing';
import type { LetterheadNow, Me } from '@scriptum/core/contract';
import { emptyLetterhead } from '@scriptum/core/template';
import { Actions } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { HttpErrorResponse } from '@angular/common/http';
import { of, Subject, throwError } from 'rxjs';
import { Api } from '../api/api';
import { deskActions } from '../state/desk-actions';
import { sessionActions } from '../state/session';
import { LetterheadDraft } from './letterhead-draft';

const now = (version: number, room = 45): LetterheadNow => ({
  version,
  letterhead: version === 0 ? null : { ...emptyLetterhead('S'), room },
  changedAt: null,
  changedBy: null,
  pictures: [],
  letters: 0,
});
const known = (email: string | null) =>
  sessionActions.known({
    me: {
      staff: email === null ? null : { name: 'N', email, school: 'S', timeZone: 'UTC' },
    } as unknown as Me,
  });
const refusal = (status: number, code: string): HttpErrorResponse =>
  new HttpErrorResponse({ status, error: { code, detail: 'No.', title: 'No', type: 'x', status } });

function setUp() {
  const actions = new Subject<unknown>();
  const dispatched: unknown[] = [];
  const api = { letterhead: () => of(now(1)), saveLetterhead: () => of(now(2, 50)) } as unknown as Api;
  TestBed.configureTestingModule({
    providers: [
      { provide: Actions, useValue: new Actions(actions as never) },
      { provide: Store, useValue: { dispatch: (action: unknown) => dispatched.push(action) } },
      { provide: Api, useValue: api },
    ],
  });
  const draft = TestBed.inject(LetterheadDraft);
  actions.next(known('a@s.example'));
  draft.open('S');
  return { actions, api, draft, dispatched };
}

test('what is changed is not in use, stays when it is opened again, and is taken back', () => {
  const { draft } = setUp();
  expect(draft.isChanged()).toBe(false);
  draft.change({ room: 50 });
  expect(draft.isChanged()).toBe(true);
  draft.open('S');
  expect(draft.draft()?.room).toBe(50);
  draft.giveUp('S');
  expect([draft.isChanged(), draft.draft()?.room]).toEqual([false, 45]);
});

test('who signs in again goes on with it; somebody else gets nothing of it', () => {
  const { actions, draft } = setUp();
  draft.change({ room: 50 });
  actions.next(known('a@s.example'));
  expect(draft.draft()?.room).toBe(50);
  actions.next(known('b@s.example'));
  expect(draft.draft()).toBeNull();
  draft.open('S');
  actions.next(known(null));
  expect(draft.draft()).toBeNull();
});

test('where the session is gone the one who uses it is asked to sign in, and nothing is lost', () => {
  const { api, draft, dispatched } = setUp();
  draft.change({ room: 50 });
  api.saveLetterhead = () => throwError(() => refusal(401, 'signed-out'));
  draft.use();
  expect(draft.trouble()?.code).toBe('signed-out');
  expect(dispatched).toEqual([deskActions.failed({ trouble: draft.trouble()! })]);
  expect([draft.draft()?.room, draft.busy()]).toEqual([50, false]);
});

test('where another one was used meanwhile it is known, and one’s own stays on screen', () => {
  const { api, draft, dispatched } = setUp();
  draft.change({ room: 50 });
  api.saveLetterhead = () => throwError(() => refusal(409, 'changed-elsewhere'));
  api.letterhead = () => of(now(7, 60));
  draft.use();
  expect([draft.now()?.version, draft.draft()?.room, dispatched.length]).toEqual([7, 50, 0]);
});

test('what is used is in use, with what was typed while it was on its way still to be used', () => {
  const { api, draft } = setUp();
  draft.change({ room: 50 });
  draft.use();
  expect([draft.isChanged(), draft.used(), draft.now()?.version]).toEqual([false, true, 2]);
  const answer = new Subject<LetterheadNow>();
  api.saveLetterhead = () => answer;
  draft.change({ room: 60 });
  draft.use();
  draft.change({ room: 70 });
  answer.next(now(3, 60));
  expect([draft.isChanged(), draft.draft()?.room]).toEqual([true, 70]);
});
