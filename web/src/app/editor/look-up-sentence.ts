import type { LookUp } from '@scriptum/core/template';
import type { SentencePiece } from '../ui/sentence/sentence-piece';
import { typedPart } from './table-sentence';

/** A joined sheet of which each learner has rows. */
export interface JoinedSheet {
  readonly id: string;
  readonly name: string;
  /** Of its columns, in their order. */
  readonly titles: readonly string[];
}

const TAKES: Readonly<Record<LookUp['take'], string>> = {
  all: 'all, with “and”,',
  first: 'the first',
  last: 'the last',
};

/** What of the learner's rows in a joined sheet is printed: behind the name of the sheet. */
export function lookUpPieces({ at, take, where }: LookUp, titles: readonly string[]): SentencePiece[] {
  const columns = titles.map((label, n) => ({ value: String(n), label }));
  return [
    ': ',
    {
      id: 'take',
      label: 'which values',
      text: TAKES[take],
      value: take,
      options: Object.entries(TAKES).map(([value, label]) => ({ value, label: label.replace(/,$/, '') })),
    },
    ' of ',
    {
      id: 'at',
      label: 'the column of that sheet',
      text: titles[at] ?? 'choose a column',
      value: String(at),
      options: columns,
      ...(titles[at] === undefined ? { look: 'missing' as const } : {}),
    },
    ', from ',
    {
      id: 'where',
      label: 'from which rows',
      text: where ? `rows whose ${titles[where.at] ?? 'column that is gone'}` : 'every row',
      value: where ? String(where.at) : '',
      options: [
        { value: '', label: 'every row' },
        ...columns.map(({ value, label }) => ({ value, label: `rows whose ${label} is …` })),
      ],
    },
    ...(where ? [' is ', typedPart('says', 'what it says', where.says, 'blank')] : []),
  ];
}

/** The look-up after a part of its sentence was changed. */
export function changeLookUp(lookUp: LookUp, part: string, value: string): LookUp {
  const { where, ...rest } = lookUp;
  switch (part) {
    case 'take':
      return { ...lookUp, take: value as LookUp['take'] };
    case 'at':
      return { ...lookUp, at: Number(value) };
    case 'where':
      return value === '' ? rest : { ...lookUp, where: { at: Number(value), says: where?.says ?? '' } };
    default:
      return where ? { ...lookUp, where: { ...where, says: value } } : lookUp;
  }
}
