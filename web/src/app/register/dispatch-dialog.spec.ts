import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { TestBed } from '@angular/core/testing';
import type { DispatchPlan } from '@scriptum/core/contract';
import { provideState, provideStore } from '@ngrx/store';
import { sessionFeature } from '../state/session';
import { DispatchDialog } from './dispatch-dialog';

const nobody: DispatchPlan = {
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
const message = (learner: string, ...to: string[]) => ({
  learners: [learner],
  to,
  cc: [],
  bcc: [],
  papers: 1,
});

async function show(plan: Partial<DispatchPlan>) {
  const close = jest.fn();
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(sessionFeature),
      { provide: DIALOG_DATA, useValue: { ...nobody, ...plan } },
      { provide: DialogRef, useValue: { close } },
    ],
  });
  const fixture = TestBed.createComponent(DispatchDialog);
  await fixture.whenStable();
  const element = fixture.nativeElement as HTMLElement;
  const press = async (name: RegExp): Promise<void> => {
    [...element.querySelectorAll('button')].find((button) => name.test(button.textContent ?? ''))!.click();
    await fixture.whenStable();
  };
  return { fixture, element, close, press, text: () => element.textContent!.replace(/\s+/g, ' ') };
}

test('says how many messages go to how many addresses, where, and who gets a copy', async () => {
  const { text, press, close } = await show({
    messages: [
      message('Zoë', 'z@b.example', 'y@c.example'),
      { ...message('محمد', 'm@b.example'), cc: ['t@school.example'] },
    ],
  });
  expect(text()).toContain('2 messages to 4 addresses');
  expect(text()).toContain('2 at b.example, 1 at c.example, 1 at school.example');
  expect(text()).toContain('copy to t@school.example');
  expect(text()).toContain('m@b.example');
  await press(/Send 2 messages/);
  expect(close).toHaveBeenCalledWith({ again: false, corrected: false, timing: {} });
});

test('says who is left out and why', async () => {
  const { text } = await show({
    messages: [message('A', 'a@b.example')],
    held: 2,
    outOfDate: 1,
    noAddress: [{ learner: 'Ilse', reason: 'no email address' }],
  });
  expect(text()).toContain('1 message to 1 address');
  expect(text()).toMatch(/to be printed: .?Ilse.? \(no email address\)\./);
  expect(text()).toContain('2 papers are held and stay here.');
  expect(text()).toContain('1 paper is out of date and stays here.');
});

test('those with an earlier version are left out until the person says so', async () => {
  const { text, element, fixture, press, close } = await show({
    again: [{ paperId: 'p', learner: 'Zoë', to: 'z@b.example' }],
    messagesAgain: [message('Zoë', 'z@b.example')],
  });
  expect(text()).toContain('Nobody is left to write to');
  expect(text()).not.toContain('Send 1 message');
  element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  await fixture.whenStable();
  expect(text()).toContain('1 message to 1 address');
  await press(/Send 1 message/);
  expect(close).toHaveBeenCalledWith({ again: true, corrected: false, timing: {} });
});

test('one address with several messages is pointed out', async () => {
  const { text } = await show({ messages: [message('A', 'Home@b.example'), message('B', 'home@b.example')] });
  expect(text()).toContain('One address gets more than one of these messages.');
});

test('what blocks is said, and nothing can be sent', async () => {
  const { text, element } = await show({
    messages: [message('A', 'a@b.example')],
    blocked: ['The cover note has no subject.'],
  });
  expect(text()).toContain('Nothing can be sent yet');
  expect(text()).toContain('The cover note has no subject.');
  expect([...element.querySelectorAll('button')].map((button) => button.textContent?.trim())).toEqual([
    'Close',
  ]);
});

test('what was refused is sent to the mended address when the person says so', async () => {
  const { text, element, fixture, press, close } = await show({
    messagesCorrected: [message('Zoë', 'right@b.example')],
  });
  expect(text()).toContain('Nobody is left to write to');
  element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  await fixture.whenStable();
  expect(text()).toContain('1 message to 1 address');
  await press(/Send 1 message/);
  expect(close).toHaveBeenCalledWith({ again: false, corrected: true, timing: {} });
});
