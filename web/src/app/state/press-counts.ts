import { createSelector } from '@ngrx/store';
import type { PaperLine, PressKind } from '@scriptum/core/contract';
import { paperKey } from '@scriptum/core/paper';
import { deskFeature } from './desk';
import { selectFileNames } from './file-name';
import { selectGetsPaper } from './findings';
import { registerFeature } from './register';

/** Papers that would be pressed, by what there is of them, and how many are up to date. */
export interface PressCounts {
  readonly due: Readonly<Record<PressKind, number>>;
  readonly upToDate: number;
  /** All papers of all learners. */
  readonly all: number;
  /** Of each entry, how many papers are due. */
  readonly dueOf: ReadonlyMap<string, number>;
}

/** What there is of each paper that would be made now. */
export const selectPressCounts = createSelector(
  deskFeature.selectRoll,
  selectFileNames,
  selectGetsPaper,
  registerFeature.selectPresent,
  (roll, fileNames, gets, present): PressCounts => {
    const papers = new Map<string, PaperLine>();
    const failed = new Set<string>();
    for (const paper of present) {
      const key = paperKey(paper);
      if (paper.state === 'failed') failed.add(key);
      else if (paper.state !== 'waiting' && paper.state !== 'superseded') papers.set(key, paper);
    }
    const due = { new: 0, old: 0, failed: 0 };
    const dueOf = new Map<string, number>();
    let all = 0;
    for (const entry of roll.entries) {
      if (!gets(entry)) continue;
      for (const { templateId } of fileNames.get(entry.id) ?? []) {
        all++;
        const key = paperKey({ entryId: entry.id, templateId });
        const there = papers.get(key);
        if (there && !there.outOfDate) continue;
        due[failed.has(key) ? 'failed' : there ? 'old' : 'new']++;
        dueOf.set(entry.id, (dueOf.get(entry.id) ?? 0) + 1);
      }
    }
    return { due, all, upToDate: all - due.new - due.old - due.failed, dueOf };
  },
);
