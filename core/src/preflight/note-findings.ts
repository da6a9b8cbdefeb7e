import { lackedColumns, recipientsOf } from '../note/index.js';
import type { Entry, Roll } from '../roll/index.js';
import { notesOf, type SortedBy } from '../sorting/index.js';
import { neededColumns, type CoverNote } from '../template/index.js';
import { fieldsUsed, isBlank, linePlain, partsUsed } from '../text/index.js';
import { addressFindings, noneFindings } from './address-findings.js';
import type { Finding } from './finding.js';
import type { NoteWhere, NoteWriting } from './note-writing.js';
import { block, look, who } from './say.js';
import { partFindings, unmatched } from './shared-findings.js';

/**
 * What is wrong with the cover notes, each by those to whom it goes, and who gets none or cannot be written to at all.
 *
 * @param roll with those entries alone that get papers.
 */
export function noteFindings(notes: readonly NoteWriting[], roll: Roll, by: SortedBy | undefined): Finding[] {
  const [only] = notes;
  if (!only) return [];
  const goes = notesOf(notes, by);
  const byEntry = new Map(roll.entries.map((entry) => [entry.id, goes(entry)]));
  const given = (entry: Entry): readonly NoteWriting[] => byEntry.get(entry.id)!;
  const goesTo = (note: NoteWriting, entry: Entry): boolean => given(entry).some(({ id }) => id === note.id);
  const findings = notes.flatMap((note): Finding[] => {
    const asked = note.content.goes === 'asked';
    const entries = asked ? roll.entries : roll.entries.filter((entry) => goesTo(note, entry));
    const place: NoteWhere = notes.length > 1 ? { template: note.name } : 'note';
    // What nobody gets stands in nobody's way.
    if (notes.length > 1 && entries.length === 0 && roll.entries.length > 0)
      return [{ ...look({ place: 'note' }, 'note-nobody', { name: note.name }), noteId: note.id }];
    return ofNote(note, { ...roll, entries }, place).map((finding) => ({
      ...finding,
      // What is sent by somebody's word alone keeps nothing else from leaving.
      ...(asked && finding.blocks ? { severity: 'look' as const, blocks: undefined } : {}),
      ...(notes.length > 1 ? { noteId: note.id } : {}),
    }));
  });
  const unwritten = roll.entries.filter((entry) => given(entry).length === 0);
  const reached = new Map(
    roll.entries.map((entry) => [
      entry.id,
      given(entry).some(({ content }) => recipientsOf(content, entry).to.length > 0),
    ]),
  );
  return [
    ...(unwritten.length > 0
      ? [look({ place: 'note', entries: unwritten }, 'note-none', { who: who(unwritten, roll) })]
      : []),
    ...noneFindings(
      notes.filter(({ content }) => content.goes !== 'asked'),
      roll,
      { goesTo, reached: (entry) => reached.get(entry.id)! },
    ),
    ...once(findings),
  ];
}

/** What two notes have in common, such as a column with a wrong address, is said once. */
function once(findings: readonly Finding[]): Finding[] {
  const said = new Set<string>();
  return findings.filter(({ code, message, entryIds, columnId }) => {
    const key = JSON.stringify([code, message, entryIds, columnId]);
    return said.has(key) ? false : said.add(key);
  });
}

/** What goes along: a link that stands in the text, and what opens the papers of each. */
function alongFindings(note: CoverNote, roll: Roll, used: readonly string[], place: NoteWhere): Finding[] {
  const printsLink = note.fields.some(({ id, same }) => used.includes(id) && same?.kind === 'link');
  const findings: Finding[] = [];
  if (note.along === 'link' && !printsLink)
    findings.push(block('dispatch', 'note', 'link-unsaid', { place }));
  if (note.along !== 'link' && printsLink) findings.push(block('dispatch', 'note', 'link-idle', { place }));
  const needed = neededColumns(note);
  const columns = needed.map((id) => roll.columns.find((column) => column.id === id));
  if (columns.includes(undefined)) findings.push(block('dispatch', 'note', 'needed-gone', { place }));
  for (const column of new Set(columns)) {
    if (!column) continue;
    const blank = roll.entries.filter((entry) => lackedColumns(note, entry).includes(column.id));
    if (blank.length === 0) continue;
    const about = { place: 'note' as const, entries: blank, columnId: column.id };
    findings.push(look(about, 'needed-blank', { title: column.title, who: who(blank, roll) }));
  }
  return findings;
}

function ofNote({ content: note }: NoteWriting, roll: Roll, place: NoteWhere): Finding[] {
  const used = [
    ...new Set([note.subject, note.preview ?? []].flatMap(fieldsUsed).concat(fieldsUsed(note.body))),
  ];
  const findings = unmatched(note.fields, used, 'note', place).map((finding): Finding => ({
    ...finding,
    blocks: 'dispatch',
  }));
  if (linePlain(note.subject, {}).trim() === '' && fieldsUsed(note.subject).length === 0)
    findings.push(block('dispatch', 'note', 'subject-blank', { place }));
  if (isBlank(note.body)) findings.push(block('dispatch', 'note', 'note-blank', { place }));
  const parts = new Set(partsUsed(note.body));
  findings.push(
    ...partFindings(
      (note.parts ?? []).filter(({ id }) => parts.has(id)),
      roll,
      'note',
      place,
    ),
  );
  return [
    ...findings,
    ...alongFindings(note, roll, used, place),
    ...addressFindings(note, roll, used, place),
  ];
}
