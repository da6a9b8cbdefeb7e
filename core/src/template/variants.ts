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
