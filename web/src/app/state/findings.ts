import { createSelector, createSelectorFactory, defaultMemoize, type MemoizedSelector } from '@ngrx/store';
import {
  entriesToLookAt,
  fitFindings,
  outOfDateFinding,
  preflight,
  refusedFinding,
  withoutSeen,
  type Finding,
} from '@scriptum/core/preflight';
import { isIn, presentRoll, type Entry } from '@scriptum/core/roll';
import { getsOf } from '@scriptum/core/sorting';
import { noteName, placedOf } from '@scriptum/core/template';
import { plainTitle } from '@scriptum/core/column';
import { checksFeature } from './checks';
import { deskFeature } from './desk';
import { registerFeature } from './register';
import { selectSortedBy, selectSorter } from './sorting';
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
  writingFeature.selectNotes,
  writingFeature.selectFilingValue,
  writingFeature.selectFits,
  selectSortedBy,
  writingFeature.selectExceptions,
  (assets, letterhead, roll, marks, templates, notes, filing, fits, by, exceptions): Finding[] => {
    if (!assets || notes.length === 0 || !filing) return [];
    const whole = templates.find(({ id }) => id === fits?.templateId)?.content;
    const measured = whole && placedOf(whole);
    const found = preflight({
      roll: presentRoll(roll),
      marks,
      letterhead,
      templates: templates.map(({ content }) => content),
      sorting: { by, templates },
      exceptions,
      notes: notes.map(({ id, name, content }) => ({ id, name: noteName({ name, content }), content })),
      filing,
      assets: new Set(assets.map(({ id }) => id)),
    });
    if (!fits || !measured) return found;
    const gets = getsOf(templates, by);
    const present = presentRoll(roll);
    const theirs = { ...present, entries: present.entries.filter((entry) => gets(whole, entry)) };
    const live = fitFindings(measured, fits.boxes, theirs, templates.length > 1);
    return [...found, ...live.map((finding) => ({ ...finding, templateId: fits.templateId }))];
  },
);

/** What stands in boxes is known at once of the certificate that is worked on. */
const isOfBoxes = ({ code }: Finding): boolean => code === 'box-long' || code === 'box-no-code';

const selectOldIds = createSelector(
  registerFeature.selectPresent,
  (papers): ReadonlySet<string> =>
    new Set(
      papers
        .filter(({ outOfDate, state }) => outOfDate && state !== 'dispatched')
        .map(({ entryId }) => entryId),
    ),
);

const selectRefusedIds = createSelector(
  registerFeature.selectPresent,
  (papers): ReadonlySet<string> =>
    new Set(papers.filter(({ message }) => message?.state === 'refused').map(({ entryId }) => entryId)),
);

/** The same with what was found out in the background about the papers as they come out. */
const selectAllNow = createSelector(
  selectFindingsNow,
  checksFeature.selectMeasured,
  writingFeature.selectFits,
  deskFeature.selectSettledRoll,
  selectOldIds,
  selectRefusedIds,
  (found, measured, fits, roll, oldIds, refusedIds): Finding[] => {
    const live = fits?.templateId;
    const old = outOfDateFinding(presentRoll(roll), oldIds);
    const refused = refusedFinding(presentRoll(roll), refusedIds);
    return [
      ...found,
      ...measured.filter((finding) => !(isOfBoxes(finding) && finding.templateId === live)),
      ...(old ? [old] : []),
      ...(refused ? [refused] : []),
    ];
  },
);

const selectSplit = createSelector(
  selectAllNow,
  deskFeature.selectSettledRoll,
  checksFeature.selectMarks,
  (findings, roll, marks) => withoutSeen(findings, presentRoll(roll), marks),
);

/** What somebody has looked at and found right. */
export const selectSeenFindings = createSelector(selectSplit, ({ seen }) => seen);

/** The findings; the same list as long as they say the same, so that typing does not draw the strip and the margin anew. */
export const selectFindings: MemoizedSelector<object, Finding[]> = createSelectorFactory<object, Finding[]>(
  (projector) => defaultMemoize(projector, undefined, (a, b) => JSON.stringify(a) === JSON.stringify(b)),
)(selectSplit, ({ open }: { open: Finding[] }) => open);

export const selectLookIds = createSelector(selectFindings, entriesToLookAt);

const NOBODY: ReadonlySet<string> = new Set();

/** Entries that are in, and that a rule of the sorting leaves out. */
const selectSortedOut = createSelector(
  deskFeature.selectSettledRoll,
  selectSorter,
  selectSortedBy,
  ({ entries }, sorted, { sorting }): ReadonlySet<string> =>
    sorting.rules.length === 0
      ? NOBODY
      : new Set(entries.filter((entry) => isIn(entry) && sorted(entry).leftOut !== null).map(({ id }) => id)),
);

/** Whether an entry is in and no rule leaves it out; who is taken by no rule is to be looked at. */
export const selectGetsPaper = createSelector(
  selectSortedOut,
  (out) =>
    (entry: Entry): boolean =>
      isIn(entry) && !out.has(entry.id),
);

/** The strip's lines: entries with their names, as filter and find leave them. */
export const selectShown = createSelector(
  deskFeature.selectSettled,
  deskFeature.selectNames,
  deskFeature.selectFilter,
  deskFeature.selectSome,
  deskFeature.selectFind,
  selectLookIds,
  selectGetsPaper,
  (roll, names, filter, some, find, look, gets) => {
    const named = new Set(some?.entryIds);
    const plain = find.trim() ? plainTitle(find) : '';
    return roll.entries
      .map((entry) => ({ entry, name: names.get(entry.id) ?? '', look: look.has(entry.id) }))
      .filter(({ entry, look: flagged }) =>
        filter === 'out'
          ? !gets(entry)
          : filter === 'some'
            ? named.has(entry.id)
            : gets(entry) && (filter === 'all' || flagged === (filter === 'look')),
      )
      .filter((line) => !plain || plainTitle(line.name).includes(plain));
  },
);

export const selectCounts = createSelector(
  deskFeature.selectSettled,
  selectLookIds,
  selectGetsPaper,
  (roll, ids, gets) => {
    const there = roll.entries.filter(gets);
    const look = there.filter(({ id }) => ids.has(id)).length;
    return { all: there.length, look, ready: there.length - look, out: roll.entries.length - there.length };
  },
);
