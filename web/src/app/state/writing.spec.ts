import type { Folio } from '@scriptum/core/contract';
import { emptyFiling, emptyLetter, emptyNote } from '@scriptum/core/template';
import { deskActions } from './desk';
import { rematch, writingActions, writingFeature, type WritingState } from './writing';

const folio: Folio = {
  id: 'folio1',
  title: 'T',
  sources: [],
  earlier: null,
  roll: { columns: [], entries: [] },
  letter: emptyLetter('T'),
  letterVersion: 3,
  note: emptyNote(),
  noteVersion: 1,
  filing: emptyFiling(),
  filingVersion: 1,
  assets: [],
};
const { reducer } = writingFeature;
const open = (): WritingState => reducer(undefined, deskActions.folioArrived({ folio }));
const change = writingActions.changed({ change: { letter: emptyLetter('Other') } });

test('what people change is to be saved, and only that', () => {
  const state = reducer(open(), change);
  expect(state.letter).toMatchObject({ saved: 'changed', version: 3, value: { name: 'Other' } });
  expect(state.note?.saved).toBe('saved');
  expect(writingFeature.selectSaved.projector(state.letter, state.note, state.filing)).toBe('changed');
});

test('what is typed while a save is under way is saved afterwards, on the new version', () => {
  const saving = reducer(reducer(open(), change), writingActions.saving({ kind: 'letter' }));
  expect(reducer(saving, writingActions.saved({ kind: 'letter', version: 4 })).letter).toMatchObject({
    saved: 'saved',
    version: 4,
  });
  const typed = reducer(saving, writingActions.changed({ change: { letter: emptyLetter('Third') } }));
  expect(reducer(typed, writingActions.saved({ kind: 'letter', version: 4 })).letter).toMatchObject({
    saved: 'changed',
    version: 4,
    value: { name: 'Third' },
  });
});

test('a save that failed is said, and the text stays', () => {
  const failed = reducer(
    reducer(open(), change),
    writingActions.saveFailed({ kind: 'letter', trouble: { code: 'offline', message: 'No answer.' } }),
  );
  expect(failed.letter).toMatchObject({ saved: 'failed', value: { name: 'Other' } });
  expect(failed.trouble?.message).toBe('No answer.');
});

test('the proof of another folio does not stay on screen', () => {
  const proof = { svg: '<svg/>', pages: 1, width: 1, height: 1, took: 1 };
  const shown = reducer(open(), writingActions.proofArrived({ proof }));
  expect(reducer(shown, deskActions.rollArrived({ folio })).proof).toBe(proof);
  expect(reducer(shown, deskActions.folioArrived({ folio: { ...folio, id: 'folio2' } })).proof).toBeNull();
});

test('a field is matched by hand', () => {
  expect(
    rematch(
      [
        { id: 'a', name: 'A', columnId: null },
        { id: 'b', name: 'B', columnId: 'x' },
      ],
      'a',
      'y',
    ),
  ).toEqual([
    { id: 'a', name: 'A', columnId: 'y' },
    { id: 'b', name: 'B', columnId: 'x' },
  ]);
});
