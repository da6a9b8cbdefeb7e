import { inject } from '@angular/core';
import { createSelector, Store } from '@ngrx/store';
import type { PaperLine } from '@scriptum/core/contract';
import { paperKey } from '@scriptum/core/paper';
import { isIn } from '@scriptum/core/roll';
import { deskFeature } from '../../state/desk';
import { selectFileNames } from '../../state/file-name';
import { registerFeature } from '../../state/register';
import { selectSortedBy, selectSorter } from '../../state/sorting';
import { writingFeature } from '../../state/writing';
import { paperMark, type PaperMark } from '../../ui/paper-mark';

/** A line of who gets what: a paper, or somebody who gets none. */
export interface WhoLine {
  readonly key: string;
  readonly entryId: string;
  /** Blank where it stands on the line above. */
  readonly name: string;
  readonly file: string;
  /** The template, where there are several. */
  readonly letter: string;
  /** The rule that says so, counted from 1; null where there are none. */
  readonly rule: number | null;
  readonly mark: PaperMark | null;
  /** Why there is no paper; null where there is one. */
  readonly without: string | null;
}

const selectWhoLines = createSelector(
  deskFeature.selectRoll,
  deskFeature.selectNames,
  selectFileNames,
  selectSorter,
  selectSortedBy,
  writingFeature.selectTemplates,
  registerFeature.selectPresent,
  (roll, names, fileNames, sorter, by, templates, present): WhoLine[] => {
    const papers = new Map<string, PaperLine>();
    for (const paper of present) if (!papers.has(paperKey(paper))) papers.set(paperKey(paper), paper);
    const letters = new Map(templates.map(({ id, content }) => [id, content.name]));
    const { rules } = by.sorting;
    return roll.entries.flatMap((entry): WhoLine[] => {
      const sorted = sorter(entry);
      const name = names.get(entry.id) ?? '';
      const one = { entryId: entry.id, name, file: '', letter: '', mark: null };
      const rule = sorted.by === null ? null : sorted.by + 1;
      if (!isIn(entry)) {
        const without = entry.gone ? 'taken away' : `left out: ${entry.leftOut ?? ''}`;
        return [{ ...one, key: entry.id, rule: null, without }];
      }
      if (sorted.leftOut !== null) {
        const why = sorted.leftOut.trim();
        return [{ ...one, key: entry.id, rule, without: why ? `left out, because ${why}` : 'left out' }];
      }
      const planned = fileNames.get(entry.id) ?? [];
      if (planned.length === 0)
        return [
          { ...one, key: entry.id, rule, without: rule === null ? 'no rule takes them' : 'gets nothing' },
        ];
      return planned.map(({ templateId, fileName }, place): WhoLine => {
        const key = paperKey({ entryId: entry.id, templateId });
        const decides = rule !== null && rules[rule - 1]!.then;
        const byOther =
          !decides || decides.kind === 'out' || !decides.templates.includes(templateId) ? sorted.also : [];
        return {
          ...one,
          key,
          // Said once for all papers of a learner.
          name: place === 0 ? name : '',
          file: fileName,
          letter: letters.size > 1 ? (letters.get(templateId) ?? '') : '',
          rule: byOther.length > 0 ? byOther[0]! + 1 : rule,
          mark: paperMark(papers.get(key)),
          without: null,
        };
      });
    });
  },
);

/** The lines of who gets what, in the order of the roll. */
export const whoLines = () => inject(Store).selectSignal(selectWhoLines);
