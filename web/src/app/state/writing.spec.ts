import type { Me } from '@scriptum/core/contract';
import { emptyLetter, type Letter, type Writing } from '@scriptum/core/template';
import { testFolio, testWritings } from '../testing/folio';
import { deskActions, deskFeature } from './desk';
import { sessionActions } from './session';
import { worstOf, writingActions, writingFeature, type WritingState } from './writing';

const { reducer } = writingFeature;
const named = (name: string): Letter => emptyLetter(name);
const folioAt = (version: number, letter = named('T'), id = 'folio1') => {
  const prefix = id === 'folio1' ? '' : id;
  const writings = testWritings({ letter }, { letter: version }).map((one): Writing => ({
    ...one,
    id: prefix + one.id,
  }));
  return testFolio(undefined, writings, id);
};
const open = (folio = folioAt(3)): WritingState => reducer(undefined, deskActions.folioArrived({ folio }));
const typed = (name: string) => writingActions.changed({ id: 'letter', content: named(name) });
const after = (...actions: Parameters<typeof reducer>[1][]): WritingState => actions.reduce(reducer, open());
const letter = (state: WritingState) => state.drafts.entities['letter'];
const saved = (version: number) => writingActions.saved({ folioId: 'folio1', id: 'letter', version });
const now = (writing: Writing) => ({ writing, changedAt: '2026-11-25T12:00:00Z', changedBy: 'Marit' });
const theirs = (version: number, content: Letter) => now(folioAt(version, content).writings[0]!);

test('what people change is to be saved, and only that', () => {
  const state = after(typed('Other'));
  expect(letter(state)).toMatchObject({ saved: 'changed', version: 3, content: { name: 'Other' } });
  expect(state.drafts.entities['note']?.saved).toBe('saved');
  expect(worstOf(Object.values(state.drafts.entities).filter((one) => one !== undefined))).toBe('changed');
});

test('what is typed while a save is under way is saved afterwards, on the new version', () => {
  const saving = after(typed('Other'), writingActions.saving({ id: 'letter' }));
  expect(letter(reducer(saving, saved(4)))).toMatchObject({ saved: 'saved', version: 4 });
  const more = reducer(saving, typed('Third'));
  expect(letter(reducer(more, saved(4)))).toMatchObject({
    saved: 'changed',
    version: 4,
    content: { name: 'Third' },
  });
});

test('an answer from before a save takes nothing of it back', () => {
  const late = deskActions.folioArrived({ folio: folioAt(3) });
  const kept = after(typed('Other'), writingActions.saving({ id: 'letter' }), saved(4), late);
  expect(letter(kept)).toMatchObject({ saved: 'saved', version: 4, content: { name: 'Other' } });
  const more = after(typed('Other'), writingActions.saving({ id: 'letter' }), saved(4), typed('Third'), late);
  expect(letter(more)).toMatchObject({ saved: 'changed', version: 4, content: { name: 'Third' } });
});

test('a save that failed is said, and the text stays', () => {
  const trouble = { code: 'offline', message: 'No answer.' };
  const failed = after(typed('Other'), writingActions.saveFailed({ id: 'letter', trouble }));
  expect(letter(failed)).toMatchObject({ saved: 'failed', content: { name: 'Other' } });
  expect(failed.trouble?.message).toBe('No answer.');
});

test('a late answer marks the draft it belongs to, and no other folio’s', () => {
  const away = after(
    typed('Other'),
    writingActions.saving({ id: 'letter' }),
    deskActions.folioArrived({ folio: folioAt(7, named('B'), 'folio2') }),
    writingActions.changed({ id: 'folio2letter', content: named('B, changed') }),
  );
  const answered = reducer(away, saved(4));
  expect(answered.drafts.entities['folio2letter']).toMatchObject({ saved: 'changed', version: 7 });
  expect(letter(answered)).toMatchObject({ saved: 'saved', version: 4 });
  // And one that comes twice, or of an identity that is not there, changes nothing.
  expect(reducer(answered, saved(4))).toEqual(answered);
  expect(reducer(answered, writingActions.saved({ folioId: 'x', id: 'y', version: 9 }))).toEqual(answered);
});

