import type { FitState } from '../page/index.js';
import { nameColumns, type Entry, type Roll } from '../roll/index.js';
import { columnsOfField, fieldsOf, placedOf, type Excepted, type Template } from '../template/index.js';
import type { Finding } from './finding.js';
import { fitFindings, type MeasuredBox } from './fit-findings.js';
import { look, who } from './say.js';

/** What the typesetter found out about one paper that would be made now. */
export interface MeasuredPaper {
  readonly entryId: string;
  readonly templateId: string;
  /** The exception that it is made with; null where there is none. */
  readonly exceptionId: string | null;
  readonly pages: number;
  /** Of boxes that are not simply right: their places in the template. */
  readonly fits: readonly { readonly box: number; readonly state: FitState }[];
  /** Why it cannot be set; null where it can. */
  readonly failed: string | null;
  /** Names all that it prints: papers with the same one are equal. */
  readonly prints: string;
}

/** Where more papers than this part of them have more pages, that is nothing unusual (common practice, no published source). */
const MORE_USUAL = 1 / 3;

/**
 * What is worth a look in papers as they come out: those that cannot be set, texts that do not fit their places, more pages than
 * the others have, and learners whose papers are equal though their names are printed.
 *
 * @param templates those that papers are made from, with their identities.
 * @param exceptions what is another one for single learners.
 */
export function measuredFindings(
  papers: readonly MeasuredPaper[],
  templates: readonly { readonly id: string; readonly content: Template }[],
  roll: Roll,
  exceptions: readonly Excepted[] = [],
): Finding[] {
  const entries = new Map(roll.entries.map((entry) => [entry.id, entry]));
  return templates.flatMap(({ id: templateId, content }) => {
    const own = papers.filter((paper) => paper.templateId === templateId && entries.has(paper.entryId));
    const place = templates.length > 1 ? { template: content.name } : placeOf(content);
    const of = (some: readonly MeasuredPaper[]): Entry[] => some.map(({ entryId }) => entries.get(entryId)!);
    const about = (some: readonly MeasuredPaper[]) =>
      ({ place: 'letter', entries: of(some), templateId }) as const;
    const set = own.filter(({ failed }) => failed === null);
    const findings: Finding[] = [];
    const failed = own.filter((paper) => paper.failed !== null);
    for (const reason of new Set(failed.map((paper) => paper.failed!))) {
      const some = failed.filter((paper) => paper.failed === reason);
      findings.push(look(about(some), 'paper-fails', { place, reason, who: who(of(some), roll) }));
    }
    const expected = mostFrequent(set.map(({ pages }) => pages));
    const longer = set.filter(({ pages }) => pages > expected);
    if (longer.length > 0 && longer.length <= set.length * MORE_USUAL) {
      const most = Math.max(...longer.map(({ pages }) => pages));
      findings.push(look(about(longer), 'pages-more', { place, expected, most, who: who(of(longer), roll) }));
    }
    if (printsNames(content, roll))
      for (const some of alike(set))
        findings.push(look(about(some), 'papers-equal', { place, who: who(of(some), roll) }));
    const fitting = (template: Template, some: readonly MeasuredPaper[]): void => {
      const placed = placedOf(template);
      if (!placed || some.length === 0) return;
      for (const finding of fitFindings(placed, boxesOf(placed.boxes, some), roll, templates.length > 1))
        findings.push({ ...finding, templateId });
    };
    fitting(
      content,
      set.filter(({ exceptionId }) => exceptionId === null),
    );
    for (const one of exceptions)
      fitting(
        one.content,
        set.filter(({ exceptionId }) => exceptionId === one.id),
      );
    return findings;
  });
}

const placeOf = (template: Template): 'letter' | 'certificate' =>
  template.kind === 'placed' ? 'certificate' : 'letter';

/** The number that stands there most often, the lowest of several. */
function mostFrequent(numbers: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const one of numbers) counts.set(one, (counts.get(one) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? 0;
}

function printsNames(template: Template, { columns }: Roll): boolean {
  const names = new Set(nameColumns(columns).map(({ id }) => id));
  const stands = new Set(fieldsOf(template));
  return template.fields.some(
    (field) => stands.has(field.id) && columnsOfField(field).some((id) => names.has(id)),
  );
}

function alike(papers: readonly MeasuredPaper[]): MeasuredPaper[][] {
  const groups = new Map<string, MeasuredPaper[]>();
  for (const paper of papers) {
    const group = groups.get(paper.prints);
    if (group) group.push(paper);
    else groups.set(paper.prints, [paper]);
  }
  return [...groups.values()].filter(({ length }) => length > 1);
}

function boxesOf(boxes: readonly { readonly id: string }[], papers: readonly MeasuredPaper[]): MeasuredBox[] {
  return boxes.flatMap(({ id }, box): MeasuredBox[] => {
    const people: Partial<Record<FitState, string[]>> = {};
    for (const { entryId, fits } of papers)
      for (const fit of fits) if (fit.box === box) (people[fit.state] ??= []).push(entryId);
    return Object.keys(people).length > 0 ? [{ box: id, who: people }] : [];
  });
}
