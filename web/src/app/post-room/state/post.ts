import type { Mail, Mailboxes, MailList, PracticeMood } from '@scriptum/core/contract';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Trouble } from '../../api/api';

export interface PostState {
  readonly mailboxes: Mailboxes['mailboxes'] | null;
  /** How the practice post behaves; null while it is not known. */
  readonly mood: PracticeMood | null;
  readonly mailbox: string | null;
  readonly messages: MailList['messages'] | null;
  readonly mail: Mail | null;
  readonly trouble: Trouble | null;
}

export const postActions = createActionGroup({
  source: 'Post',
  events: {
    Asked: emptyProps(),
    'Mailboxes Arrived': props<Mailboxes>(),
    'Choose Mood': props<{ mood: PracticeMood }>(),
    'Mood Set': props<{ mood: PracticeMood }>(),
    'Open Mailbox': props<{ mailbox: string }>(),
    'Messages Arrived': props<{ messages: MailList['messages'] }>(),
    'Open Mail': props<{ id: string }>(),
    'Mail Arrived': props<{ mail: Mail }>(),
    Failed: props<{ trouble: Trouble }>(),
  },
});

const start: PostState = {
  mailboxes: null,
  mood: null,
  mailbox: null,
  messages: null,
  mail: null,
  trouble: null,
};

export const postFeature = createFeature({
  name: 'post',
  reducer: createReducer<PostState>(
    start,
    on(postActions.asked, (): PostState => start),
    on(postActions.moodSet, (state, { mood }): PostState => ({ ...state, mood, trouble: null })),
    on(postActions.mailboxesArrived, (state, { mailboxes, mood }): PostState => ({
      ...state,
      mailboxes,
      mood,
      trouble: null,
    })),
    on(postActions.openMailbox, (state, { mailbox }): PostState => ({
      ...state,
      mailbox,
      messages: null,
      mail: null,
    })),
    on(postActions.messagesArrived, (state, { messages }): PostState => ({ ...state, messages })),
    on(postActions.mailArrived, (state, { mail }): PostState => ({ ...state, mail })),
    on(postActions.failed, (state, { trouble }): PostState => ({ ...state, trouble })),
  ),
});
