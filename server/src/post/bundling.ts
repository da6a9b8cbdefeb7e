import { cohortOf } from '@scriptum/core/fill';
import { linkOf, writeNote, type Envelope } from '@scriptum/core/note';
import type { Planning } from '../register/planning.js';
import type { PaperRow } from '../store/entities/register.js';
import type { Bundle, NoteWriting } from './plan-dispatch.js';

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
