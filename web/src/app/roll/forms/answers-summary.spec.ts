import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { FormDoor } from '@scriptum/core/contract';
import { emptyForm, Form } from '@scriptum/core/form';
import { deskActions, deskFeature } from '../../state/desk';
import { testFolio } from '../../testing/folio';
import { formsActions, formsFeature } from '../state/forms';
import { AnswersSummary } from './answers-summary';

const choices = ['Arch', 'Beam'].map((en) => ({ id: en, label: { en } }));
const form = Form.parse({
  ...emptyForm('Bridges', 'en'),
  items: [{ kind: 'one', id: 'bridge', label: { en: 'Which bridge?' }, required: false, choices }],
});
const columns = [{ id: 'bridge', title: 'Which bridge?', sourceId: 'form', type: 'choice' as const }];

async function summary(values: readonly Record<string, string>[]): Promise<{
  readonly fixture: ComponentFixture<AnswersSummary>;
  readonly store: Store;
  readonly element: HTMLElement;
}> {
  TestBed.configureTestingModule({
    providers: [provideStore(), provideState(deskFeature), provideState(formsFeature)],
  });
  const store = TestBed.inject(Store);
  const entries = values.map((one, n) => ({ id: `e${n}`, position: n, values: one }));
  store.dispatch(deskActions.folioArrived({ folio: testFolio({ columns, entries }) }));
  const fixture = TestBed.createComponent(AnswersSummary);
  fixture.componentRef.setInput('form', form);
  fixture.componentRef.setInput('writingId', 'form');
  await fixture.whenStable();
  return { fixture, store, element: fixture.nativeElement as HTMLElement };
}

test('a bar shows who gave the answer; one that nobody gave does nothing', async () => {
  const { store, element } = await summary([{ bridge: 'Beam' }, { bridge: '' }, { bridge: 'beam' }]);
  expect(element.textContent).toContain('2 answers');
  const [arch, beam] = element.querySelectorAll('button');
  expect(arch!.disabled).toBe(true);
  expect(beam!.getAttribute('aria-label')).toBe('Beam: 2. Show whose they are');
  beam!.click();
  expect(store.selectSignal(deskFeature.selectSome)()).toEqual({
    label: 'Beam · Which bridge?',
    entryIds: ['e0', 'e2'],
  });
});

test('where answers stand in columns of the sheet alone it does not say that nobody answered', async () => {
  const { fixture, store, element } = await summary([]);
  expect(element.textContent).toContain('Nobody has answered yet');
  const { id: folioId } = store.selectSignal(deskFeature.selectFolio)()!;
  store.dispatch(formsActions.arrived({ folioId, doors: [{ writingId: 'form', answers: 3 } as FormDoor] }));
  await fixture.whenStable();
  expect(element.textContent).toContain('nothing tells here who has answered');
});
