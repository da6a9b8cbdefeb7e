import { asksPapers, holds, type Condition, type Made } from '../condition/index.js';
import type { Column } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import {
  isFor,
  type CoverNote,
  type GivenTemplate,
  type Sorting,
  type SortingRule,
} from '../template/index.js';

/** What sorting looks at beside the templates. */
export interface SortedBy {
  readonly sorting: Sorting;
  readonly columns: readonly Column[];
  /** What was made for an entry before, by its identity; nothing where it is not said. */
  readonly made?: ((entryId: string) => Made) | undefined;
}

/** What one entry gets, and which rules say so. */
export interface Sorted<T> {
  /** In the order of the templates, each once. */
  readonly templates: readonly T[];
  /** The place of the rule that decided; null where no rule took it, or there are no rules. */
  readonly by: number | null;
  /** The places of the rules that gave something beside. */
  readonly also: readonly number[];
  /** The places of later rules that would have taken it too; those for everybody do not count. */
  readonly overtaken: readonly number[];
  /** Why a rule leaves it out, which may be blank; null where none does. */
  readonly leftOut: string | null;
}

export type Sorter<T> = (entry: Entry) => Sorted<T>;

/** What may have been made for an entry, each way once. */
const ALL_MADE: readonly Made[] = [
  { isNew: true, changed: false },
  { isNew: false, changed: true },
  { isNew: false, changed: false },
];

/**
 * Says which of some templates an entry's papers are made from. Of the rules in their order the first one that takes it
 * decides; those that give something beside do so whatever another one gives. A rule for which no paper is chosen takes nobody. Who is left out gets nothing. Without rules
 * everybody gets each template. Where a variant of a template is for the entry it gets that one instead, the first of several; a
 * variant whose template is not among them goes to those alone whom it is for.
 */
export function sorterOf<T extends GivenTemplate>(templates: readonly T[], by?: SortedBy): Sorter<T> {
  const inTheirWords = wordedFor(templates);
  const rules = by?.sorting.rules ?? [];
  const everything: ReadonlySet<string> = new Set(templates.map(({ id }) => id));
  if (!by || rules.length === 0) {
    return (entry) => ({ ...NOBODY, templates: inTheirWords(entry, everything, false) });
  }
  const asks = asksPapersIn(by.sorting);
  const known = new WeakMap<Entry, Sorted<T>>();
  return (entry) => {
    let sorted = known.get(entry);
    if (!sorted) {
      const taken = rulesFor(entry, rules, asks ? by : { ...by, made: undefined });
      const given = new Set(taken.given.filter((id) => everything.has(id)));
      const { by: decides, also, overtaken, leftOut } = taken;
      sorted = { templates: inTheirWords(entry, given, true), by: decides, also, overtaken, leftOut };
      known.set(entry, sorted);
    }
    return sorted;
  };
}

const NOBODY = { by: null, also: [], overtaken: [], leftOut: null };

interface Taken extends Omit<Sorted<never>, 'templates'> {
  readonly given: readonly string[];
  readonly notes: readonly string[];
}

function rulesFor(entry: Entry, rules: readonly SortingRule[], { columns, made }: SortedBy): Taken {
  const before = made?.(entry.id);
  const takes = (condition: Condition | null): boolean =>
    condition === null || holds(condition, entry, columns, before);
  const given: string[] = [];
  const notes: string[] = [];
  const also: number[] = [];
  const overtaken: number[] = [];
  let by: number | null = null;
  for (const [place, { if: condition, then }] of rules.entries()) {
    if (by !== null && condition === null && then.kind !== 'also') continue;
    // What is still being written takes nobody.
    if (then.kind !== 'out' && then.templates.length === 0) continue;
    if (!takes(condition)) continue;
    if (then.kind === 'also') {
      also.push(place);
      given.push(...then.templates);
      notes.push(...(then.notes ?? []));
    } else if (by !== null) overtaken.push(place);
    else {
      by = place;
      if (then.kind === 'gives') {
        given.push(...then.templates);
        notes.push(...(then.notes ?? []));
      }
    }
  }
  const decides = by === null ? undefined : rules[by]!.then;
  if (decides?.kind === 'out') return { given: [], notes: [], by, also: [], overtaken, leftOut: decides.why };
  return { given, notes, by, also, overtaken, leftOut: null };
}

/** A cover note as far as it matters to whom it goes. */
export interface GivenNote extends GivenTemplate {
  readonly content: Pick<CoverNote, 'goes' | 'variant'>;
}

