import {
  cohortOf,
  filledParts,
  fillFields,
  isBlankField,
  printedOf,
  textsOfFilled,
  type PaperNumber,
  type PrintedValues,
} from '../fill/index.js';
import type { GoesOut } from '../text/index.js';
import { filePath, namedFor, pathSaying, uniquePaths } from '../filing/index.js';
import { learnerName, nameColumns, valueOf, type Entry, type Roll } from '../roll/index.js';
import {
  blankRules,
  type Excepted,
  exceptionKey,
  type Field,
  fieldsOf,
  isNumberField,
  type Filing,
  type GivenTemplate,
  partsOf,
  type Template,
  type TemplateWriting,
  type TextPart,
} from '../template/index.js';
import { possibleOf, sorterOf, waysOf, type SortedBy, type Sorter } from '../sorting/index.js';

/** What an entry's paper would be made from, now. */
export interface PlannedPaper {
  readonly entry: Entry;
  readonly entryId: string;
  readonly templateId: string;
  /** Its order among the papers of its entry. */
  readonly place: number;
  readonly learner: string;
  readonly fileName: string;
  /** What is printed in its fields. */
  readonly values: PrintedValues;
  /** The values that decide whether a paper is out of date: without the day on which it is pressed. */
  readonly lasting: PrintedValues;
  /** True where a field is blank that holds the paper then. */
  readonly heldBack: boolean;
  /** What is another one for this learner alone; null where nothing is. */
  readonly exception: Pick<Excepted, 'id' | 'version'> | null;
  /** True where it prints a number. */
  readonly numbered: boolean;
  /** All that its template says about how it looks, as text; one text for all papers of a template. */
  readonly look: string;
}

/** A template as far as names of files need it. */
export interface NamedTemplate extends GivenTemplate {
  readonly content: GivenTemplate['content'] & { readonly name: string; readonly language: string };
}

/** The file name of a paper, and the template that it is made from. */
export interface PlannedName {
  readonly templateId: string;
  readonly fileName: string;
}

/** Names what papers of one template for one entry have in common: they take each other's place. */
export const paperKey = ({ entryId, templateId }: { entryId: string; templateId: string }): string =>
  `${entryId} ${templateId}`;

/** The file names of papers that there are, which they keep while the pattern gives them. */
export type NamedPapers = (entryId: string, templateId: string) => string | undefined;

/** What papers are planned from. */
export interface PlanFrom<T extends NamedTemplate = NamedTemplate> {
  readonly roll: Roll;
  /** Those that are on, in their order. */
  readonly templates: readonly T[];
  readonly filing: Filing;
  /** Everybody gets each template where nothing is said. */
  readonly by?: SortedBy | undefined;
  readonly named?: NamedPapers | undefined;
  /** What is another one for single learners, upon the templates. */
  readonly exceptions?: readonly Excepted[] | undefined;
  /** The numbers of papers, as far as they have some. */
  readonly numbers?:
    ((paper: { entryId: string; templateId: string }) => PaperNumber | undefined) | undefined;
}

/**
 * The file name of each entry's papers, in the order of the roll and of the templates; unique over the whole roll. A paper
 * that there is keeps its name as long as the pattern gives it, so that a new namesake changes nobody else's.
 *
 * @returns a list for each entry, with a name for each of its papers.
 */
export function planNames({
  roll: { columns, entries },
  templates,
  filing,
  by,
  named = () => undefined,
}: PlanFrom): PlannedName[][] {
  const sorted = sorterOf(templates, by);
  const { apart } = filing;
  // A pattern has no language of its own, and no day: a paper is not called something else each morning.
  const context = { columns, language: templates[0]?.content.language ?? 'en', day: '' };
  const places = entries.flatMap((entry, at) => {
    const path = filePath(filing, textsOfFilled(fillFields(filing.fields, entry, context)));
    return sorted(entry).templates.map(({ id, content }, place) => {
      const name = named(entry.id, id);
      const aside = apart ? valueOf(entry, apart) : '';
      // The first is called as the pattern says; a second letter changes nobody's name.
      const own = place === 0 ? path : pathSaying(path, content.name);
      return {
        at,
        id,
        title: content.name,
        path: own,
        aside,
        kept: name !== undefined && namedFor(name, own, aside) ? name : undefined,
      };
    });
  });
  const names = uniquePaths(
    places.map(({ path }) => path),
    (index) => `${places[index]!.title} ${places[index]!.at + 1}`,
    places.map(({ kept }) => kept),
    by ? stayingNames(entries, templates, by, sorted, named) : [],
    places.map(({ aside }) => aside),
  );
  const lists = entries.map((): PlannedName[] => []);
  places.forEach(({ at, id }, n) => lists[at]!.push({ templateId: id, fileName: names[n]! }));
  return lists;
}

