import type { Entry, Roll } from '../roll/index.js';
import { valueOf } from '../roll/index.js';
import { cohortOf, isBlankField } from '../fill/index.js';
import { lettersWithoutFont } from '../page/index.js';
import {
  allPicturesOf,
  columnsOfField,
  conditionsOf,
  type Dress,
  dressed,
  fieldsOf,
  isBlockField,
  isMatched,
  isNumberField,
  isTemplateBlank,
  type Letterhead,
  namedIn,
  pageLinesOf,
  partsOf,
  signOffsOf,
  placedOf,
  sizeOfPage,
  textsOf,
  wordsOfBox,
  wordsOfChart,
  wordsOfTable,
  type Field,
  type Template,
} from '../template/index.js';
import { blocksOf, inlinesOf, wordsOfLine } from '../text/index.js';
import type { Finding } from './finding.js';
import { block, look, who } from './say.js';
import { partFindings, unmatched } from './shared-findings.js';

/** Which template it is, where there are several; else what it is. */
type What = 'letter' | 'certificate' | { readonly template: string };

/** A word this long does not fit a line of any letter and would run off the paper. */
const LONG_WORD = 70;

/** What is worth a look in a template, and in what the learners' values make of it. */
export function templateFindings(
  template: Template,
  {
    templates,
    roll: whole,
    gets = () => true,
    assets,
    letterhead = null,
  }: {
    templates: readonly Template[];
    roll: Roll;
    gets?: ((template: Template, entry: Entry) => boolean) | undefined;
    assets: ReadonlySet<string>;
    letterhead?: Letterhead | null | undefined;
  },
): Finding[] {
  const roll = { ...whole, entries: whole.entries.filter((entry) => gets(template, entry)) };
  const what: What =
    templates.length > 1
      ? { template: template.name }
      : template.kind === 'placed'
        ? 'certificate'
        : 'letter';
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
    if (!field || !isMatched(field) || isNumberField(field)) continue;
    if (isBlockField(field)) findings.push(...goneFindings(field, roll, what));
    findings.push(...valueFindings(field, roll, template.language, whole));
  }
  const conditions = template.fields
    .filter(({ id }) => used.includes(id))
    .flatMap(conditionsOf)
    .map((one) => ({ if: one }));
  if (template.variant && roll.entries.length === 0)
    findings.push(look({ place: 'letter' }, 'variant-nobody', { name: template.name }));
  findings.push(...partFindings([...partsOf(template), ...conditions], roll, 'letter', what));
  findings.push(...outsideFindings(template, whole.columns, what));
  findings.push(...letterheadFindings(template, letterhead, what));
  return [...findings, ...letterFindings(template, letterhead, used, what, roll)];
}

/** As many places are told by name. */
const PLACES_TOLD = 3;

/** Places of a certificate that no part of is on its page. */
function outsideFindings(template: Template, columns: Roll['columns'], what: What): Finding[] {
  const placed = placedOf(template);
  if (!placed) return [];
  const outside = placed.boxes.filter(({ page, x, y, width, height }) => {
    const size = sizeOfPage(placed, page);
    return x >= size.width || y >= size.height || x + width <= 0 || y + height <= 0;
  });
  if (outside.length === 0) return [];
  const boxes = outside
    .flatMap((box) => wordsOfBox(box, template.fields, columns) || [])
    .slice(0, PLACES_TOLD);
  return [look({ place: 'letter' }, 'box-outside', { place: what, boxes, count: outside.length })];
}

/** What a letter wants of the letterhead and does not find there. */
function letterheadFindings(template: Template, letterhead: Letterhead | null, what: What): Finding[] {
  const wanted = template.letterhead && (template.letterhead.print !== 'none' || template.letterhead.looks);
  const known = new Set(letterhead?.signOffs.map(({ id }) => id));
  const gone = signOffsOf(template).filter((id) => !known.has(id)).length;
  return [
    ...(wanted && !letterhead ? [look({ place: 'letter' }, 'no-letterhead', { place: what })] : []),
    ...(gone > 0 ? [block('press', 'letter', 'sign-off-gone', { place: what, count: gone })] : []),
  ];
}

/** What is printed of the letterhead. */
function wordsOfDress({ head, signOffs }: Dress): string[] {
  const printed = head?.print === 'printed' ? [...head.lines, ...head.foot] : [];
  return [...printed, head?.name.text ?? '', ...signOffs.flatMap(({ name, role }) => [name, role])];
}

/** As many letters that no font has are told. */
const LETTERS_TOLD = 5;

/** Letters that no font has would print as boxes: in what is written, and in what is filled in. */
function letterFindings(
  template: Template,
  letterhead: Letterhead | null,
  used: readonly string[],
  what: What,
  roll: Roll,
): Finding[] {
  const { dress, font } = dressed(template, letterhead);
  const { family } = font;
  const fields = template.fields.filter(({ id }) => used.includes(id));
  const fixed = [
    ...pageLinesOf(template).map(wordsOfLine),
    ...textsOf(template).map((text) => wordsOfLine([...inlinesOf(text)])),
    ...fields.flatMap(wordsOf),
    ...(dress ? wordsOfDress(dress) : []),
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
  const columnIds = new Set(fields.flatMap(columnsOfField));
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
const wordsOf = ({
  before = '',
  after = '',
  same,
  wordsIf = [],
  whenBlank,
  more = [],
  table,
  chart,
}: Field): string[] => [
  ...(table ? wordsOfTable(table) : []),
  ...(chart ? wordsOfChart(chart) : []),
  before,
  after,
  same?.kind === 'text' ? same.text : '',
  whenBlank?.do === 'words' ? whenBlank.words : '',
  ...wordsIf.map(({ words }) => words),
  ...more.map(({ between }) => between),
];

function valueFindings(field: Field, roll: Roll, language: string, whole: Roll): Finding[] {
  const title = roll.columns.find((column) => column.id === field.columnId)?.title ?? field.name;
  const about = { place: 'letter', fieldId: field.id, columnId: field.columnId ?? undefined } as const;
  const rowsOf = field.rowsOf ?? (field.table?.rows.kind === 'own' ? field.table.rows.sourceId : undefined);
  const columnIds = columnsOfField(field);
  const cellOf = (entry: Entry): string =>
    rowsOf === undefined
      ? columnIds.map((id) => valueOf(entry, id)).join(' ')
      : (entry.tables?.[rowsOf] ?? []).flat().join(' ');
  const findings: Finding[] = [];
  const rule = field.whenBlank?.do ?? 'nothing';
  if (rule === 'nothing' || rule === 'hold') {
    // Whatever day it is: a field of the day is never blank.
    const context = { columns: roll.columns, language, day: '2000-01-01', cohort: cohortOf(whole) };
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

/** A table or chart with columns that are gone would have gaps in every paper. */
function goneFindings(field: Field, { columns }: Roll, what: What): Finding[] {
  const known = new Set(columns.map(({ id }) => id));
  const gone = namedIn(field).filter(({ columnId }) => columnId === null || !known.has(columnId));
  if (gone.length === 0) return [];
  const names = [...new Set(gone.map(({ name }) => name))];
  const said = { place: what, title: field.name, names };
  return [{ ...block('press', 'letter', 'block-column-gone', said), fieldId: field.id }];
}

const hasLongWord = (text: string): boolean =>
  text.length > LONG_WORD && text.split(/[\s-]/).some((word) => word.length > LONG_WORD);
