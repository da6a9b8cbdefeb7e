import { writtenNumber } from '@scriptum/core/paper';
import type { PaperNumbers } from '@scriptum/core/template';
import type { SentenceChange, SentencePiece } from '../ui/sentence/sentence-piece';

const NONE = { value: '', label: 'nothing' };
const DIGITS = [1, 2, 3, 4, 5, 6, 7, 8];

/** How papers are numbered, as a sentence that can be changed part by part. */
export function numberSentence(numbers: PaperNumbers): SentencePiece[] {
  const { before, digits, after, from } = numbers;
  const words = (id: 'before' | 'after', label: string, text: string): SentencePiece => ({
    id,
    label,
    text: text === '' ? 'nothing' : `“${text}”`,
    value: text,
    options: [NONE],
    typed: 'These signs',
  });
  return [
    'Papers are numbered with ',
    words('before', 'what stands before the number', before),
    ' before, ',
    {
      id: 'digits',
      label: 'how many digits',
      text: digits === 1 ? 'as many digits as it takes' : `${digits} digits`,
      value: String(digits),
      options: DIGITS.map((n) => ({
        value: String(n),
        label: n === 1 ? 'as many digits as it takes' : `${n} digits`,
        hint: writtenNumber({ ...numbers, digits: n }, 42),
      })),
    },
    ', and ',
    words('after', 'what stands behind the number', after),
    ' behind, from ',
    {
      id: 'from',
      label: 'the first number',
      text: String(from),
      value: String(from),
      options: [{ value: '1', label: '1' }],
      typed: 'This number',
    },
    ` on: ${writtenNumber(numbers, from)}. Folios of one pattern share their numbers.`,
  ];
}

export function changeNumbers(numbers: PaperNumbers, { id, value }: SentenceChange): PaperNumbers {
  switch (id) {
    case 'before':
    case 'after':
      return { ...numbers, [id]: value.slice(0, 40) };
    case 'digits':
      return { ...numbers, digits: Number(value) };
    default: {
      // What is no number changes nothing.
      const from = /^\s*\d{1,9}\s*$/.test(value) ? Math.max(1, Number(value)) : numbers.from;
      return { ...numbers, from };
    }
  }
}
