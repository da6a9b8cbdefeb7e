import { REMARK_WORDS, type RemarkWord } from '../../column/index.js';

/** What each changing word of a remark becomes for one learner. */
export type WordForms = Readonly<Record<RemarkWord, string>> & {
  /** The verbs where the name is what they are said of, which is one person whatever the pronouns. */
  readonly ofName: Readonly<typeof SINGULAR_VERBS>;
};

const PLURAL_VERBS = { are: 'are', were: 'were', have: 'have', do: 'do', s: '', es: '' };
const SINGULAR_VERBS = { are: 'is', were: 'was', have: 'has', do: 'does', s: 's', es: 'es' };

const SETS: Readonly<Record<string, readonly [string, string, string, string, string]>> = {
  they: ['they', 'them', 'their', 'theirs', 'themself'],
  she: ['she', 'her', 'her', 'hers', 'herself'],
  he: ['he', 'him', 'his', 'his', 'himself'],
  it: ['it', 'it', 'its', 'its', 'itself'],
};

/**
 * The forms for a learner whose pronouns are written `she/her`, `they`, `he/him/his` or, with all five forms,
 * `xe/xem/xyr/xyrs/xemself`. Verbs agree: they are, she is, and Sam is, whatever Sam's pronouns. A blank cell avoids pronouns: the name stands for them.
 *
 * @returns null where the cell names no pronouns that are known.
 */
export function wordForms(name: string, pronouns: string): WordForms | null {
  const parts = pronouns
    .trim()
    .toLowerCase()
    .split(/\s*[/,]\s*/)
    .filter(Boolean);
  if (parts.length === 0) return withoutPronouns(name);
  const known = SETS[parts[0]!];
  if (known) return formsOf(name, known, parts[0] === 'they' ? PLURAL_VERBS : SINGULAR_VERBS);
  if (parts.length === 5) return formsOf(name, parts as unknown as typeof known & object, SINGULAR_VERBS);
  return null;
}

/** The name in the place of each pronoun. */
export function withoutPronouns(name: string): WordForms {
  const own = `${name}’s`;
  return formsOf(name, [name, name, own, own, name], SINGULAR_VERBS);
}

const formsOf = (
  name: string,
  [they, them, their, theirs, themself]: readonly string[] & { 0: string },
  verbs: typeof PLURAL_VERBS,
): WordForms => ({
  name,
  they,
  them: them!,
  their: their!,
  theirs: theirs!,
  themself: themself!,
  ...verbs,
  ofName: SINGULAR_VERBS,
});

/** How the words are called where a remark is written. */
export const WORD_LABELS: Readonly<Record<RemarkWord, string>> = {
  name: 'name',
  they: 'they / she / he',
  them: 'them / her / him',
  their: 'their / her / his',
  theirs: 'theirs / hers / his',
  themself: 'themself / herself / himself',
  are: 'are / is',
  were: 'were / was',
  have: 'have / has',
  do: 'do / does',
  s: '– / s',
  es: '– / es',
};

export const isRemarkWord = (text: string): text is RemarkWord =>
  (REMARK_WORDS as readonly string[]).includes(text);
