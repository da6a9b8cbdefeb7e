import type { QueuedMessage } from '@scriptum/core/contract';
import { cameBack } from '../ui/paper-mark';
import type { Mark } from '../ui/state-mark';

const MARKS: Readonly<Record<QueuedMessage['state'], { readonly mark: Mark; readonly word: string }>> = {
  queued: { mark: 'waiting', word: 'In the queue' },
  sending: { mark: 'going', word: 'On its way' },
  deferred: { mark: 'waiting', word: 'Tried again later' },
  sent: { mark: 'mailed', word: 'Sent' },
  refused: { mark: 'refused', word: 'Refused' },
  unconfirmed: { mark: 'unsure', word: 'Unconfirmed' },
};

/** How a message's state looks and reads; one that was not taken for all of its addresses says so. */
export const queueMark = ({
  state,
  answer,
}: Pick<QueuedMessage, 'state' | 'answer'>): { readonly mark: Mark; readonly word: string } =>
  state === 'sent' && answer
    ? { mark: 'unsure', word: 'Not to all' }
    : state === 'refused' && cameBack(answer)
      ? { mark: 'refused', word: 'Came back' }
      : MARKS[state];
