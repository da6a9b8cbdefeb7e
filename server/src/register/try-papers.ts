import type { Column } from '@scriptum/core/column';
import { cohortOf } from '@scriptum/core/fill';
import {
  envelopesOf,
  linkOf,
  passwordOf,
  writeNote,
  type Envelope,
  type WrittenNote,
} from '@scriptum/core/note';
import { programValues } from '@scriptum/core/page';
import type { PrintedValues } from '@scriptum/core/fill';
import { isIn, type Entry } from '@scriptum/core/roll';
import { notesOf } from '@scriptum/core/sorting';
import { writingsOf, type CoverNote, type DressedTemplate, type Template } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { findFolio } from '../store/folios.js';
import { contentsOf, loadPlanning, plannedNow } from './planning.js';

/** A paper to be tried: all that it is made from. */
export interface TryPaper {
  readonly entryId: string;
  readonly learner: string;
  readonly fileName: string;
  readonly template: DressedTemplate & Template;
  readonly printed: PrintedValues;
  /** JSON of `programValues`. */
  readonly values: string;
}

/** A message as its family would get it. */
export interface TryMessage extends WrittenNote {
  readonly entryIds: readonly string[];
  readonly along: CoverNote['along'];
  readonly files: NonNullable<CoverNote['files']>;
  /** With what the papers of each entry are opened, or the note's one password, sealed; null where they are not locked. */
  readonly lock: { readonly sealed: string } | { readonly own: Readonly<Record<string, string>> } | null;
  readonly from: string | null;
  /** Addresses; none where nobody can be written to. */
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly bcc: readonly string[];
}

export interface PlannedTry {
  readonly papers: readonly TryPaper[];
  readonly messages: readonly TryMessage[];
}

export interface TryAsked {
  readonly schoolId: string;
  readonly folioId: string;
  readonly entryIds: readonly string[];
  /** Of the application, where families find it. */
  readonly address: string;
  /** True for the messages of the entries, with all whom they are about. */
  readonly messages: boolean;
}

/** The papers of some entries as they would be made now, in the order of the roll, and the messages that they would go in. */
export async function planTry(manager: EntityManager, asked: TryAsked): Promise<PlannedTry> {
  const { schoolId, folioId } = asked;
  const planning = await loadPlanning(manager, await findFolio(manager, schoolId, folioId));
  const contentOf = contentsOf(planning);
  const planned = plannedNow(planning).filter(({ entry }) => isIn(entry));
  const wanted = new Set(asked.entryIds);
  const covers = writingsOf(planning.writings, 'note');
  const goes = notesOf(covers, planning.by);
  const languages = new Map(planned.map((paper) => [paper.entryId, contentOf(paper).language]));
  const entries = planning.roll.entries.filter(({ id }) => languages.has(id));
  const envelopes = asked.messages
    ? covers.flatMap(({ content }) =>
        envelopesFor(
          content,
          entries.filter((entry) => goes(entry).some((one) => one.content === content)),
          wanted,
        ).map((envelope) => ({ note: content, envelope })),
      )
    : [];
  const context = { columns: planning.roll.columns, day: planning.day, cohort: cohortOf(planning.roll) };
  const addresses = (people: Envelope['to']): string[] => people.map(({ address }) => address);
  const messages = envelopes.map(({ note, envelope }): TryMessage => {
    const ids = envelope.entries.map(({ id }) => id);
    ids.forEach((id) => wanted.add(id));
    const { to, cc, bcc } = envelope;
    return {
      ...writeNote(
        note,
        envelope,
        { ...context, language: note.language ?? languages.get(ids[0]!)! },
        linkOf(note, asked.address, planning.day),
      ),
      entryIds: ids,
      along: note.along,
      files: note.files ?? [],
      lock: lockOf(note, envelope.entries, planning.roll.columns),
      from: note.from?.trim() || null,
      to: addresses(to),
      cc: addresses(cc),
      bcc: addresses(bcc),
    };
  });
  const papers = planned
    .filter(({ entryId }) => wanted.has(entryId))
    .map((paper): TryPaper => {
      const { entryId, learner, fileName, values } = paper;
      const template = contentOf(paper);
      return {
        entryId,
        learner,
        fileName,
        template,
        printed: values,
        values: programValues(template, values),
      };
    });
  return { papers, messages };
}

function lockOf(
  { lock, along }: CoverNote,
  entries: readonly Entry[],
  columns: readonly Column[],
): TryMessage['lock'] {
  if (!lock || along === 'nothing') return null;
  if ('sealed' in lock) return lock;
  return { own: Object.fromEntries(entries.map((entry) => [entry.id, passwordOf(lock, entry, columns)])) };
}

/** The messages that some entries are in; one to nobody for those that nobody can be written to for. */
function envelopesFor(note: CoverNote, entries: readonly Entry[], wanted: ReadonlySet<string>): Envelope[] {
  const all = envelopesOf(note, note.family ? entries : entries.filter(({ id }) => wanted.has(id)));
  const own = all.filter((envelope) => envelope.entries.some(({ id }) => wanted.has(id)));
  const reached = new Set(own.flatMap((envelope) => envelope.entries.map(({ id }) => id)));
  const alone = entries.filter(({ id }) => wanted.has(id) && !reached.has(id));
  return [...own, ...alone.map((entry) => ({ entries: [entry], to: [], cc: [], bcc: [], replyTo: null }))];
}
