import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store, type Action } from '@ngrx/store';
import { sessionActions, sessionFeature } from '../state/session';
import { SignInPage } from './sign-in';

beforeAll(() => {
  // jsdom has no media queries.
  window.matchMedia ??= (() => ({ matches: false })) as never;
});

async function show(demo: { email: string; password: string } | null, back?: string) {
  TestBed.configureTestingModule({ providers: [provideStore(), provideState(sessionFeature)] });
  const store = TestBed.inject(Store);
  store.dispatch(sessionActions.known({ me: { staff: null, demo, practicePost: true, post: null } }));
  const fixture = TestBed.createComponent(SignInPage);
  fixture.componentRef.setInput('back', back);
  await fixture.whenStable();
  const dispatched: Action[] = [];
  jest.spyOn(store, 'dispatch').mockImplementation(((action: Action) => dispatched.push(action)) as never);
  const element = fixture.nativeElement as HTMLElement;
  const button = (name: RegExp): HTMLButtonElement | undefined =>
    [...element.querySelectorAll('button')].find((each) => name.test(each.textContent ?? ''));
  return { fixture, element, button, dispatched };
}

test('the demo account is shown in demo mode only', async () => {
  const { element, button } = await show(null);
  expect(button(/demo/)).toBeUndefined();
  expect(element.textContent).not.toContain('demo');
});

test.each([
  ['/folio/abc/note', '/folio/abc/note'],
  ['//elsewhere.example/x', '/'],
  ['https://elsewhere.example', '/'],
  [undefined, '/'],
])('signs in and goes back to %s', async (back, expected) => {
  const { fixture, button, dispatched } = await show({ email: 'a@b.example', password: 'pw' }, back);
  button(/Fill in/)!.click();
  await fixture.whenStable();
  button(/^\s*Sign in/)!.click();
  expect(dispatched).toEqual([
    sessionActions.signIn({ email: 'a@b.example', password: 'pw', back: expected }),
  ]);
});
