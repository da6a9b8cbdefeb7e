import { emptyLetter, emptyNote } from '@scriptum/core/template';
import { testFolio, testWritings } from '../testing/folio';
import { checksFeature } from './checks';
import { deskActions, deskFeature, type DeskState } from './desk';
import { selectCounts, selectFindings, selectShown } from './findings';
import { registerFeature } from './register';
import { writingFeature } from './writing';

const columns = [
  { id: 'n', title: 'Name' },
  { id: 'm', title: 'Mail' },
];
const entries = [
  ['Zoë', 'z@families.example'],
  ['محمد', ''],
  ['Łukasz', 'no address'],
].map(([n, m], position) => ({ id: `e${position}`, position, values: { n: n!, m: m! } }));
const field = { id: 'f', name: 'Name', columnId: 'n' };
const body = {
  type: 'doc' as const,
  content: [{ type: 'paragraph' as const, content: [{ type: 'field' as const, attrs: { fieldId: 'f' } }] }],
};
const folio = testFolio(
  { columns, entries },
  testWritings({
    letter: { ...emptyLetter('T'), fields: [field], body },
    note: {
      ...emptyNote(),
      to: [{ columnId: 'm' }],
      subject: [{ type: 'text', text: 'S' }],
      fields: [field],
      body,
    },
  }),
);
const { reducer } = deskFeature;
const open = (): DeskState => reducer(undefined, deskActions.folioArrived({ folio }));
/** The whole store, as selectors see it. */
const stateOf = (desk: DeskState, arrived = folio) => ({
  desk,
  writing: writingFeature.reducer(undefined, deskActions.folioArrived({ folio: arrived })),
  checks: checksFeature.reducer(undefined, deskActions.opened({ folioId: arrived.id })),
  register: registerFeature.reducer(undefined, deskActions.opened({ folioId: arrived.id })),
});

test('one learner is always picked: the first at the start, the same one where the roll still has it', () => {
  expect(open().pickedId).toBe('e0');
  const picked = reducer(open(), deskActions.pick({ entryId: 'e2' }));
  expect(reducer(picked, deskActions.rollArrived({ folio })).pickedId).toBe('e2');
  const shorter = { ...folio, roll: { columns, entries: entries.slice(0, 1) } };
  expect(reducer(picked, deskActions.rollArrived({ folio: shorter })).pickedId).toBe('e0');
  expect(
    reducer(picked, deskActions.rollArrived({ folio: { ...folio, roll: { columns, entries: [] } } }))
      .pickedId,
  ).toBeNull();
});

test('the ledge counts who is ready and who needs a look', () => {
  expect(selectCounts(stateOf(open()))).toEqual({ all: 3, look: 2, ready: 1, out: 0 });
  expect(selectFindings(stateOf(open())).map(({ code }) => code)).toEqual(['address-none', 'address-wrong']);
});

test('its numbers filter the strip, and names are found without accents', () => {
  const names = (state: DeskState): string[] => selectShown(stateOf(state)).map(({ name }) => name);
  expect(names(reducer(open(), deskActions.filter({ filter: 'look' })))).toEqual(['محمد', 'Łukasz']);
  expect(names(reducer(open(), deskActions.filter({ filter: 'ready' })))).toEqual(['Zoë']);
  expect(names(reducer(open(), deskActions.find({ find: 'zoe' })))).toEqual(['Zoë']);
  expect(names(reducer(open(), deskActions.find({ find: 'محم' })))).toEqual(['محمد']);
  expect(names(reducer(open(), deskActions.find({ find: 'nobody' })))).toEqual([]);
});

test('typing that changes no finding draws neither strip nor margin anew', () => {
  const first = selectFindings(stateOf(open()));
  const other = {
    ...folio,
    writings: folio.writings.map((one) =>
      one.kind === 'letter' ? { ...one, content: { ...one.content, name: 'Other' } } : one,
    ),
  };
  expect(selectFindings(stateOf(open(), other))).toBe(first);
});

test('what goes wrong is said, and the roll stays', () => {
  const failed = reducer(open(), deskActions.failed({ trouble: { code: 'file-empty', message: 'Empty.' } }));
  expect(failed).toMatchObject({ trouble: { message: 'Empty.' }, folio: { roll: { entries } } });
  expect(reducer(failed, deskActions.troubleSeen()).trouble).toBeNull();
});
