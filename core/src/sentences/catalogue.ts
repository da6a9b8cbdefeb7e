import { ENGLISH } from './english/index.js';
import type { Say, Saying, Sentence } from './saying.js';

/** The codes of all that core says to people. */
export type Code = keyof typeof ENGLISH;

/** What a sentence is made from, by its code. */
export type ParametersOf<C extends Code> =
  Parameters<(typeof ENGLISH)[C]> extends [] ? Record<never, never> : Parameters<(typeof ENGLISH)[C]>[0];

/** The sentences of one language. */
export type Catalogue = { readonly [C in Code]: (parameters: ParametersOf<C>, say: Say) => string };

/** What is given after a code: nothing where its sentence is made from nothing. */
export type Given<C extends Code> = keyof ParametersOf<C> extends never
  ? [parameters?: ParametersOf<C>]
  : [parameters: ParametersOf<C>];

/** Something to be said, not yet in a language. */
export const saying = <C extends Code>(code: C, ...[parameters]: Given<C>): Saying => ({
  code,
  parameters: (parameters ?? NOTHING) as Saying['parameters'],
});

const NOTHING: Saying['parameters'] = {};

/** A saying in words. One that the catalogue does not know, as from a newer version, is told by its code. */
export function say({ code, parameters }: Saying, catalogue: Catalogue = ENGLISH): string {
  const sentence = (catalogue as Readonly<Record<string, Sentence>>)[code];
  return sentence ? sentence(parameters as never, (inner) => say(inner, catalogue)) : code;
}

export const sameSaying = (a: Saying | undefined, b: Saying | undefined): boolean =>
  a === b || (a?.code === b?.code && JSON.stringify(a?.parameters) === JSON.stringify(b?.parameters));

/** Said at once, where nothing but the words is wanted. */
export const phrase = <C extends Code>(code: C, ...given: Given<C>): string => say(saying(code, ...given));
