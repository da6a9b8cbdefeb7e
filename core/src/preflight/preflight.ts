import { lettersWithoutFont } from '../page/index.js';
import { blocksOf, fieldsUsed, inlinesOf, isBlank, linePlain, partsUsed } from '../text/index.js';
import { valueOf, type Entry, type Roll } from '../roll/index.js';
import { readAddress, type AddressReading } from '../column/index.js';
import {
  allPicturesOf,
  fieldsOf,
  isMatched,
  isTemplateBlank,
  partsOf,
  textsOf,
  type CoverNote,
  type Field,
  type Filing,
  type Template,
  type TextPart,
} from '../template/index.js';
import { columnsOf } from '../condition/index.js';
import { isBlankField } from '../fill/index.js';
import type { Finding } from './finding.js';
import { rollFindings } from './roll-findings.js';
import { block, look, who } from './say.js';

export interface FolioContents {
  readonly roll: Roll;
  readonly templates: readonly Template[];
  /** Null where there is no mail to be sent, as in a press without a server. */
  readonly note: CoverNote | null;
  readonly filing: Filing;
  /** What was found in the worked columns, where there are any. */
  readonly marks?: readonly Finding[] | undefined;
  /** Names of the pictures that exist. */
  readonly assets: ReadonlySet<string>;
}

/** A word this long does not fit a line of any letter and would run off the paper. */
const LONG_WORD = 70;

