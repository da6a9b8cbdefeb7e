import type { PaperLine } from '@scriptum/core/contract';
import type { Finding } from '@scriptum/core/preflight';
import { reasonsOf } from './reasons';

test('why papers are not ready is told by kinds, each learner once, the most frequent first', () => {
  const finding = (code: string, ...entryIds: string[]): Finding => ({
    code,
    severity: 'look',
    place: 'roll',
    message: code,
    entryIds,
  });
  const held = { entryId: 'c', state: 'held', message: null } as unknown as PaperLine;
  const refused = { entryId: 'd', state: 'cleared', message: { state: 'refused' } } as unknown as PaperLine;
  const reasons = reasonsOf(
    [finding('one', 'a'), finding('two', 'a', 'b'), finding('two', 'b', 'c'), finding('of all')],
    [held, refused],
    (code) => `Kind ${code}`,
  );
  expect(reasons).toEqual([
    { label: 'Kind two', entryIds: ['a', 'b', 'c'] },
    { label: 'Kind one', entryIds: ['a'] },
    { label: 'Held papers', entryIds: ['c'] },
    { label: 'Refused by the mail server', entryIds: ['d'] },
  ]);
});
