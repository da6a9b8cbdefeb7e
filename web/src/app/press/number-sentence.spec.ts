import { changeNumbers, numberSentence } from './number-sentence';

const plain = { before: '', digits: 4, after: '', from: 1 };
const said = (numbers: typeof plain): string =>
  numberSentence(numbers)
    .map((piece) => (typeof piece === 'string' ? piece : piece.text))
    .join('');

test('how papers are numbered is a sentence with the first number', () => {
  const changed = [
    { id: 'before', value: 'TQ-' },
    { id: 'after', value: '/26' },
    { id: 'from', value: ' 57 ' },
  ].reduce(changeNumbers, plain);
  expect(said(changed)).toBe(
    'Papers are numbered with “TQ-” before, 4 digits, and “/26” behind, from 57 on: TQ-0057/26. Folios of one pattern share their numbers.',
  );
});

test('what is no number changes nothing', () => {
  for (const value of ['', 'x', '-3', '1e9', '12345678901'])
    expect(changeNumbers(plain, { id: 'from', value })).toEqual(plain);
  expect(changeNumbers(plain, { id: 'from', value: '0' }).from).toBe(1);
});