test('a folio that is opened again while its save is under way keeps the new text', () => {
  const again = after(
    typed('New'),
    writingActions.saving({ id: 'letter' }),
    deskActions.folioArrived({ folio: folioAt(7, named('B'), 'folio2') }),
    // The answer still has the text of before.
    deskActions.folioArrived({ folio: folioAt(3) }),
  );
  expect(letter(again)).toMatchObject({ saved: 'saving', content: { name: 'New' } });
  expect(letter(reducer(again, saved(4)))).toMatchObject({ saved: 'saved', content: { name: 'New' } });
  // The other folio had nothing unsaved, and is not kept.
  expect(again.drafts.entities['folio2letter']).toBeUndefined();
});

test('the arrival of a new roll keeps what is not saved yet, with the columns that were matched', () => {
  const field = { id: 'f', name: 'Name', columnId: null };
  const before = { ...named('T'), fields: [field] };
  const matched = { ...before, fields: [{ ...field, columnId: 'c' }] };
  const start = reducer(undefined, deskActions.folioArrived({ folio: folioAt(3, before) }));
  const body = { type: 'doc' as const, content: [{ type: 'horizontalRule' as const }] };
  const mine = { ...before, body, fields: [field, { id: 'g', name: 'Class', columnId: 'd' }] };
  const arrived = [
    writingActions.changed({ id: 'letter', content: mine }),
    deskActions.rollArrived({ folio: folioAt(4, matched) }),
  ].reduce(reducer, start);
  expect(letter(arrived)).toMatchObject({
    saved: 'changed',
    version: 4,
    content: { body, fields: [{ id: 'f', columnId: 'c' }, { id: 'g' }] },
  });
});

describe('two people in one text', () => {
  test('changes of different parts go together', () => {
    const state = after(
      typed('Mine'),
      writingActions.overtaken({ id: 'letter', now: theirs(4, { ...named('T'), language: 'de-DE' }) }),
    );
    expect(letter(state)).toMatchObject({
      saved: 'changed',
      version: 4,
      content: { name: 'Mine', language: 'de-DE' },
      theirs: null,
    });
  });

  test('where both changed the same, both stay until somebody chooses', () => {
    const both = after(
      typed('Mine'),
      writingActions.saving({ id: 'letter' }),
      writingActions.overtaken({ id: 'letter', now: theirs(5, named('Theirs')) }),
      typed('Mine, and more'),
    );
    expect(letter(both)).toMatchObject({
      saved: 'conflict',
      content: { name: 'Mine, and more' },
      theirs: { changedBy: 'Marit', writing: { content: { name: 'Theirs' } } },
    });
    const mine = reducer(both, writingActions.settled({ id: 'letter', take: 'mine' }));
    expect(letter(mine)).toMatchObject({ saved: 'changed', version: 5, content: { name: 'Mine, and more' } });
    const other = reducer(both, writingActions.settled({ id: 'letter', take: 'theirs' }));
    expect(letter(other)).toMatchObject({ saved: 'saved', version: 5, content: { name: 'Theirs' } });
  });

  test('who it was and when stays known when the folio comes once more', () => {
    const both = after(
      typed('Mine'),
      writingActions.overtaken({ id: 'letter', now: theirs(5, named('Theirs')) }),
      deskActions.folioArrived({ folio: folioAt(5, named('Theirs')) }),
    );
    expect(letter(both)).toMatchObject({ saved: 'conflict', theirs: { changedBy: 'Marit' } });
    // Where it is first seen in a folio that comes, the next save finds out.
    const first = after(typed('Mine'), deskActions.folioArrived({ folio: folioAt(5, named('Theirs')) }));
    expect(letter(first)).toMatchObject({
      saved: 'changed',
      version: 3,
      content: { name: 'Mine' },
      theirs: null,
    });
  });

  test('a version that is one’s own, whose answer was lost, is no conflict', () => {
    const state = after(
      typed('Mine'),
      writingActions.saving({ id: 'letter' }),
      typed('Mine, and more'),
      writingActions.overtaken({ id: 'letter', now: theirs(4, named('Mine')) }),
    );
    expect(letter(state)).toMatchObject({
      saved: 'changed',
      version: 4,
      content: { name: 'Mine, and more' },
      theirs: null,
    });
  });

  test('another’s changes show where nothing of one’s own is unsaved', () => {
    const state = after(writingActions.heard({ id: 'letter', now: theirs(4, named('Theirs')) }));
    expect(letter(state)).toMatchObject({ saved: 'saved', version: 4, content: { name: 'Theirs' } });
    expect(state.arrival).toBe(2);
    // While a save is under way its own answer says what is there.
    const saving = after(typed('Mine'), writingActions.saving({ id: 'letter' }));
    const heard = writingActions.heard({ id: 'letter', now: theirs(4, named('Theirs')) });
    expect(letter(reducer(saving, heard))).toEqual(letter(saving));
    // And what is older than what is here is old news.
    const old = writingActions.heard({ id: 'letter', now: theirs(2, named('Old')) });
    expect(letter(reducer(open(), old))).toEqual(letter(open()));
  });
});