/** Reads everything that a run would use and says what is wrong or worth a look. Blocking findings come first. */
export function preflight(folio: FolioContents): Finding[] {
  const findings = [
    ...rollFindings(folio.roll, folio.note?.toColumnId ?? null),
    ...(folio.marks ?? []),
    ...folio.templates.flatMap((template) => templateFindings(template, folio)),
    ...unmatched(folio.filing.fields, fieldsUsed(folio.filing.pattern), 'filing'),
    ...(folio.note ? noteFindings(folio.note, folio.roll) : []),
  ];
  return findings.sort((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}

/** True where nothing blocks a press. */
export const mayPress = (findings: readonly Finding[]): boolean =>
  findings.every((f) => f.blocks !== 'press');

/** True where nothing blocks a dispatch. */
export const mayDispatch = (findings: readonly Finding[]): boolean => findings.every((f) => !f.blocks);

/** The identities of the entries that are worth a look. */
export function entriesToLookAt(findings: readonly Finding[]): Set<string> {
  return new Set(findings.flatMap((finding) => finding.entryIds));
}

function templateFindings(template: Template, { templates, roll, assets }: FolioContents): Finding[] {
  const what = templates.length > 1 ? { template: template.name } : 'letter';
  const used = fieldsOf(template);
  const findings = unmatched(template.fields, used, 'letter', what);
  if (isTemplateBlank(template)) findings.push(block('press', 'letter', 'letter-blank', { place: what }));
  for (const { attrs } of allPicturesOf(template)) {
    if (!assets.has(attrs.asset))
      findings.push(block('press', 'letter', 'picture-missing', { name: attrs.alt || attrs.asset }));
  }
  const unsaid = textsOf(template)
    .flatMap((text) => [...blocksOf(text)])
    .filter((block) => block.type === 'picture' && block.attrs.alt.trim() === '').length;
  if (unsaid > 0) findings.push(look({ place: 'letter' }, 'picture-unsaid', { place: what, count: unsaid }));
  for (const id of used) {
    const field = template.fields.find((candidate) => candidate.id === id);
    if (field && isMatched(field)) findings.push(...valueFindings(field, roll, template.language));
  }
  findings.push(...partFindings(partsOf(template), roll, 'letter', what));
  return [...findings, ...letterFindings(template, used, what, roll)];
}

/** A part that looks at a column which is gone stands for nobody. */
function partFindings(
  parts: readonly TextPart[],
  { columns }: Roll,
  place: 'letter' | 'note',
  what: typeof place | { readonly template: string } = place,
): Finding[] {
  const known = new Set(columns.map(({ id }) => id));
  const gone = parts.filter((part) => columnsOf(part.if).some((id) => !known.has(id)));
  return gone.length > 0 ? [look({ place }, 'part-column-gone', { place: what, count: gone.length })] : [];
}

/** As many letters that no font has are told. */
const LETTERS_TOLD = 5;

/** Letters that no font has would print as boxes: in what is written, and in what is filled in. */
function letterFindings(
  template: Template,
  used: readonly string[],
  what: 'letter' | { readonly template: string },
  roll: Roll,
): Finding[] {
  const { family } = template.font;
  const fields = template.fields.filter(({ id }) => used.includes(id));
  const fixed = [
    ...textsOf(template).flatMap((text) =>
      [...inlinesOf(text)].map((inline) => (inline.type === 'text' ? inline.text : '')),
    ),
    ...fields.flatMap(wordsOf),
  ];
  const written = lettersWithoutFont(fixed.join(''), family);
  const findings =
    written.length > 0
      ? [
          look({ place: 'letter' }, 'letters-written', {
            place: what,
            letters: written.slice(0, LETTERS_TOLD),
          }),
        ]
      : [];
  const columnIds = new Set(
    fields.flatMap(({ columnId, more = [] }) => [columnId, ...more.map((one) => one.columnId)]),
  );
  for (const { id: columnId, title } of roll.columns) {
    if (!columnIds.has(columnId)) continue;
    const letters = new Set<string>();
    const entries = roll.entries.filter((entry) => {
      const missing = lettersWithoutFont(valueOf(entry, columnId), family);
      for (const letter of missing) letters.add(letter);
      return missing.length > 0;
    });
    if (entries.length === 0) continue;
    const said = { title, letters: [...letters].slice(0, LETTERS_TOLD), who: who(entries, roll) };
    findings.push(look({ place: 'letter', columnId, entries }, 'letters-missing', said));
  }
  return findings;
}

/** What people wrote into a field itself. */
const wordsOf = ({ before = '', after = '', same, wordsIf = [], whenBlank, more = [] }: Field): string[] => [
  before,
  after,
  same?.kind === 'text' ? same.text : '',
  whenBlank?.do === 'words' ? whenBlank.words : '',
  ...wordsIf.map(({ words }) => words),
  ...more.map(({ between }) => between),
];

function valueFindings(field: Field, roll: Roll, language: string): Finding[] {
  const title = roll.columns.find((column) => column.id === field.columnId)?.title ?? field.name;
  const about = { place: 'letter', fieldId: field.id, columnId: field.columnId ?? undefined } as const;
  const cellOf = (entry: Entry): string =>
    field.rowsOf === undefined
      ? valueOf(entry, field.columnId)
      : (entry.tables?.[field.rowsOf] ?? []).flat().join(' ');
  const findings: Finding[] = [];
  const rule = field.whenBlank?.do ?? 'nothing';
  if (rule === 'nothing' || rule === 'hold') {
    // Whatever day it is: a field of the day is never blank.
    const context = { columns: roll.columns, language, day: '2000-01-01' };
    const empty = roll.entries.filter((entry) => isBlankField(field, entry, context));
    const code = rule === 'hold' ? 'field-holds' : 'field-empty';
    if (empty.length > 0)
      findings.push(look({ ...about, entries: empty }, code, { title, who: who(empty, roll) }));
  }
  const gone = (field.more ?? []).filter(
    ({ columnId }) => !roll.columns.some((column) => column.id === columnId),
  );
  for (const { name } of gone) findings.push(look(about, 'field-part-gone', { title, part: name }));
  const long = roll.entries.filter((entry) => hasLongWord(cellOf(entry)));
  if (long.length > 0)
    findings.push(look({ ...about, entries: long }, 'word-long', { title, who: who(long, roll) }));
  return findings;
}

const hasLongWord = (text: string): boolean =>
  text.length > LONG_WORD && text.split(/[\s-]/).some((word) => word.length > LONG_WORD);

function noteFindings(note: CoverNote, roll: Roll): Finding[] {
  const used = [...new Set([...fieldsUsed(note.subject), ...fieldsUsed(note.body)])];
  const findings = unmatched(note.fields, used, 'note').map((finding): Finding => ({
    ...finding,
    blocks: 'dispatch',
  }));
  if (linePlain(note.subject, {}).trim() === '' && fieldsUsed(note.subject).length === 0) {
    findings.push(block('dispatch', 'note', 'subject-blank'));
  }
  if (isBlank(note.body)) {
    findings.push(block('dispatch', 'note', 'note-blank'));
  }
  const parts = new Set(partsUsed(note.body));
  findings.push(
    ...partFindings(
      (note.parts ?? []).filter(({ id }) => parts.has(id)),
      roll,
      'note',
    ),
  );
  const column = roll.columns.find((candidate) => candidate.id === note.toColumnId);
  if (!column) {
    findings.push(block('dispatch', 'note', 'address-column'));
    return findings;
  }
  return [...findings, ...addressFindings(roll, column.id)];
}

/** Kept for as long as an entry stays the same: a large roll changes a cell at a time. */
const readings = new WeakMap<Entry, { columnId: string; reading: AddressReading }>();

function addressOf(entry: Entry, columnId: string): AddressReading {
  const before = readings.get(entry);
  if (before?.columnId === columnId) return before.reading;
  const reading = readAddress(valueOf(entry, columnId));
  readings.set(entry, { columnId, reading });
  return reading;
}

function addressFindings(roll: Roll, columnId: string): Finding[] {
  const findings: Finding[] = [];
  const none = roll.entries.filter((entry) => addressOf(entry, columnId).kind === 'none');
  if (none.length > 0)
    findings.push(look({ place: 'note', entries: none, columnId }, 'address-none', { who: who(none, roll) }));
  for (const entry of roll.entries) {
    const cell = valueOf(entry, columnId);
    const reading = addressOf(entry, columnId);
    if (reading.kind === 'wrong')
      findings.push(
        look({ place: 'note', entries: [entry], columnId }, 'address-wrong', {
          who: who([entry], roll),
          cell: cell.trim().slice(0, 80),
          why: reading.reason,
        }),
      );
  }
  return findings;
}

function unmatched(
  fields: readonly Field[],
  used: readonly string[],
  place: 'letter' | 'note' | 'filing',
  what: typeof place | { readonly template: string } = place,
): Finding[] {
  return used.flatMap((id) => {
    const field = fields.find((candidate) => candidate.id === id);
    if (field && isMatched(field)) return [];
    const said = { place: what, field: field?.name ?? null };
    return [{ ...block('press', place, 'field-unmatched', said), fieldId: id }];
  });
}
