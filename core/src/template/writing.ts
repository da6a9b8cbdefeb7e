import { z } from 'zod';
import { Form } from '../form/index.js';
import type { Field } from './field.js';
import { Exception } from './exception.js';
import { CoverNote } from './cover-note.js';
import { Filing, Letter } from './letter.js';
import { Placed, type PlacedBox } from './placed.js';
import { Sorting } from './sorting.js';
import type { Template } from './template.js';

/** What people write in a folio, by kind. */
export const WRITING_CONTENTS = {
  letter: Letter,
  placed: Placed,
  note: CoverNote,
  filing: Filing,
  sorting: Sorting,
  exception: Exception,
  form: Form,
} as const;

export const WritingKind = z.enum(['letter', 'placed', 'note', 'filing', 'sorting', 'exception', 'form']);
export type WritingKind = z.infer<typeof WritingKind>;
export interface WritingContents {
  letter: Letter;
  placed: Placed;
  note: CoverNote;
  filing: Filing;
  sorting: Sorting;
  exception: Exception;
  form: Form;
}
export type WritingContent = WritingContents[WritingKind];

/** What a writing is called until people call it something else. */
export const WRITING_NAMES: Readonly<Record<WritingKind, string>> = {
  letter: 'Letter',
  placed: 'Certificate',
  note: 'Cover note',
  filing: 'File names',
  sorting: 'Sorting',
  exception: 'Exception',
  form: 'Form',
};

/**
 * One thing that people write in a folio. Its version goes up with each save; `place` is its order among the others of
 * its kind.
 */
export type Writing = {
  [Kind in WritingKind]: {
    readonly id: string;
    readonly kind: Kind;
    readonly name: string;
    readonly place: number;
    readonly version: number;
    readonly content: WritingContents[Kind];
  };
}[WritingKind];

/** The writings of one kind, in their order. */
export const writingsOf = <T extends Writing, Kind extends WritingKind>(
  writings: readonly T[],
  kind: Kind,
): Extract<T, { kind: Kind }>[] =>
  writings
    .filter((one): one is Extract<T, { kind: Kind }> => one.kind === kind)
    .sort((a, b) => a.place - b.place);

/** A writing that papers are made from. */
export type TemplateWriting = Extract<Writing, { content: Template }>;

/** True for kinds that papers are made from. They share one order. */
export const isTemplateKind = (kind: WritingKind): kind is TemplateWriting['kind'] =>
  kind === 'letter' || kind === 'placed';

/** Letters and placed templates in their order, those that are off too. */
export const allTemplatesOf = <T extends Writing>(
  writings: readonly T[],
): Extract<T, { kind: TemplateWriting['kind'] }>[] =>
  writings
    .filter((one): one is Extract<T, { kind: TemplateWriting['kind'] }> => isTemplateKind(one.kind))
    .sort((a, b) => a.place - b.place || (a.kind === b.kind ? 0 : a.kind === 'letter' ? -1 : 1));

/** The templates that papers are made from now, in their order: those that are on. `sorterOf` says who gets which. */
export const templatesOf = (writings: readonly Writing[]): TemplateWriting[] =>
  allTemplatesOf(writings).filter(({ content }) => !content.off);

/** Both people's changes to a writing, or null where they changed the same part of it. */
export function mergeContents<T extends WritingContent>(base: T, mine: T, theirs: T): T | null {
  const merged: Record<string, unknown> = {};
  const [b, m, t] = [base, mine, theirs] as unknown as Record<string, unknown>[];
  for (const part of new Set([...Object.keys(t!), ...Object.keys(m!)])) {
    if (same(m![part], b![part])) merged[part] = t![part];
    else if (same(t![part], b![part]) || same(m![part], t![part])) merged[part] = m![part];
    else if (part === 'boxes') {
      // Numbers of pages mean others where one of the two put a page in or took one out.
      if (!same(b!['pages'], m!['pages']) || !same(b!['pages'], t!['pages'])) return null;
      const boxes = mergeBoxes(b![part] as PlacedBox[], m![part] as PlacedBox[], t![part] as PlacedBox[]);
      if (!boxes) return null;
      merged[part] = boxes;
    } else if (part === 'behind' && b![part] && m![part] && t![part]) {
      const behind = mergeContents(...([b, m, t].map((one) => one![part]) as [T, T, T]));
      if (!behind) return null;
      merged[part] = behind;
    } else if (part !== 'fields') return null;
    else {
      const fields = mergeFields(b![part] as Field[], m![part] as Field[], t![part] as Field[]);
      if (!fields) return null;
      merged[part] = fields;
    }
  }
  return merged as unknown as T;
}

/**
 * Boxes that only one of the two changed, put in or took away are as that one has them; one that both changed is nobody's to
 * decide. The order is theirs; what is mine alone comes last.
 */
function mergeBoxes(
  base: readonly PlacedBox[],
  mine: readonly PlacedBox[],
  theirs: readonly PlacedBox[],
): PlacedBox[] | null {
  const byId = (boxes: readonly PlacedBox[]): Map<string, PlacedBox> =>
    new Map(boxes.map((box) => [box.id, box]));
  const [before, own, their] = [base, mine, theirs].map(byId) as [
    Map<string, PlacedBox>,
    Map<string, PlacedBox>,
    Map<string, PlacedBox>,
  ];
  const merged: PlacedBox[] = [];
  for (const id of new Set([...their.keys(), ...own.keys()])) {
    const [old, my, one] = [before.get(id), own.get(id), their.get(id)];
    const taken = same(my, old) ? one : same(one, old) || same(my, one) ? my : null;
    if (taken === null) return null;
    if (taken) merged.push(taken);
  }
  return merged;
}

/** Fields that one of the two added stay; one that both matched, each to another column, is nobody's to decide. */
function mergeFields(
  base: readonly Field[],
  mine: readonly Field[],
  theirs: readonly Field[],
): Field[] | null {
  const [before, own] = [base, mine].map((fields) => new Map(fields.map((field) => [field.id, field])));
  const known = new Set(theirs.map(({ id }) => id));
  const fields: Field[] = [];
  for (const their of theirs) {
    const [old, my] = [before!.get(their.id), own!.get(their.id)];
    if (!my || same(my, old) || same(my, their)) fields.push(their);
    else if (same(their, old)) fields.push(my);
    else return null;
  }
  // A field that stands nowhere does no harm; one that is missing does.
  return [...fields, ...mine.filter(({ id }) => !known.has(id))];
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
