import type { Column } from '@scriptum/core/column';
import type { CoverNote, Recipient } from '@scriptum/core/template';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../ui/sentence/sentence-piece';

/** What stands around the envelope of a note. */
export interface EnvelopeSurroundings {
  readonly columns: readonly Column[];
  readonly school: string;
}

type List = 'to' | 'cc' | 'bcc';
const LABELS: Readonly<Record<List, string>> = {
  to: 'who gets it',
  cc: 'who gets a copy',
  bcc: 'who gets a copy that the others do not see',
};
const MOST = 10;
const NOBODY: SentenceOption = { value: 'none', label: 'nobody', hint: 'takes it out' };
const column = (id: string): string => `column ${id}`;

/** Who gets the messages of a note, as a sentence that can be changed part by part. */
export function envelopeSentence(
  note: CoverNote,
  { columns, school }: EnvelopeSurroundings,
): SentencePiece[] {
  const options = columns.map(({ id, title }): SentenceOption => ({ value: column(id), label: title }));
  const titleOf = (id: string): string =>
    columns.find((one) => one.id === id)?.title ?? 'a column that is gone';
  const said = (one: Recipient): string => ('address' in one ? one.address : titleOf(one.columnId));
  const valueOf = (one: Recipient): string => ('address' in one ? one.address : column(one.columnId));
  const listed = (list: List): SentencePiece[] => {
    const all = note[list] ?? [];
    return all.flatMap((one, n): SentencePiece[] => [
      n === 0 ? '' : n === all.length - 1 ? ' and ' : ', ',
      {
        id: `${list} ${n}`,
        label: LABELS[list],
        text: said(one),
        value: valueOf(one),
        options: [...options, NOBODY],
        typed: 'this address',
        ...('columnId' in one && !columns.some(({ id }) => id === one.columnId)
          ? { look: 'missing' as const }
          : {}),
      },
      ...('columnId' in one && one.nameId
        ? [
            ' (called ',
            {
              id: `name ${list} ${n}`,
              label: 'what they are called',
              text: titleOf(one.nameId),
              value: column(one.nameId),
              options: [...options, { value: 'none', label: 'nothing' }],
            },
            ')',
          ]
        : []),
    ]);
  };
  const more = (list: List): SentenceOption[] =>
    (note[list] ?? []).length < MOST ? [{ value: list, label: MORE[list] }] : [];
  const nameless = note.to.flatMap((one, n) =>
    'columnId' in one && !one.nameId
      ? [
          {
            value: `name to ${n}`,
            label: `What those at “${titleOf(one.columnId)}” are called`,
            hint: 'For the greeting',
          },
        ]
      : [],
  );
  return [
    'To ',
    ...(note.to.length === 0
      ? [
          {
            id: 'to 0',
            label: LABELS.to,
            text: 'choose a column or an address',
            value: '',
            options,
            typed: 'this address',
            look: 'missing' as const,
          },
        ]
      : listed('to')),
    ...copies(note, listed),
    ' ',
    {
      id: 'add',
      label: 'somebody else who gets it',
      text: '+',
      value: '',
      options: [...(note.to.length > 0 ? more('to') : []), ...more('cc'), ...more('bcc'), ...nameless],
      look: 'add',
    },
    ': ',
    choice('family', 'who shares a message', note.family, [
      { value: 'no', label: 'each learner has a message' },
      {
        value: 'yes',
        label: 'a family has one message',
        hint: 'Learners with the same addresses, with all their papers',
      },
    ]),
    ', ',
    choice('apart', 'what several addresses get', note.apart, [
      { value: 'no', label: 'several addresses share it', hint: 'They see each other’s address' },
      { value: 'yes', label: 'each address one of its own', hint: 'With a greeting of its own' },
    ]),
    '.',
    '\n',
    'From ',
    {
      id: 'from',
      label: 'what the sender is called',
      text: note.from || school,
      value: note.from ?? '',
      options: [{ value: '', label: school }],
      typed: 'this name',
    },
    ', answers go to ',
    {
      id: 'reply',
      label: 'where answers go',
      text: note.replyTo ? said(note.replyTo) : 'the sender',
      value: note.replyTo ? valueOf(note.replyTo) : 'none',
      options: [{ value: 'none', label: 'the sender' }, ...options],
      typed: 'this address',
    },
    '.',
  ];
}