test('drafts stay when a session runs out, and go with another person', () => {
  const me = (email: string | null): Me => ({
    staff: email ? { name: 'N', email, school: 'S', timeZone: 'UTC' } : null,
    demo: null,
    practicePost: false,
    post: null,
  });
  const known = (email: string | null) => sessionActions.known({ me: me(email) });
  const first = [known('a@x.example'), deskActions.folioArrived({ folio: folioAt(3) }), typed('Mine')].reduce(
    reducer,
    undefined as never as WritingState,
  );
  expect(letter([sessionActions.ended(), known('a@x.example')].reduce(reducer, first))).toMatchObject({
    content: { name: 'Mine' },
  });
  expect(letter(reducer(first, known('b@x.example')))).toBeUndefined();
  expect(letter(reducer(first, known(null)))).toBeUndefined();
});

test('the proof of another folio does not stay on screen', () => {
  const proof = { pages: [{ svg: '<svg/>', width: 1, height: 1 }], blocks: [], fits: [], took: 1 };
  const shown = after(writingActions.proofArrived({ proof }));
  expect(reducer(shown, deskActions.rollArrived({ folio: folioAt(3) })).proof).toBe(proof);
  const other = deskActions.folioArrived({ folio: folioAt(3, named('B'), 'folio2') });
  expect(reducer(shown, other).proof).toBeNull();
});

test('the letter that was picked is the one that is written, as long as it is there', () => {
  const [first] = testWritings({ letter: named('First') }, { letter: 1 });
  const second = {
    ...first!,
    id: 'second',
    name: 'Second',
    place: 1,
    content: { ...named('Second'), off: true },
  } as Writing;
  const both = open(testFolio(undefined, [first!, second], 'folio1'));
  const told = (state: WritingState) => {
    const global = { writing: state, desk: deskFeature.reducer(undefined, deskActions.closed()) };
    const chosen = writingFeature.selectTemplate(global)?.content.name;
    return [chosen, writingFeature.selectTemplates(global).map(({ content }) => content.name)];
  };
  expect(told(both)).toEqual(['First', ['First']]);
  const picked = reducer(both, writingActions.pickTemplate({ id: 'second' }));
  expect(told(picked)).toEqual(['Second', ['First']]);
  const gone = reducer(picked, deskActions.folioArrived({ folio: testFolio(undefined, [first!], 'folio1') }));
  expect(told(gone)).toEqual(['First', ['First']]);
});
