import type { PrivateLinkRow } from './entities/private-link.js';

/** Wrong answers after which a link takes no more, until somebody of the school lets it. */
export const WRONG_MOST = 5;

/** How a link stands. */
export type LinkState = 'works' | 'ended' | 'withdrawn' | 'closed';

export function stateOf(link: PrivateLinkRow, now = new Date()): LinkState {
  if (link.withdrawnAt) return 'withdrawn';
  if (link.endsAt <= now) return 'ended';
  return link.wrong >= WRONG_MOST ? 'closed' : 'works';
}
