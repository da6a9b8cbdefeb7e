import type { PackAsked } from '@scriptum/core/contract';
import type { Column } from '@scriptum/core/column';
import type { SentenceChange, SentenceOption, SentencePiece } from '../ui/sentence/sentence-piece';

/** What is asked of a pack for the printer. */
export type PrintAsked = Extract<PackAsked, { kind: 'print' }>;

export const EMPTY_PRINT: PrintAsked = {
  kind: 'print',
  who: 'all',
  sort: [],
  apart: null,
  fronts: true,
  copies: null,
};

/** Learners that the strip shows, where it does not show all. */
export interface ShownSome {
  readonly entryIds: readonly string[];
}

const SORTED_MOST = 3;
const NONE: SentenceOption = { value: '', label: 'no other column' };

/** A pack for the printer as a sentence that can be changed part by part. */
export function packSentence(
  asked: PrintAsked,
  columns: readonly Column[],
  some: ShownSome | null,
): SentencePiece[] {
  const titles = new Map(columns.map(({ id, title }) => [id, title]));
  const options = columns.map(({ id, title }): SentenceOption => ({ value: id, label: title }));
  const titleOf = (id: string): string => titles.get(id) ?? 'a column that is gone';
  const who: SentenceOption[] = [
    { value: 'all', label: 'everybody' },
    { value: 'no-address', label: 'those whom no mail reaches', hint: 'no address that mail can go to' },
    ...(some ? [{ value: 'some', label: `the ${some.entryIds.length} whom the list shows` }] : []),
  ];
  const whoNow = asked.entryIds ? 'some' : asked.who;
  const sort = asked.sort.slice(0, SORTED_MOST);
  const more = sort.length > 0 && sort.length < SORTED_MOST;
  return [
    'Print the papers of ',
    {
      id: 'who',
      label: 'whose papers',
      text: who.find(({ value }) => value === whoNow)?.label ?? 'everybody',
      value: whoNow,
      options: who,
    },
    ', in the order of ',
    {
      id: 'sort 0',
      label: 'the order',
      text: sort[0] ? titleOf(sort[0]) : 'the roll',
      value: sort[0] ?? '',
      options: [{ value: '', label: 'the roll' }, ...options],
    },
    ...sort.slice(1).flatMap((id, n): SentencePiece[] => [
      ', then ',
      {
        id: `sort ${n + 1}`,
        label: 'the next column of the order',
        text: titleOf(id),
        value: id,
        options: [NONE, ...options],
      },
    ]),
    ...(more
      ? [
          ' ',
          {
            id: `sort ${sort.length}`,
            label: 'one more column of the order',
            text: 'then by …',
            value: '',
            options: [NONE, ...options],
            look: 'add' as const,
          },
        ]
      : []),
    ', ',
    {
      id: 'apart',
      label: 'sheets between',
      text: asked.apart ? `with a sheet before each ${titleOf(asked.apart)}` : 'without sheets between',
      value: asked.apart ?? '',
      options: [
        { value: '', label: 'without sheets between' },
        ...columns.map(({ id, title }) => ({ value: id, label: `with a sheet before each ${title}` })),
      ],
    },
    '.',
    '\n',
    'Each paper ',
    {
      id: 'fronts',
      label: 'where each paper begins',
      text: asked.fronts ? 'begins on a new sheet' : 'goes on where there is room',
      value: asked.fronts ? 'yes' : 'no',
      options: [
        { value: 'yes', label: 'begins on a new sheet', hint: 'for printers that print on both sides' },
        { value: 'no', label: 'goes on where there is room', hint: 'also on the back of another one' },
      ],
    },
    ', in ',
    {
      id: 'copies',
      label: 'how many copies',
      text: asked.copies ? `as many copies as ${titleOf(asked.copies)} says` : 'one copy',
      value: asked.copies ?? '',
      options: [
        { value: '', label: 'one copy' },
        ...columns.map(({ id, title }) => ({
          value: id,
          label: `as many copies as ${title} says`,
          hint: 'such as one for each household',
        })),
      ],
    },
    '.',
  ];
}

/** What is asked once a part of its sentence was changed. */
export function changePack(
  asked: PrintAsked,
  { id, value }: SentenceChange,
  some: ShownSome | null,
): PrintAsked {
  const [part, n] = id.split(' ');
  switch (part) {
    case 'who': {
      const { entryIds: _, ...rest } = asked;
      return value === 'some'
        ? { ...rest, who: 'all', entryIds: [...(some?.entryIds ?? [])] }
        : { ...rest, who: value === 'no-address' ? 'no-address' : 'all' };
    }
    case 'sort': {
      const sort = [...asked.sort];
      sort[Number(n)] = value;
      // The same column twice orders nothing more.
      return { ...asked, sort: [...new Set(sort.filter(Boolean))].slice(0, SORTED_MOST) };
    }
    case 'apart':
      return { ...asked, apart: value || null };
    case 'fronts':
      return { ...asked, fronts: value === 'yes' };
    default:
      return { ...asked, copies: value || null };
  }
}
