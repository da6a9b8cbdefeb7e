import { queueMark } from './queue-mark';

test.each([
  ['queued', null, 'In the queue'],
  ['sent', null, 'Sent'],
  ['sent', 'a@b.example: 550 No', 'Not to all'],
  ['refused', '550 No such mailbox', 'Refused'],
  ['refused', 'Came back: a@b.example: 550 No such mailbox.', 'Came back'],
  ['unconfirmed', null, 'Unconfirmed'],
] as const)('%s with the answer %s reads “%s”', (state, answer, word) =>
  expect(queueMark({ state, answer }).word).toBe(word),
);
