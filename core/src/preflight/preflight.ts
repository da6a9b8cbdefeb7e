import { fieldsUsed } from '../text/index.js';
import type { Entry, Roll } from '../roll/index.js';
import { getsOf, sorterOf, type SortedBy } from '../sorting/index.js';
import {
  addressColumns,
  exceptionKey,
  exceptionsOf,
  type Filing,
  type Letterhead,
  type Template,
  type TemplateWriting,
} from '../template/index.js';
import type { Finding } from './finding.js';
import { exceptionFindings, type ExceptionWriting } from './exception-findings.js';
import { filingFindings } from './filing-findings.js';
import { nameFindings } from './name-findings.js';
import { noteFindings } from './note-findings.js';
import type { NoteWriting } from './note-writing.js';
import { rangeFindings } from './range-findings.js';
import { rollFindings } from './roll-findings.js';
import { block, look, who } from './say.js';
import { unmatched } from './shared-findings.js';
import { sortingFindings } from './sorting-findings.js';
import { templateFindings } from './template-findings.js';

export interface FolioContents {
  readonly roll: Roll;
  readonly templates: readonly Template[];
  /** Who gets a paper of which template; everybody of each where nothing is said. */
  readonly sorting?:
    | {
        readonly by: SortedBy;
        readonly templates: readonly TemplateWriting[];
      }
    | undefined;
  /** What is another one for single learners. */
  readonly exceptions?: readonly ExceptionWriting[] | undefined;
  /** None where there is no mail to be sent, as in a press without a server. */
  readonly notes: readonly NoteWriting[];
  readonly filing: Filing;
  /** What was found in the worked columns, where there are any. */
  readonly marks?: readonly Finding[] | undefined;
  /** The school's; null where it has none. */
  readonly letterhead?: Letterhead | null | undefined;
  /** Names of the pictures that exist. */
  readonly assets: ReadonlySet<string>;
}

/** Reads everything that a run would use and says what is wrong or worth a look. Blocking findings come first. */
export function preflight(folio: FolioContents): Finding[] {
  const { roll, sorting } = folio;
  const sorted = sorting && sorterOf(sorting.templates, sorting.by);
  const ruled = (sorting?.by.sorting.rules.length ?? 0) > 0;
  const gets = sorting && getsOf(sorting.templates, sorting.by);
  const given = (template: Template): boolean =>
    !ruled || template.variant !== undefined || roll.entries.some((entry) => gets!(template, entry));
  const ids = new Map(sorting?.templates.map(({ id, content }) => [content, id]));
  const idOf = (template: Template): { templateId?: string } => {
    const templateId = ids.get(template);
    return templateId === undefined ? {} : { templateId };
  };
  const excepted = exceptionsOf(folio.exceptions ?? [], sorting?.templates ?? []);
  const special = new Set(excepted.map(exceptionKey));
  const getsCommon = (template: Template, entry: Entry): boolean =>
    (!gets || gets(template, entry)) &&
    !special.has(exceptionKey({ entryId: entry.id, of: ids.get(template) ?? '' }));
  const getsById = (templateId: string, entry: Entry): boolean =>
    sorted !== undefined && sorted(entry).templates.some(({ id }) => id === templateId);
  // What is said of the template itself is not said again of each exception.
  const ownFindings = (template: Template, common: readonly Finding[]): Finding[] => {
    const said = new Set(common.map(({ message }) => message));
    return excepted
      .filter(({ of }) => of === ids.get(template))
      .flatMap(({ content, entryId }) =>
        roll.entries.some((entry) => entry.id === entryId && gets!(template, entry))
          ? templateFindings(content, { ...folio, gets: (_, entry) => entry.id === entryId })
              .filter(({ message }) => !said.has(message))
              .map((finding) => ({ ...finding, entryIds: [entryId] }))
          : [],
      );
  };
  // What nobody gets stands in nobody's way.
  const [used, unused] = [folio.templates.filter(given), folio.templates.filter((one) => !given(one))];
  // Who gets no paper is not written to.
  const written =
    sorted && ruled ? roll.entries.filter((one) => sorted(one).templates.length > 0) : roll.entries;
  const findings = [
    ...rollFindings(folio.roll, [...new Set(folio.notes.flatMap(({ content }) => addressColumns(content)))]),
    ...nameFindings(roll),
    ...rangeFindings(roll, used),
    ...(folio.marks ?? []),
    ...(folio.templates.length === 0 ? [block('press', 'letter', 'no-template')] : []),
    ...used.flatMap((template) => {
      const common = templateFindings(template, { ...folio, gets: getsCommon });
      return [...common, ...ownFindings(template, common)].map((finding) => ({
        ...finding,
        ...idOf(template),
      }));
    }),
    ...exceptionFindings(folio.exceptions ?? [], excepted, roll, getsById, sorting?.templates ?? []),
    ...unused.map(({ name }) => look({ place: 'sorting' }, 'template-nobody', { name })),
    ...(sorting && sorted ? sortingFindings(roll, sorting.by, sorting.templates, sorted) : []),
    ...filingFindings(folio.filing, roll),
    ...unmatched(folio.filing.fields, fieldsUsed(folio.filing.pattern), 'filing'),
    ...noteFindings(folio.notes, { ...roll, entries: written }, sorting?.by),
  ];
  return findings.sort((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}

/** True where nothing blocks a press. */
export const mayPress = (findings: readonly Finding[]): boolean =>
  findings.every((f) => f.blocks !== 'press');

/** True where nothing blocks a dispatch. */
export const mayDispatch = (findings: readonly Finding[]): boolean => findings.every((f) => !f.blocks);

const OLD = 'papers-old';

/** Papers that would come out another one now; null where there are none. It stands in nobody's way: pressing mends it. */
export function outOfDateFinding(roll: Roll, entryIds: ReadonlySet<string>): Finding | null {
  const entries = roll.entries.filter(({ id }) => entryIds.has(id));
  return entries.length === 0 ? null : look({ place: 'register', entries }, OLD, { who: who(entries, roll) });
}

/** Learners whose mail was refused, or came back, and was not sent in another way since; null where there are none. */
export function refusedFinding(roll: Roll, entryIds: ReadonlySet<string>): Finding | null {
  const entries = roll.entries.filter(({ id }) => entryIds.has(id));
  return entries.length === 0
    ? null
    : look({ place: 'register', entries }, 'mail-refused', { who: who(entries, roll) });
}

/** The identities of the entries that are worth a look. */
export function entriesToLookAt(findings: readonly Finding[]): Set<string> {
  return new Set(findings.flatMap(({ code, entryIds }) => (code === OLD ? [] : entryIds)));
}
