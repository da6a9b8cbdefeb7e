import { TestBed } from '@angular/core/testing';
import type { Me } from '@scriptum/core/contract';
import { Actions } from '@ngrx/effects';
import { Subject } from 'rxjs';
import { sessionActions } from '../state/session';
import { ChipSource } from './chip-source';
import { KeptEditors, type EditorListener, type KeptEditor } from './kept-editors';

const listener = {} as EditorListener;

function pool() {
  const actions = new Subject<unknown>();
  TestBed.configureTestingModule({
    providers: [{ provide: Actions, useValue: new Actions(actions as never) }],
  });
  const ended: string[] = [];
  const make = (name: string) => (): KeptEditor => ({
    editor: { destroy: () => ended.push(name) } as never,
    chips: new ChipSource(),
    element: document.createElement('div'),
    listener: null,
  });
  return { actions, ended, make, editors: TestBed.inject(KeptEditors) };
}

test('an editor that was put away comes back; one that is shown stays where it is', () => {
  const { editors, make, ended } = pool();
  const first = editors.take('letter', make('first'));
  first.listener = listener;
  editors.putAway('letter', first);
  expect(editors.take('letter', make('second'))).toBe(first);
  first.listener = listener;
  const other = editors.take('letter', make('second'));
  expect(other).not.toBe(first);
  // It is the other one that is asked for from now on.
  editors.putAway('letter', first);
  expect(ended).toEqual(['first']);
});

test('the oldest are ended, and all that are not shown where somebody signs in', () => {
  const { editors, make, ended, actions } = pool();
  const shown = editors.take('shown', make('shown'));
  shown.listener = listener;
  for (let n = 0; n < 15; n++) editors.take(`text ${n}`, make(`text ${n}`));
  expect(ended).toEqual(['text 0', 'text 1', 'text 2', 'text 3']);
  const me: Me = { staff: null, demo: null, practicePost: false, post: null };
  actions.next(sessionActions.known({ me }));
  expect(ended).toHaveLength(15);
  expect(ended).not.toContain('shown');
});
