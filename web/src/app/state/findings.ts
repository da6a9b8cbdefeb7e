import { createSelector, createSelectorFactory, defaultMemoize, type MemoizedSelector } from '@ngrx/store';
import { entriesToLookAt, fitFindings, preflight, type Finding } from '@scriptum/core/preflight';
import { isIn, presentRoll } from '@scriptum/core/roll';
import { getsOf, placedOf } from '@scriptum/core/template';
import { plainTitle } from '@scriptum/core/column';
import { deskFeature } from './desk';
import { writingFeature } from './writing';

/** A folio is another object with each changed cell; its pictures are not. */
const selectAssets = createSelector(deskFeature.selectFolio, (folio) => folio?.assets);

const selectLetterhead = createSelector(deskFeature.selectFolio, (folio) => folio?.letterhead);

/** What preflight finds in the folio as it stands on screen, computed anew at each keystroke. */
const selectFindingsNow = createSelector(
  selectAssets,
  selectLetterhead,
  deskFeature.selectSettledRoll,
  deskFeature.selectMarksFindings,
  writingFeature.selectTemplates,
  writingFeature.selectNoteValue,
  writingFeature.selectFilingValue,
  writingFeature.selectFits,
  (assets, letterhead, roll, marks, templates, note, filing, fits): Finding[] => {
    if (!assets || !note || !filing) return [];
    const whole = templates.find(({ id }) => id === fits?.templateId)?.content;
    const measured = whole && placedOf(whole);
    const found = preflight({
      roll: presentRoll(roll),
      marks,
      letterhead,
      templates: templates.map(({ content }) => content),
      gets: getsOf(templates),
      note,
      filing,
      assets: new Set(assets.map(({ id }) => id)),
    });
    if (!fits || !measured) return found;
    return [...found, ...fitFindings(measured, fits.boxes, presentRoll(roll), templates.length > 1)];
  },
);

/** The findings; the same list as long as they say the same, so that typing does not draw the strip and the margin anew. */
export const selectFindings: MemoizedSelector<object, Finding[]> = createSelectorFactory<object, Finding[]>(
  (projector) => defaultMemoize(projector, undefined, (a, b) => JSON.stringify(a) === JSON.stringify(b)),
)(selectFindingsNow, (findings: Finding[]) => findings);

export const selectLookIds = createSelector(selectFindings, entriesToLookAt);

/** The strip's lines: entries with their names, as filter and find leave them. */
export const selectShown = createSelector(
  deskFeature.selectSettled,
  deskFeature.selectNames,
  deskFeature.selectFilter,
  deskFeature.selectSome,
  deskFeature.selectFind,
  selectLookIds,
  (roll, names, filter, some, find, look) => {
    const named = new Set(some?.entryIds);
    const plain = find.trim() ? plainTitle(find) : '';
    return roll.entries
      .map((entry) => ({ entry, name: names.get(entry.id) ?? '', look: look.has(entry.id) }))
      .filter(({ entry, look: flagged }) =>
        filter === 'out'
          ? !isIn(entry)
          : filter === 'some'
            ? named.has(entry.id)
            : isIn(entry) && (filter === 'all' || flagged === (filter === 'look')),
      )
      .filter((line) => !plain || plainTitle(line.name).includes(plain));
  },
);

export const selectCounts = createSelector(deskFeature.selectSettled, selectLookIds, (roll, look) => {
  const all = roll.entries.filter(isIn).length;
  return { all, look: look.size, ready: all - look.size, out: roll.entries.length - all };
});
