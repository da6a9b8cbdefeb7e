import type { PaperLine } from '@scriptum/core/contract';
import type { Mark } from './state-mark';

export interface PaperMark {
  readonly mark: Mark;
  readonly word: string;
}

/** How a paper's state looks and reads. */
export function paperMark(paper: PaperLine | undefined): PaperMark | null {
  if (!paper) return null;
  if (paper.outOfDate && paper.state !== 'dispatched') return { mark: 'old', word: 'Out of date' };
  switch (paper.state) {
    case 'waiting':
      return { mark: 'waiting', word: 'Waiting' };
    case 'pressed':
      return { mark: 'paper', word: 'Pressed' };
    case 'cleared':
      return { mark: 'done', word: 'Cleared' };
    case 'held':
      return { mark: 'held', word: 'Held' };
    case 'dispatched':
      return { mark: 'mailed', word: paper.outOfDate ? 'Sent, out of date' : 'Sent' };
    case 'failed':
      return { mark: 'failed', word: 'Failed' };
    case 'void':
      return { mark: 'failed', word: 'Void' };
    case 'superseded':
      return { mark: 'old', word: 'Earlier version' };
  }
}

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
      return { mark: 'refused', word: 'Refused' };
    case 'unconfirmed':
      return { mark: 'unsure', word: 'Unconfirmed' };
    default:
      return null;
  }
}