/** A part that is one thing or the other. */
const choice = (
  id: string,
  label: string,
  is: boolean | undefined,
  options: readonly [no: SentenceOption, yes: SentenceOption],
): SentencePart => {
  const { value, label: text } = options[is ? 1 : 0];
  return { id, label, text, value, options };
};

const MORE: Readonly<Record<List, string>> = {
  to: 'Somebody else whom it goes to',
  cc: 'Somebody who gets a copy (cc)',
  bcc: 'Somebody who gets a blind copy (bcc)',
};

const copies = (note: CoverNote, listed: (list: List) => SentencePiece[]): SentencePiece[] => [
  ...(note.cc?.length ? [', copy to ', ...listed('cc')] : []),
  ...(note.bcc?.length ? [', blind copy to ', ...listed('bcc')] : []),
];

/** A column or an address as it was chosen or typed; null for nobody. */
function recipientOf(value: string): Recipient | null {
  if (value === 'none' || value.trim() === '') return null;
  const [kind, id] = value.split(' ');
  return kind === 'column' && id ? { columnId: id } : { address: value.trim().slice(0, 320) };
}

/**
 * What of a note is another one once a part of its sentence was changed.
 *
 * @param columns those of the roll, of which the first that is not used yet is put in where somebody else gets it.
 */
export function changeEnvelope(
  note: CoverNote,
  { id, value }: SentenceChange,
  columns: readonly Column[],
): Partial<CoverNote> {
  const [part, list, n] = id.split(' ') as [string, List, string | undefined];
  switch (part) {
    case 'to':
    case 'cc':
    case 'bcc':
      return { [part]: put(note[part] ?? [], Number(list), recipientOf(value)) };
    case 'name':
      return { [list]: named(note[list] ?? [], Number(n), value === 'none' ? null : value.split(' ')[1]!) };
    case 'add': {
      const [kind, of, at] = value.split(' ') as [string, List, string];
      if (kind === 'name') return { [of]: named(note[of] ?? [], Number(at), likelyName(columns)) };
      const to = kind as List;
      return { [to]: [...(note[to] ?? []), { columnId: likelyAddress(note, columns) }] };
    }
    case 'family':
      return { family: value === 'yes' };
    case 'apart':
      return { apart: value === 'yes' };
    case 'from':
      return { from: value.trim().slice(0, 200) };
    default: {
      const replyTo = recipientOf(value);
      return replyTo ? { replyTo } : { replyTo: undefined };
    }
  }
}

function put(all: readonly Recipient[], n: number, one: Recipient | null): Recipient[] {
  const before = all[n];
  const keeps = one && 'columnId' in one && before && 'columnId' in before ? { nameId: before.nameId } : {};
  return [...all.slice(0, n), ...(one ? [{ ...one, ...keeps } as Recipient] : []), ...all.slice(n + 1)];
}

const named = (all: readonly Recipient[], n: number, nameId: string | null): Recipient[] =>
  all.map((one, at) =>
    at === n && 'columnId' in one ? { columnId: one.columnId, ...(nameId ? { nameId } : {}) } : one,
  );

/** The next column with addresses that the note does not go to yet. */
function likelyAddress(note: CoverNote, columns: readonly Column[]): string {
  const used = new Set(
    [...note.to, ...(note.cc ?? []), ...(note.bcc ?? [])].flatMap((one) =>
      'columnId' in one ? [one.columnId] : [],
    ),
  );
  const free = columns.filter(({ id }) => !used.has(id));
  return (free.find(({ type }) => type === 'email') ?? free[0] ?? columns[0])!.id;
}

const likelyName = (columns: readonly Column[]): string =>
  (columns.find(({ title }) =>
    /(guardian|parent|carer|contact).*name|^(guardian|parent|carer)s?$/i.test(title),
  ) ?? columns[0])!.id;
