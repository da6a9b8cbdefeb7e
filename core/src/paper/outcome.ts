import type { Column } from '../column/index.js';
import type { Entry, Roll } from '../roll/index.js';

/** A paper as far as its learner's row tells of it. */
export interface OutcomePaper {
  readonly id: string;
  readonly entryId: string;
  readonly templateId: string;
  readonly state: string;
  readonly outOfDate: boolean;
  readonly fileName: string;
  readonly number: string | null;
  readonly bytes: number | null;
  readonly message: {
    readonly to: string;
    readonly state: string;
    readonly sentAt: string | null;
    /** Whether its private link was opened; null where there is none. */
    readonly opened: boolean | null;
  } | null;
}

/** What the state of a paper is called. */
const WORDS: Readonly<Record<string, string>> = {
  waiting: 'Waiting',
  pressed: 'Pressed',
  cleared: 'Cleared',
  held: 'Held',
  dispatched: 'Sent',
  failed: 'Failed',
  void: 'Void',
  superseded: 'Earlier version',
};

export const paperWord = ({ state, outOfDate }: Pick<OutcomePaper, 'state' | 'outOfDate'>): string =>
  outOfDate ? (state === 'dispatched' ? 'Sent, out of date' : 'Out of date') : (WORDS[state] ?? state);

const MESSAGES: Readonly<Record<string, string>> = {
  queued: 'Sent soon',
  sending: 'On its way',
  deferred: 'Tried again later',
  refused: 'Refused',
  unconfirmed: 'Unconfirmed',
};

/** Columns that tell what became of an entry; they stand in no sheet, and nobody writes in them. */
export const OUTCOME_COLUMNS: readonly Column[] = (
  [
    ['paper', 'Paper'],
    ['state', 'State'],
    ['number', 'Number'],
    ['file', 'File'],
    ['link', 'Link'],
    ['sent', 'Sent'],
    ['to', 'Sent to'],
    ['opened', 'Opened'],
  ] as const
).map(([key, title]) => ({ id: `outcome-${key}`, title }));

export const isOutcome = (columnId: string): boolean => columnId.startsWith('outcome-');

/** Cells of one entry, by these columns. */
export type Outcome = Readonly<Record<string, string>>;

export interface OutcomeAround {
  /** What templates are called, by their identities. */
  readonly letters: ReadonlyMap<string, string>;
  /** Where the file of a paper can be opened. */
  readonly link: (paper: OutcomePaper) => string;
  /** How a moment is written, ISO 8601. */
  readonly moment: (at: string) => string;
}

/** What became of each entry, by its identity: of several papers one after the other. */
export function outcomesOf(
  papers: readonly OutcomePaper[],
  { letters, link, moment }: OutcomeAround,
): Map<string, Outcome> {
  const own = new Map<string, OutcomePaper[]>();
  for (const paper of papers)
    if (paper.state !== 'superseded' && paper.state !== 'void')
      own.set(paper.entryId, [...(own.get(paper.entryId) ?? []), paper]);
  const told = (some: readonly OutcomePaper[], say: (paper: OutcomePaper) => string): string =>
    some.map(say).filter(Boolean).join('; ');
  return new Map(
    [...own].map(([entryId, some]): [string, Outcome] => [
      entryId,
      {
        'outcome-paper': told(some, ({ templateId }) => letters.get(templateId) ?? ''),
        'outcome-state': told(some, (paper) => {
          const mail = paper.message && MESSAGES[paper.message.state];
          return mail ? `${paperWord(paper)}, ${mail.toLowerCase()}` : paperWord(paper);
        }),
        'outcome-number': told(some, ({ number }) => number ?? ''),
        'outcome-file': told(some, ({ fileName }) => fileName),
        'outcome-link': told(some, (paper) => (paper.bytes === null ? '' : link(paper))),
        'outcome-sent': told(some, ({ message }) => (message?.sentAt ? moment(message.sentAt) : '')),
        'outcome-to': told(some, ({ message }) => message?.to ?? ''),
        'outcome-opened': told(some, ({ message }) =>
          message?.opened == null ? '' : message.opened ? 'yes' : 'no',
        ),
      },
    ]),
  );
}

const merged = new WeakMap<Entry, { readonly outcome: Outcome; readonly entry: Entry }>();

/** A roll with these columns behind its own. Entries stay the same objects as long as nothing in them changes. */
export function withOutcomes(roll: Roll, outcomes: ReadonlyMap<string, Outcome>): Roll {
  return {
    ...roll,
    columns: [...roll.columns, ...OUTCOME_COLUMNS],
    entries: roll.entries.map((entry) => {
      const outcome = outcomes.get(entry.id);
      if (!outcome) return entry;
      const known = merged.get(entry);
      if (known && same(known.outcome, outcome)) return known.entry;
      const now = { ...entry, worked: { ...entry.worked, ...outcome } };
      merged.set(entry, { outcome, entry: now });
      return now;
    }),
  };
}

const same = (a: Outcome, b: Outcome): boolean => OUTCOME_COLUMNS.every(({ id }) => a[id] === b[id]);
