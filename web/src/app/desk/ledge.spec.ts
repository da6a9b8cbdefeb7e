import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Folio, Run } from '@scriptum/core/contract';
import { emptyLetter, emptyNote } from '@scriptum/core/template';
import { provideState, provideStore, Store, type Action } from '@ngrx/store';
import { checksFeature } from '../state/checks';
import { deskActions, deskFeature } from '../state/desk';
import { registerActions, registerFeature } from '../state/register';
import { writingFeature } from '../state/writing';
import { testFolio, testWritings } from '../testing/folio';
import { FindingsList } from './findings-list';
import { Ledge } from './ledge';

const entries = ['a@b.example', ''].map((m, position) => ({
  id: `e${position}`,
  position,
  values: { n: `Learner ${position}`, m },
}));
const field = { id: 'f', name: 'Name', columnId: 'n' as string | null };
const body = {
  type: 'doc' as const,
  content: [{ type: 'paragraph' as const, content: [{ type: 'field' as const, attrs: { fieldId: 'f' } }] }],
};
const folioWith = (fields = [field]): Folio =>
  testFolio(
    {
      columns: [
        { id: 'n', title: 'Name' },
        { id: 'm', title: 'Mail' },
      ],
      entries,
    },
    testWritings({
      letter: { ...emptyLetter('T'), fields, body },
      note: {
        ...emptyNote(),
        to: [{ columnId: 'm' }],
        fields: [field],
        subject: [{ type: 'text', text: 'S' }],
        body,
      },
    }),
  );

async function show(
  component: typeof Ledge | typeof FindingsList,
  folio = folioWith(),
  inputs: Record<string, unknown> = {},
) {
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      provideStore(),
      provideState(deskFeature),
      provideState(writingFeature),
      provideState(registerFeature),
      provideState(checksFeature),
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(deskActions.opened({ folioId: folio.id }));
  store.dispatch(deskActions.folioArrived({ folio }));
  const dispatched: Action[] = [];
  const dispatch = store.dispatch.bind(store);
  jest.spyOn(store, 'dispatch').mockImplementation(((action: Action) => {
    dispatched.push(action);
    dispatch(action);
  }) as never);
  const fixture = TestBed.createComponent<object>(component as never);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  const element = fixture.nativeElement as HTMLElement;
  const button = (name: RegExp): HTMLButtonElement =>
    [...element.querySelectorAll('button')].find((each) => name.test(each.textContent ?? ''))!;
  return {
    store,
    fixture,
    element,
    button,
    dispatched,
    text: () => element.textContent!.replace(/\s+/g, ' '),
  };
}

const run = (more: Partial<Run>): Run => ({
  id: 'r',
  state: 'running',
  total: 10,
  pressed: 4,
  failed: 1,
  startedAt: new Date(0).toISOString(),
  finishedAt: null,
  ...more,
});
const dispatchOf = { total: 0, sent: 0, waiting: 0, refused: 0, unconfirmed: 0, keptBack: 0, fault: null };
const nothing = { revision: 1, whole: true, comparing: false, papers: [], run: null, dispatch: dispatchOf };

test('says how many are ready, and its numbers filter the strip', async () => {
  const { text, button, store } = await show(Ledge);
  expect(text()).toMatch(/1 ready ?· ?1 needs a look ?· ?2 in all/);
  button(/needs a look/).click();
  expect(store.selectSignal(deskFeature.selectFilter)()).toBe('look');
});

test('presses the picked one, or all', async () => {
  const { button, dispatched, fixture } = await show(Ledge);
  button(/Press this one/).click();
  expect(dispatched).toContainEqual(registerActions.press({ entryIds: ['e0'] }));
  // Until the server has answered, nothing can be asked twice.
  await fixture.whenStable();
  expect(button(/Press all/).disabled).toBe(true);
});

test('what blocks is said, and nothing can be pressed', async () => {
  const { text, button } = await show(Ledge, folioWith([{ ...field, columnId: null }]));
  expect(button(/Press all 2 papers/).disabled).toBe(true);
  expect(text()).toContain('The letter has the field “Name”, but no column fills it.');
});

test('a run shows its counts and can be stopped', async () => {
  const { store, fixture, text, button, dispatched } = await show(Ledge);
  store.dispatch(
    registerActions.arrived({
      folioId: 'folio1',
      register: { ...nothing, run: run({}) },
    }),
  );
  await fixture.whenStable();
  expect(text()).toContain('5 of 10 pressed');
  expect(button(/Press all/).disabled).toBe(true);
  button(/Stop/).click();
  expect(dispatched).toContainEqual(registerActions.stop({ runId: 'r' }));
  store.dispatch(
    registerActions.arrived({
      folioId: 'folio1',
      register: {
        ...nothing,
        run: run({ state: 'finished' }),
        dispatch: { ...dispatchOf, total: 5, waiting: 2 },
      },
    }),
  );
  await fixture.whenStable();
  expect(text()).toContain('3 of 5 messages handed over');
});

test('while no mail goes out it says so, and nothing of messages being on their way', async () => {
  const { store, fixture, text } = await show(Ledge);
  const fault = {
    answer: '550 No',
    since: new Date(0).toISOString(),
    nextAttemptAt: new Date(0).toISOString(),
  };
  store.dispatch(registerActions.queued({ count: 8 }));
  const dispatch = { ...dispatchOf, total: 8, waiting: 8, keptBack: 1, fault };
  store.dispatch(registerActions.arrived({ folioId: 'folio1', register: { ...nothing, dispatch } }));
  await fixture.whenStable();
  expect(text()).toContain('No mail goes out just now; 7 messages wait.');
  expect(text()).not.toMatch(/on their way|handed over/);
});

test('what is kept back is not on its way', async () => {
  const { store, fixture, text } = await show(Ledge);
  const dispatch = { ...dispatchOf, total: 3, sent: 1, waiting: 2, keptBack: 2 };
  store.dispatch(registerActions.arrived({ folioId: 'folio1', register: { ...nothing, dispatch } }));
  await fixture.whenStable();
  expect(text()).not.toContain('handed over');
});

test('findings stand in the margin of what they are about, and lead to their learner', async () => {
  const { text, button, store } = await show(FindingsList, folioWith(), { places: ['note'] });
  expect(text()).toContain('Worth a look');
  expect(text()).toContain('Learner 1 has no email address.');
  button(/Go there/).click();
  expect(store.selectSignal(deskFeature.selectPickedId)()).toBe('e1');
});

test('where there is nothing to mend, the margin says so', async () => {
  const { text } = await show(FindingsList, folioWith(), {
    places: ['letter'],
    none: 'Nothing to mend in the letter.',
  });
  expect(text()).toContain('Nothing to mend in the letter.');
});
