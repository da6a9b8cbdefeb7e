import { z } from 'zod';
import { Identity } from '../column/index.js';
import { plainKey, valueOf, type Entry } from '../roll/index.js';

/** For whom a letter stands in for another one, such as the same letter in another language. */
export const Variant = z.object({
  /** The letter that the others get. */
  of: Identity,
  /** The column that says it, such as the language of the home; null while none is chosen. */
  columnId: Identity.nullable(),
  /** The column's title when it was chosen. */
  name: z.string().max(1000),
  /** What its cell says for those who get this one; capitals do not matter. */
  says: z.array(z.string().max(200)).max(30),
});
export type Variant = z.infer<typeof Variant>;

/** A template as far as it matters who gets it. */
export interface GivenTemplate {
  readonly id: string;
  readonly content: { readonly variant?: Variant | undefined };
}

/** True where a variant is the one for an entry. */
export const isFor = ({ columnId, says }: Variant, entry: Entry): boolean => {
  const cell = plainKey(valueOf(entry, columnId));
  return cell !== '' && says.some((one) => plainKey(one) === cell);
};

/**
 * Says which of some templates an entry's papers are made from, in their order: everybody gets each, but where a variant of
 * it is for the entry that one, the first of several. A variant of a letter that is not among them goes to those alone whom
 * it is for.
 */
export function sorterOf<T extends GivenTemplate>(templates: readonly T[]): (entry: Entry) => T[] {
  const plain = new Set(templates.filter(({ content }) => !content.variant).map(({ id }) => id));
  const isPlaced = ({ content: { variant } }: T): boolean => variant !== undefined && plain.has(variant.of);
  const variants = templates.filter(isPlaced);
  const first = templates.filter((one) => !isPlaced(one));
  if (variants.length === 0 && first.length === plain.size) return () => [...templates];
  return (entry) =>
    first.flatMap((one): T[] => {
      const { variant } = one.content;
      if (variant) return isFor(variant, entry) ? [one] : [];
      const other = variants.find(
        ({ content }) => content.variant!.of === one.id && isFor(content.variant!, entry),
      );
      return [other ?? one];
    });
}

/** Whether an entry gets a paper of a template, by what it says; for what is asked of each of some templates. */
export function getsOf<T extends GivenTemplate>(
  templates: readonly T[],
): (content: T['content'], entry: Entry) => boolean {
  const sorted = sorterOf(templates);
  if (templates.every(({ content }) => !content.variant)) return () => true;
  return (content, entry) => sorted(entry).some((one) => one.content === content);
}
