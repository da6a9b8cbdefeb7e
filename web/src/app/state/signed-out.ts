import type { Action } from '@ngrx/store';
import type { Trouble } from '../api/api';

/** True for an action that reports that the server no longer knows who is there. */
export function signedOutBy(action: Action): boolean {
  return (action as Action & { trouble?: Trouble }).trouble?.code === 'signed-out';
}
