import type { Column } from '@scriptum/core/column';
import { LINK_DAYS } from '@scriptum/core/note';
import type { CoverNote, PasswordForm } from '@scriptum/core/template';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../ui/sentence/sentence-piece';

const column = (id: string): string => `column ${id}`;
const ALONG: readonly SentenceOption[] = [
  { value: 'papers', label: 'the papers' },
  {
    value: 'link',
    label: 'a private link to the papers',
    hint: 'To a page that you can withdraw; it says when it was opened',
  },
  { value: 'nothing', label: 'no papers', hint: 'The message alone' },
];
const FORMS: Readonly<Record<PasswordForm, string>> = {
  digits: '04032012',
  iso: '2012-03-04',
  cell: 'as it stands in the sheet',
};
const DAYS = [3, 7, 14, 30, 60, 90, 180, 365];
const OPEN: SentenceOption = {
  value: 'none',
  label: 'without a password',
  hint: 'Or type one password for all above',
};
/** What is taken as it stands: that a password is there, but not which one. */
const SEALED = 'sealed';

/** What of the sentence cannot be changed at once: a password has to be sealed, a file to be chosen. */
export type AlongStep = { readonly seal: string } | { readonly file: true } | Partial<CoverNote>;

/** What goes with the messages of a note, as a sentence that can be changed part by part. */
export function alongSentence(note: CoverNote, columns: readonly Column[]): SentencePiece[] {
  const { along = 'papers', files = [] } = note;
  return [
    'With it go ',
    part('along', 'what goes with it', along, ALONG),
    ...(along === 'nothing' ? [] : lockPieces(note, columns)),
    ...(along === 'link' ? linkPieces(note, columns) : []),
    ...(files.length > 0 ? ['. For everybody also '] : []),
    ...files.flatMap(({ name }, n): SentencePiece[] => [
      n === 0 ? '' : n === files.length - 1 ? ' and ' : ', ',
      part(`file ${n}`, 'a file for everybody', 'file', [
        { value: 'file', label: name },
        { value: 'none', label: 'nothing', hint: 'takes it out' },
      ]),
    ]),
    ' ',
    {
      id: 'along-add',
      label: 'something else that goes along',
      text: '+',
      value: '',
      options: [
        {
          value: 'file',
          label: 'A file for everybody …',
          hint: 'PDF, Word, pictures, dates; 10 MB together',
        },
      ],
      look: 'add',
    },
    '.',
  ];
}

function part(id: string, label: string, value: string, options: readonly SentenceOption[]): SentencePart {
  return { id, label, text: options.find((one) => one.value === value)?.label ?? value, value, options };
}

function lockPieces({ lock }: CoverNote, columns: readonly Column[]): SentencePiece[] {
  const own = lock && 'columnId' in lock ? lock : null;
  const of = own && columns.find(({ id }) => id === own.columnId);
  const value = own ? column(own.columnId) : lock ? SEALED : 'none';
  const text = own
    ? of
      ? `with each learner’s “${of.title}”`
      : 'with a column that is gone'
    : lock
      ? 'with one password for all'
      : OPEN.label;
  return [
    ', opened ',
    {
      id: 'lock',
      label: 'with what the papers are opened',
      text,
      value,
      options: [
        OPEN,
        ...(lock && !own
          ? [{ value: SEALED, label: 'with one password for all', hint: 'Type another one to change it' }]
          : []),
        ...columns.map(({ id, title }) => ({ value: column(id), label: `with each learner’s “${title}”` })),
      ],
      typed: 'this password for all',
      ...(own && !of ? { look: 'missing' as const } : {}),
    },
    ...(own && of?.type === 'date'
      ? [
          ' (written ',
          part(
            'lock-form',
            'how the day is written',
            own.form ?? 'digits',
            Object.entries(FORMS).map(([form, label]) => ({ value: form, label })),
          ),
          ')',
        ]
      : []),
  ];
}

function linkPieces({ link }: CoverNote, columns: readonly Column[]): SentencePiece[] {
  const days = link?.days ?? LINK_DAYS;
  const asked = link?.askId ? columns.find(({ id }) => id === link.askId) : undefined;
  return [
    '. The link works for ',
    {
      id: 'link-days',
      label: 'for how many days',
      text: `${days} ${days === 1 ? 'day' : 'days'}`,
      value: String(days),
      options: DAYS.map((n) => ({ value: String(n), label: `${n} days` })),
      typed: 'so many days',
    },
    ' and asks ',
    {
      id: 'link-ask',
      label: 'what it asks',
      text: asked ? `for “${asked.title}”` : link?.askId ? 'for a column that is gone' : 'nothing',
      value: link?.askId ? column(link.askId) : 'none',
      options: [
        { value: 'none', label: 'nothing', hint: 'Whoever has it sees the papers' },
        ...columns.map(({ id, title }) => ({ value: column(id), label: `for “${title}”` })),
      ],
      ...(link?.askId && !asked ? { look: 'missing' as const } : {}),
    },
  ];
}

/** What is to be done once a part of the sentence was changed; null where the part is not of this sentence. */
export function changeAlong(
  note: CoverNote,
  { id, value }: SentenceChange,
  columns: readonly Column[],
): AlongStep | null {
  const columnId = columns.find((one) => column(one.id) === value)?.id;
  const link = note.link ?? { days: LINK_DAYS };
  const [name, n] = id.split(' ');
  switch (name) {
    case 'along':
      return value === 'link'
        ? { along: 'link', link }
        : { along: value === 'nothing' ? 'nothing' : undefined };
    case 'lock':
      if (value === SEALED) return {};
      if (value === 'none') return { lock: undefined };
      return columnId ? { lock: { columnId } } : value.trim() ? { seal: value.trim() } : {};
    case 'lock-form':
      return note.lock && 'columnId' in note.lock
        ? { lock: { ...note.lock, form: value as PasswordForm } }
        : {};
    case 'link-days': {
      const days = Number(/\d+/.exec(value)?.[0]);
      return days >= 1 && days <= 400 ? { link: { ...link, days } } : {};
    }
    case 'link-ask':
      return { link: { ...link, askId: columnId ?? null } };
    case 'file':
      return value === 'none' ? { files: (note.files ?? []).filter((_, at) => at !== Number(n)) } : {};
    case 'along-add':
      return { file: true };
    default:
      return null;
  }
}
