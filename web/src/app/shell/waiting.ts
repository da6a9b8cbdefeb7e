import type { FolioSummary } from '@scriptum/core/contract';

/** Something that waits for somebody, with where it is to be looked at. */
export interface Waiting {
  readonly key: string;
  readonly text: string;
  readonly folio: string;
  readonly link: readonly string[];
  readonly grave: boolean;
}

const KINDS: readonly {
  readonly of:
    | 'blocking'
    | 'failed'
    | 'refused'
    | 'unconfirmed'
    | 'asked'
    | 'orderBlocked'
    | 'filesWait'
    | 'toReview'
    | 'held'
    | 'outOfDate';
  readonly path: readonly string[];
  readonly grave: boolean;
  readonly one: string;
  readonly many: string;
}[] = [
  {
    of: 'blocking',
    path: ['press', 'checks'],
    grave: true,
    one: 'finding blocks the press',
    many: 'findings block the press',
  },
  { of: 'failed', path: ['press', 'runs'], grave: true, one: 'paper failed', many: 'papers failed' },
  {
    of: 'refused',
    path: ['register'],
    grave: true,
    one: 'message was refused',
    many: 'messages were refused',
  },
  {
    of: 'unconfirmed',
    path: ['register'],
    grave: false,
    one: 'message is unconfirmed',
    many: 'messages are unconfirmed',
  },
  {
    of: 'orderBlocked',
    path: ['press', 'orders'],
    grave: true,
    one: 'learner keeps a standing order waiting',
    many: 'learners keep a standing order waiting',
  },
  {
    of: 'filesWait',
    path: ['roll', 'watched'],
    grave: true,
    one: 'watched file waits for a look',
    many: 'watched files wait for a look',
  },
  {
    of: 'asked',
    path: ['press', 'orders'],
    grave: false,
    one: 'learner’s papers wait for a yes',
    many: 'learners’ papers wait for a yes',
  },
  {
    of: 'outOfDate',
    path: ['press'],
    grave: false,
    one: 'paper is out of date',
    many: 'papers are out of date',
  },
  {
    of: 'toReview',
    path: ['register', 'review'],
    grave: false,
    one: 'paper waits to be cleared or sent',
    many: 'papers wait to be cleared or sent',
  },
  { of: 'held', path: ['register', 'review'], grave: false, one: 'paper is held', many: 'papers are held' },
];

/** What waits for somebody in the folios that are in use, the gravest first. */
export function waitingIn(folios: readonly FolioSummary[]): Waiting[] {
  return KINDS.flatMap(({ of, path, grave, one, many }) =>
    folios
      .filter((folio) => !folio.archived && folio[of] > 0)
      .map((folio) => ({
        key: `${of} ${folio.id}`,
        text: `${folio[of].toLocaleString()} ${folio[of] === 1 ? one : many}`,
        folio: folio.title,
        link: ['/folio', folio.id, ...path],
        grave,
      })),
  );
}
