import { splitLetters } from '../letters.js';
import type { Remark, RemarkColumn } from '../../column/index.js';
import { ratio, type Ratio } from '../../ratio/index.js';
import type { WordForms } from './pronouns.js';

/** A learner who gets a remark. */
export interface RemarkSeeker {
  /** Entry identity; says which of several remarks it is. */
  readonly id: string;
  /** Null where there is no mark: no remark then. */
  readonly mark: Ratio | null;
  /** Neighbours in one class get different remarks. */
  readonly className: string;
}

/** The remarks of the bank that a column may use at all. */
export function remarksFor(
  column: Pick<RemarkColumn, 'subject' | 'tone' | 'language'>,
  bank: readonly Remark[],
): Remark[] {
  const fits = (asked: string, has: string): boolean =>
    has.trim() === '' || asked.trim() === '' || has.trim().toLowerCase() === asked.trim().toLowerCase();
  const subject = (remark: Remark): boolean =>
    remark.subject.trim() === '' ||
    remark.subject.trim().toLowerCase() === column.subject.trim().toLowerCase();
  return bank.filter(
    (remark) => subject(remark) && fits(column.tone, remark.tone) && fits(column.language, remark.language),
  );
}

/** True where the mark lies within the remark's range, ends included. */
export const fitsMark = ({ from, to }: Remark, mark: Ratio): boolean =>
  (from === null || mark.compare(ratio(from)) >= 0) && (to === null || mark.compare(ratio(to)) <= 0);

/**
 * Chooses a remark for each learner, in their order: the identity says which of those that fit the mark, so that a choice
 * stays as it is while other marks change; where it is the remark of the neighbour in the class, the next one that fits.
 *
 * @returns null for a learner without a mark, or whose mark no remark fits.
 */
export function chooseRemarks(
  remarks: readonly Remark[],
  seekers: readonly RemarkSeeker[],
): (Remark | null)[] {
  const lastOf = new Map<string, Remark | null>();
  return seekers.map(({ id, mark, className }) => {
    const fitting = mark === null ? [] : remarks.filter((remark) => fitsMark(remark, mark));
    let chosen = fitting.length === 0 ? null : fitting[hash(id) % fitting.length]!;
    if (chosen && fitting.length > 1 && chosen === lastOf.get(className))
      chosen = fitting[(fitting.indexOf(chosen) + 1) % fitting.length]!;
    lastOf.set(className, chosen);
    return chosen;
  });
}

/** FNV-1a, 32 bits (G. Fowler, L. C. Noll, K.-P. Vo). */
function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let n = 0; n < text.length; n++) value = Math.imul(value ^ text.charCodeAt(n), 0x01000193) >>> 0;
  return value;
}

/**
 * The remark as it is printed: words put in, a capital where a word begins a sentence, and verbs that agree with the name or
 * the pronoun that was said last before them. Other words before a verb, such as “their work”, are for the author to mind.
 */
export function writeRemark(remark: Remark, forms: WordForms): string {
  let written = '';
  let ofName = false;
  for (const part of remark.parts) {
    if ('text' in part) written += part.text;
    else {
      if (part.word === 'name' || part.word === 'they') ofName = part.word === 'name';
      const word =
        ofName && part.word in forms.ofName
          ? forms.ofName[part.word as keyof typeof forms.ofName]
          : forms[part.word];
      written += /(?:^|[.!?…]["’”)]?\s+)$/.test(written) ? capital(word) : word;
    }
  }
  return written.trim();
}

const capital = (word: string): string =>
  word === '' ? '' : word.charAt(0).toLocaleUpperCase('en') + word.slice(1);

/** The remark's length as people count letters (Unicode extended grapheme clusters, UAX #29). */
export const lettersOf = (text: string): number => splitLetters(text).length;
