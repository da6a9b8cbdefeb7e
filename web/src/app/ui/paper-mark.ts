import type { PaperLine } from '@scriptum/core/contract';
import { paperWord } from '@scriptum/core/paper';
import type { Mark } from './state-mark';

export interface PaperMark {
  readonly mark: Mark;
  readonly word: string;
}

const MARKS: Readonly<Record<PaperLine['state'], Mark>> = {
  waiting: 'waiting',
  pressed: 'paper',
  cleared: 'done',
  held: 'held',
  dispatched: 'mailed',
  failed: 'failed',
  void: 'failed',
  superseded: 'old',
};

/** How a paper's state looks and reads. */
export function paperMark(paper: PaperLine | undefined): PaperMark | null {
  if (!paper) return null;
  const old = paper.outOfDate && paper.state !== 'dispatched';
  return { mark: old ? 'old' : MARKS[paper.state], word: paperWord(paper) };
}

/** Whether a message was taken, and came back later (see the server's `returns`). */
export const cameBack = (answer: string | null): boolean => answer?.startsWith('Came back: ') ?? false;

/**
 * How the state of a paper's message looks and reads; null where there is none, or it was sent, as the paper's own state
 * says. `fault` is true while no mail goes out at all, which is said once for all of them.
 */
export function messageMark(paper: PaperLine, fault = false): PaperMark | null {
  const waits = paper.message?.state === 'queued' || paper.message?.state === 'deferred';
  if (waits && (fault || paper.state === 'held'))
    return { mark: 'waiting', word: fault ? 'Waits' : 'Kept back' };
  switch (paper.message?.state) {
    case 'queued':
      return { mark: 'waiting', word: 'In the queue' };
    case 'sending':
      return { mark: 'going', word: 'On its way' };
    case 'deferred':
      return { mark: 'waiting', word: 'Tried again later' };
    case 'refused':
      return { mark: 'refused', word: cameBack(paper.message.answer) ? 'Came back' : 'Refused' };
    case 'unconfirmed':
      return { mark: 'unsure', word: 'Unconfirmed' };
    case 'sent':
      // Some of its addresses were not taken.
      if (paper.message.answer) return { mark: 'unsure', word: 'Not to all' };
      // Of a private link it is known whether somebody has opened it.
      if (paper.message.opened === null) return null;
      return paper.message.opened
        ? { mark: 'done', word: 'Opened' }
        : { mark: 'waiting', word: 'Not opened' };
    default:
      return null;
  }
}
