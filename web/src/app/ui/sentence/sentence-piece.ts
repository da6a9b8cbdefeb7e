/** One of the things that can stand in a part of a sentence. */
export interface SentenceOption {
  readonly value: string;
  readonly label: string;
  /** An example, or what it does, in a few words. */
  readonly hint?: string;
}

/** A part of a sentence that people change in place. */
export interface SentencePart {
  /** Unique in its sentence. */
  readonly id: string;
  /** What the part says, for those who hear it: `the column`, `what stands between`. */
  readonly label: string;
  /** As it stands in the sentence. */
  readonly text: string;
  /** The option that it is now, or the text that was typed. */
  readonly value: string;
  readonly options: readonly SentenceOption[];
  /** What a text that is typed here is, where it need not be an option: `these words`. */
  readonly typed?: string;
  /** Something is missing here, or something can be put in. */
  readonly look?: 'missing' | 'add';
}

/** A sentence: fixed words and parts, in their order; `\n` begins a new line. */
export type SentencePiece = string | SentencePart;

/** What was chosen or typed for a part. */
export interface SentenceChange {
  readonly id: string;
  readonly value: string;
}

/** The options that agree with what is typed, those that begin with it first. */
export function optionsFor({ options }: Pick<SentencePart, 'options'>, typed: string): SentenceOption[] {
  const wanted = plain(typed);
  if (wanted === '') return [...options];
  const found = options
    .map((option) => ({ option, at: plain(option.label).indexOf(wanted) }))
    .filter(({ at }) => at >= 0);
  return found.sort((a, b) => Number(a.at > 0) - Number(b.at > 0)).map(({ option }) => option);
}

const plain = (text: string): string =>
  text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();