/** Names of papers that stand for their entries though they would not be made now, so that no other one is called the same. */
function stayingNames(
  entries: readonly Entry[],
  templates: readonly NamedTemplate[],
  by: SortedBy,
  sorted: Sorter<NamedTemplate>,
  named: NamedPapers,
): string[] {
  if (waysOf(by).length === 1) return [];
  const possible = possibleOf(templates, by);
  return entries.flatMap((entry) => {
    const given = new Set(sorted(entry).templates.map(({ id }) => id));
    return [...possible(entry)].flatMap((id) => (given.has(id) ? [] : (named(entry.id, id) ?? [])));
  });
}

/**
 * Plans the papers of each entry, in the order of the roll and of the templates.
 *
 * @param day on which they are pressed, ISO 8601.
 */
export function planPapers(from: PlanFrom<TemplateWriting>, day: string): PlannedPaper[] {
  const { roll, templates } = from;
  const nameIds = nameColumns(roll.columns);
  const looks = new Map(templates.map(({ id, content }) => [id, lookOf(content)]));
  const own = new Map(
    (from.exceptions ?? []).map((one) => [exceptionKey(one), { one, look: lookOf(one.content) }]),
  );
  const names = planNames(from);
  const cohort = cohortOf(roll);
  return roll.entries.flatMap((entry, at) => {
    const learner = learnerName(entry, nameIds).slice(0, 300);
    return names[at]!.map(({ templateId, fileName }, place): PlannedPaper => {
      const special = own.get(exceptionKey({ entryId: entry.id, of: templateId }));
      const { fields, parts, dated, numbered, holding, look, language } =
        special?.look ?? looks.get(templateId)!;
      const number = from.numbers?.({ entryId: entry.id, templateId });
      const context = { columns: roll.columns, language, day, cohort, number };
      const values = {
        ...printedOf(fillFields(fields, entry, context)),
        ...filledParts(parts, entry, roll.columns),
      };
      return {
        entry,
        entryId: entry.id,
        templateId,
        place,
        learner,
        fileName,
        values,
        lasting: dated.size === 0 ? values : without(values, dated),
        heldBack: holding.some((field) => isBlankField(field, entry, context)),
        exception: special ? { id: special.one.id, version: special.one.version } : null,
        numbered,
        look,
      };
    });
  });
}

/** A field as it counts for a look: what it prints is among the values. */
function fieldLook({ id, table, chart, picture }: Field, goesOut: GoesOut): unknown {
  if (table) return { id, columns: table.columns.map(({ title, look, width }) => ({ title, look, width })) };
  if (chart) return { id, width: chart.width, height: chart.height };
  if (picture) return { id, picture };
  return goesOut ? { id, goesOut } : id;
}

/** A template as it counts for its papers' looks: what is matched to what is in the values. */
function lookOf(template: Template): Look {
  const used = new Set(fieldsOf(template));
  const fields = template.fields.filter(({ id }) => used.has(id));
  const parts = partsOf(template);
  const { goesOut } = blankRules(fields, template.language);
  return {
    fields,
    parts,
    dated: new Set(
      fields.filter(({ same }) => same?.kind === 'day' || isNumberField({ same })).map(({ id }) => id),
    ),
    numbered: fields.some(isNumberField),
    holding: fields.filter(({ whenBlank }) => whenBlank?.do === 'hold'),
    language: template.language,
    look: canonical({
      ...template,
      off: undefined,
      variant: undefined,
      fields: fields.map((field) => fieldLook(field, goesOut(field.id))),
      // Which of them stand is among the values.
      parts: parts.length > 0 ? parts.map(({ id }) => id) : undefined,
    }),
  };
}

interface Look {
  readonly fields: readonly Field[];
  readonly parts: readonly TextPart[];
  /** Fields that print the day of pressing, or a number. */
  readonly dated: ReadonlySet<string>;
  readonly numbered: boolean;
  /** Fields that hold a paper back where they are blank. */
  readonly holding: readonly Field[];
  readonly look: string;
  readonly language: string;
}

const without = (values: PrintedValues, ids: ReadonlySet<string>): PrintedValues =>
  Object.fromEntries(Object.entries(values).filter(([id]) => !ids.has(id)));

/** JSON in which the order of keys does not count (RFC 8785, 3.2.3), so that the same content is the same text. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );
}
