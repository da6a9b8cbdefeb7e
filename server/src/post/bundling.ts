import { cohortOf } from '@scriptum/core/fill';
import type { Column } from '@scriptum/core/column';
import { linkOf, writeNote, type Envelope, type WrittenNote } from '@scriptum/core/note';
import type { Writing } from '@scriptum/core/template';
import type { Planning } from '../register/planning.js';
import type { PaperRow } from '../store/entities/register.js';

export type NoteWriting = Extract<Writing, { kind: 'note' }>;

/** Papers that go together in one message. */
export interface Bundle extends WrittenNote {
  /** Its private link as it is shown before the message is written, and the last day on which it works. */
  readonly link?: { readonly url: string; readonly ends: string } | undefined;
  /** Those of the roll. */
  readonly columns: readonly Column[];
  /** The note that goes with them. */
  readonly cover: NoteWriting;
  /** In which it is written, BCP 47. */
  readonly language: string;
  /** The identities of that note in all its languages. */
  readonly inWords: readonly string[];
  readonly papers: readonly PaperRow[];
  readonly envelope: Envelope;
  /** How many messages of this note its entries have had. */
  readonly before: number;
}

/** Letters of a subject. */
const SUBJECT_MOST = 1000;

/**
 * Writes messages from what a folio is planned from.
 *
 * @param address of the application, where families find it.
 */
export function bundling(
  { roll, templates, day }: Pick<Planning, 'roll' | 'templates' | 'day'>,
  address: string,
): (
  cover: NoteWriting,
  envelope: Envelope,
  papers: readonly PaperRow[],
  more: Pick<Bundle, 'inWords' | 'before'>,
) => Bundle {
  const { columns } = roll;
  const cohort = cohortOf(roll);
  const languages = new Map(templates.map(({ id, content }) => [id, content.language]));
  return (cover, envelope, papers, more) => {
    const language = cover.content.language ?? languages.get(papers[0]!.templateId) ?? 'en-GB';
    const link = linkOf(cover.content, address, day);
    const written = writeNote(cover.content, envelope, { columns, language, day, cohort }, link);
    const subject = written.subject.slice(0, SUBJECT_MOST);
    return { ...written, ...more, subject, link, columns, cover, language, papers, envelope };
  };
}
