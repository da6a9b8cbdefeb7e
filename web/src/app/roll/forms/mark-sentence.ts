import { Mark, type MarkedItem } from '@scriptum/core/form';
import type { SentenceChange, SentencePiece } from '../../ui/sentence/sentence-piece';

const WHEN: Readonly<Record<MarkedItem['kind'], string>> = {
  short: 'where it is answered with one of these',
  number: 'where it is answered with this number',
  one: 'where one of these is chosen',
  several: 'where just these are chosen',
};

/** How a question is marked, as a sentence. */
export function markSentence({ kind, mark }: MarkedItem): SentencePiece[] {
  const points = mark?.points ?? '';
  const says = mark ? pointsSaid(mark.points) : 'no points';
  return [
    'It gives ',
    {
      id: 'points',
      label: 'how many points it gives',
      text: says,
      value: points,
      options: [
        { value: '', label: 'no points', hint: 'it is no quiz question' },
        ...['1', '2', '3', '5'].map((value) => ({ value, label: pointsSaid(value) })),
      ],
      typed: 'So many points',
    },
    mark ? ` ${WHEN[kind]}.` : '.',
  ];
}

const pointsSaid = (points: string): string => (points === '1' ? '1 point' : `${points} points`);

/** The question with what was chosen in the sentence of its marking. */
export function changeMark(item: MarkedItem, { value }: SentenceChange): MarkedItem {
  const points = value.trim().replace(',', '.');
  if (points === '') {
    const { mark: _, ...rest } = item;
    return rest;
  }
  const read = Mark.safeParse({ points, right: item.mark?.right ?? [] });
  return read.success ? { ...item, mark: read.data } : item;
}
