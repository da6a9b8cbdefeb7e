import type { DispatchPlan, PaperLine, Register } from '@scriptum/core/contract';
import { messageMark, paperMark } from '../ui/paper-mark';
import { deskActions } from './desk';
import { registerActions, registerFeature, type RegisterState } from './register';

const { reducer } = registerFeature;
const open = (): RegisterState => reducer(undefined, deskActions.opened({ folioId: 'folio1' }));
const paper = (more: Partial<PaperLine> = {}): PaperLine => ({
  id: 'p',
  entryId: 'e',
  templateId: 't',
  position: 0,
  place: 0,
  learner: 'Zoë',
  number: null,
  replacesNumber: null,
  fileName: 'a/Zoë.pdf',
  state: 'pressed',
  reason: null,
  pages: 1,
  bytes: 9,
  pressedAt: null,
  madeBy: null,
  judgedBy: null,
  judgedAt: null,
  note: null,
  changed: null,
  outOfDate: false,
  entryChanged: false,
  excepted: false,
  lies: null,
  message: null,
  ...more,
});
const register = (papers: PaperLine[], more: Partial<Register> = {}): Register => ({
  revision: 1,
  whole: true,
  comparing: false,
  papers,
  run: null,
  dispatch: { total: 0, sent: 0, waiting: 0, refused: 0, unconfirmed: 0, keptBack: 0, fault: null },
  ...more,
});
const plan: DispatchPlan = {
  planId: 'x',
  messages: [],
  messagesAgain: [],
  messagesCorrected: [],
  send: [],
  again: [],
  held: 0,
  noAddress: [],
  outOfDate: 0,
  notCleared: 0,
  blocked: [],
};

test('the register of a folio that was left does not come into the next', () => {
  const arrived = (folioId: string) => registerActions.arrived({ folioId, register: register([paper()]) });
  expect(reducer(open(), arrived('folio2')).register).toBeNull();
  expect(reducer(open(), arrived('folio1')).papers.ids).toEqual(['p']);
});

test('papers that a newer one replaced are kept apart', () => {
  const both = register([paper(), paper({ id: 'old', state: 'superseded' })]);
  const state = reducer(open(), registerActions.arrived({ folioId: 'folio1', register: both }));
  const global = { register: state };
  expect(registerFeature.selectPresent(global).map(({ id }) => id)).toEqual(['p']);
  expect(registerFeature.selectEarlier(global).map(({ id }) => id)).toEqual(['old']);
});

test('what changed comes to what is known, in the order of the roll; a whole register takes its place', () => {
  const arrive = (state: RegisterState, papers: PaperLine[], more: Partial<Register>): RegisterState =>
    reducer(state, registerActions.arrived({ folioId: 'folio1', register: register(papers, more) }));
  const lines = (state: RegisterState): string[] =>
    registerFeature.selectLines({ register: state }).map((line) => `${line.id} ${line.state}`);
  let state = arrive(open(), [paper({ id: 'a', position: 0 }), paper({ id: 'c', position: 2 })], {});
  state = arrive(
    state,
    [
      paper({ id: 'c', position: 2, state: 'superseded', pressedAt: '2026-11-25T10:00:00.000Z' }),
      paper({ id: 'd', position: 2, pressedAt: '2026-11-26T10:00:00.000Z' }),
      paper({ id: 'b', position: 1 }),
    ],
    { revision: 2, whole: false },
  );
  expect(lines(state)).toEqual(['a pressed', 'b pressed', 'd pressed', 'c superseded']);
  expect(registerFeature.selectRevision({ register: state })).toBe(2);
  // A run was stopped, and its papers that waited are gone.
  expect(lines(arrive(state, [paper({ id: 'a' })], { revision: 3 }))).toEqual(['a pressed']);
});

test.each([
  [3, 0, null],
  [3, 2, null],
  [1, 1, null],
  [0, 1, 'This paper is up to date. Nothing was pressed again.'],
  [0, 28, 'All 28 papers are up to date. Nothing was pressed again.'],
])('%i to press and %i up to date: %s', (count, upToDate, notice) => {
  expect(reducer(open(), registerActions.pressing({ count, upToDate })).notice).toBe(notice);
});

test('a plan is confirmed once: it goes with the dispatch, with a refusal and with another folio', () => {
  const planned = reducer(open(), registerActions.planArrived({ plan }));
  expect(planned.plan).toBe(plan);
  expect(
    reducer(planned, registerActions.dispatch({ planId: 'x', again: false, corrected: false })),
  ).toMatchObject({
    plan: null,
    asking: true,
  });
  expect(
    reducer(planned, registerActions.failed({ trouble: { code: 'plan-changed', message: 'Changed.' } })),
  ).toMatchObject({
    plan: null,
    asking: false,
    trouble: { message: 'Changed.' },
  });
  expect(reducer(planned, deskActions.opened({ folioId: 'folio2' })).plan).toBeNull();
});

test('every state of a paper and of a message has a shape and a word', () => {
  const words = (
    ['waiting', 'pressed', 'cleared', 'held', 'dispatched', 'failed', 'superseded'] as const
  ).map((state) => paperMark(paper({ state }))?.word);
  expect(words).toEqual(['Waiting', 'Pressed', 'Cleared', 'Held', 'Sent', 'Failed', 'Earlier version']);
  expect(paperMark(paper({ outOfDate: true }))?.word).toBe('Out of date');
  expect(paperMark(paper({ state: 'dispatched', outOfDate: true }))?.word).toBe('Sent, out of date');
  const message = (state: 'queued' | 'sending' | 'sent' | 'deferred' | 'refused' | 'unconfirmed') =>
    messageMark(
      paper({
        message: { id: 'm', to: 'a@b.example', count: 1, state, answer: null, opened: null, sentAt: null },
      }),
    )?.word;
  expect([
    message('queued'),
    message('sending'),
    message('sent'),
    message('deferred'),
    message('refused'),
    message('unconfirmed'),
  ]).toEqual(['In the queue', 'On its way', undefined, 'Tried again later', 'Refused', 'Unconfirmed']);
});