/**
 * Says which of some cover notes go to an entry that gets papers, in their order, each once: those for everybody, and those that the
 * rules which take it name; a variant in the place of the note that it stands in for. What goes only by somebody's word is not among
 * them.
 */
export function notesOf<T extends GivenNote>(
  notes: readonly T[],
  by?: SortedBy,
): (entry: Entry) => readonly T[] {
  // One that stands in for another one goes as that one does.
  const goesOf = ({ content }: T): CoverNote['goes'] =>
    (notes.find(({ id }) => id === content.variant?.of)?.content ?? content).goes;
  const there = notes.filter((note) => goesOf(note) !== 'asked');
  const inTheirWords = wordedFor(there);
  const always = there.filter((note) => !goesOf(note)).map(({ id }) => id);
  const rules = by?.sorting.rules ?? [];
  const named = rules.some(({ then }) => then.kind !== 'out' && then.notes?.length);
  return (entry) =>
    inTheirWords(
      entry,
      new Set(by && named ? [...always, ...rulesFor(entry, rules, by).notes] : always),
      true,
    );
}

/**
 * The cover notes that go with a paper that there is: those of the ways of sorting under which it may have been made (see `waysOf`).
 *
 * @returns those of an entry's paper of a template, in their order.
 */
export function notesWith<T extends GivenNote>(
  notes: readonly T[],
  templates: readonly GivenTemplate[],
  by: SortedBy,
): (entry: Entry, templateId: string) => readonly T[] {
  const ways = waysOf(by).map((way) => ({ sorted: sorterOf(templates, way), notes: notesOf(notes, way) }));
  return (entry, templateId) => {
    const gives = ways.filter(({ sorted }) => sorted(entry).templates.some(({ id }) => id === templateId));
    const given = new Set(gives.flatMap((way) => way.notes(entry)));
    return notes.filter((note) => given.has(note));
  };
}

/** Gives the templates that are asked for, in their order, with variants in the place of those for whom they stand in. */
function wordedFor<T extends GivenTemplate>(
  templates: readonly T[],
): (entry: Entry, given: ReadonlySet<string>, named: boolean) => readonly T[] {
  const plain = new Set(templates.filter(({ content }) => !content.variant).map(({ id }) => id));
  const standsIn = ({ content: { variant } }: T): boolean => variant !== undefined && plain.has(variant.of);
  const variants = templates.filter(standsIn);
  const first = templates.filter((one) => !standsIn(one));
  const simple = variants.length === 0 && first.length === plain.size;
  return (entry, given, named) => {
    if (simple) return named ? templates.filter(({ id }) => given.has(id)) : templates;
    return first.flatMap((one): T[] => {
      const { variant } = one.content;
      if (!given.has(one.id)) return [];
      if (variant) return isFor(variant, entry) ? [one] : [];
      const other = variants.find(
        ({ content }) => content.variant!.of === one.id && isFor(content.variant!, entry),
      );
      return [other ?? one];
    });
  };
}

/** Whether an entry gets a paper of a template, by what it says; for what is asked of each of some templates. */
export function getsOf<T extends GivenTemplate>(
  templates: readonly T[],
  by?: SortedBy,
): (content: T['content'], entry: Entry) => boolean {
  const sorted = sorterOf(templates, by);
  const rules = by?.sorting.rules ?? [];
  if (rules.length === 0 && templates.every(({ content }) => !content.variant)) return () => true;
  return (content, entry) => sorted(entry).templates.some((one) => one.content === content);
}

/**
 * The ways of sorting under which a paper that there is may have been made: rules may ask for those that are new, and who got a
 * paper is new no longer. A paper stands for its entry as long as one of them gives it.
 */
export function waysOf(by: SortedBy): SortedBy[] {
  return asksPapersIn(by.sorting) ? ALL_MADE.map((made) => ({ ...by, made: () => made })) : [by];
}

/** True where a rule asks what was made for an entry before. */
const asksPapersIn = ({ rules }: Sorting): boolean =>
  rules.some((rule) => rule.if !== null && asksPapers(rule.if));

/** The identities of the templates that an entry may have papers of, in one way or another (see `waysOf`). */
export function possibleOf(templates: readonly GivenTemplate[], by: SortedBy): (entry: Entry) => Set<string> {
  const sorters = waysOf(by).map((way) => sorterOf(templates, way));
  return (entry) => new Set(sorters.flatMap((sorted) => sorted(entry).templates.map(({ id }) => id)));
}
