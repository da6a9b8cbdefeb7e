/** What a sentence is made from: texts, numbers, lists of them, and other sayings, as JSON. */
export type Parameter =
  | string
  | number
  | boolean
  | null
  | readonly Parameter[]
  | { readonly [name: string]: Parameter | undefined };

/** Something that is said to people, apart from the language it is said in: a code of the catalogue, and what fills it. */
export interface Saying {
  readonly code: string;
  readonly parameters: Readonly<Record<string, Parameter | undefined>>;
}

/** Says a saying that stands in another one, in the same language. */
export type Say = (saying: Saying) => string;

/** A sentence, or a part of one, of a catalogue. */
export type Sentence = (parameters: never, say: Say) => string;
