import type { PaperLine } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import type { SomeEntries } from '../state/desk';

const OF_PAPERS: readonly (readonly [string, (paper: PaperLine) => boolean])[] = [
  ['Held papers', ({ state }) => state === 'held'],
  ['Papers that failed', ({ state }) => state === 'failed'],
  ['Refused by the mail server', ({ message }) => message?.state === 'refused'],
  ['Sent perhaps: ask the family', ({ message }) => message?.state === 'unconfirmed'],
];

/**
 * Why papers are not ready, by kinds of findings and by what became of papers, each with its learners once; the most frequent first.
 *
 * @param nameOf what findings of one code are called.
 */
export function reasonsOf(
  findings: readonly Finding[],
  papers: readonly PaperLine[],
  nameOf: (code: string) => string,
): SomeEntries[] {
  const reasons = new Map<string, Set<string>>();
  const add = (label: string, ids: readonly string[]): void => {
    if (ids.length === 0) return;
    reasons.set(label, new Set([...(reasons.get(label) ?? []), ...ids]));
  };
  for (const { code, entryIds } of findings) add(nameOf(code), entryIds);
  for (const [label, is] of OF_PAPERS)
    add(
      label,
      papers.filter(is).map(({ entryId }) => entryId),
    );
  return [...reasons]
    .map(([label, ids]): SomeEntries => ({ label, entryIds: [...ids] }))
    .sort((a, b) => b.entryIds.length - a.entryIds.length);
}
