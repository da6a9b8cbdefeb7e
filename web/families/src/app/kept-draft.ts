import type { Given } from '@scriptum/core/form';

/** Milliseconds for which answers that were not sent are kept. */
const KEPT_FOR = 7 * 24 * 60 * 60 * 1000;

/** What has been written and not sent. */
export interface KeptDraft {
  readonly given: Given;
  readonly language: string;
  /** Names of files that were brought, by their identities. */
  readonly files: Readonly<Record<string, string>>;
  readonly at: number;
}

const keyOf = (token: string, edit: string | null): string => `scriptum form ${token} ${edit ?? ''}`.trim();

/** Answers that are kept in the browser until they are sent. Where the browser keeps nothing, the page works without. */
export const keptDrafts = {
  read(token: string, edit: string | null): KeptDraft | null {
    try {
      const kept = JSON.parse(localStorage.getItem(keyOf(token, edit)) ?? 'null') as KeptDraft | null;
      return kept && Date.now() - kept.at < KEPT_FOR ? kept : null;
    } catch {
      return null;
    }
  },
  write(token: string, edit: string | null, draft: Omit<KeptDraft, 'at'>): void {
    try {
      localStorage.setItem(keyOf(token, edit), JSON.stringify({ ...draft, at: Date.now() }));
    } catch {
      // Nothing is kept in this browser.
    }
  },
  forget(token: string, edit: string | null): void {
    try {
      localStorage.removeItem(keyOf(token, edit));
    } catch {
      // Nothing is kept in this browser.
    }
  },
};
