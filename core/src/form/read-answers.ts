import { isPhone, readAddress } from '../column/index.js';
import { isOnePicture } from './columns.js';
import type { Form, FormItem, TextRule } from './form.js';
import { allGiven, columnIdsOf, oneGiven, OTHER, type Given } from './given.js';
import { FORM_LIMITS } from './limits.js';
import { cellsOf, shownItems, type Between } from './pages.js';

/** Characters of a text on one line, where the question says nothing. */
const SHORT_MOST = 1000;

/** What is wrong with an answer: a code with what its sentence is made from (`problemSays`). */
export interface AnswerProblem {
  readonly itemId: string;
  /** The column in question, where an item has several. */
  readonly columnId: string;
  readonly code: ProblemCode;
  /** A number of signs, choices or files, a day, a time or words, as the code wants it. */
  readonly limit?: string;
}
export type ProblemCode =
  | 'missing'
  | 'agree'
  | 'too-short'
  | 'too-long'
  | 'only-digits'
  | 'only-letters'
  | 'only-letters-digits'
  | 'only-capitals-digits'
  | 'begins'
  | 'ends'
  | 'contains'
  | 'no-number'
  | 'no-whole'
  | 'under'
  | 'over'
  | 'no-day'
  | 'day-early'
  | 'day-late'
  | 'no-time'
  | 'time-early'
  | 'time-late'
  | 'no-choice'
  | 'too-few'
  | 'too-many'
  | 'no-email'
  | 'no-phone'
  | 'too-many-files'
  | 'file-gone'
  | 'answered-before';

/** Answers as they were read. */
export interface ReadAnswers {
  /** The cells, by column. Files stand as a tick; whoever has them puts their names there. */
  readonly values: Record<string, string>;
  /** Identities of what was brought along, by column. */
  readonly files: Record<string, readonly string[]>;
  readonly problems: readonly AnswerProblem[];
}

/**
 * Reads the answers to the questions that were asked; what was given to others is passed over.
 *
 * @param between what stands between several answers in columns that the roll had before.
 */
export function readAnswers(
  form: Pick<Form, 'items' | 'languages'>,
  given: Given,
  between?: Between,
): ReadAnswers {
  const values: Record<string, string> = {};
  const files: Record<string, readonly string[]> = {};
  const problems: AnswerProblem[] = [];
  for (const item of shownItems(form, given)) {
    Object.assign(values, cellsOf(item, given, form.languages[0]!, between));
    if (item.kind === 'file' || item.kind === 'signature')
      for (const id of columnIdsOf(item)) files[id] = allGiven(given, id);
    problems.push(...problemsOf(item, given));
  }
  return { values, files, problems };
}

/** What is wrong with the answers to one item; nothing for what is not asked. */
export function problemsOf(item: FormItem, given: Given): AnswerProblem[] {
  return columnIdsOf(item).flatMap((columnId) => {
    const found = problemOf(item, given, columnId);
    if (!found) return [];
    const [code, limit] = typeof found === 'string' ? [found] : found;
    return [{ itemId: item.id, columnId, code, ...(limit === undefined ? {} : { limit: String(limit) }) }];
  });
}

type Found = ProblemCode | readonly [ProblemCode, string | number] | null;

function problemOf(item: FormItem, given: Given, columnId: string): Found {
  const all = allGiven(given, columnId).filter((one) => one.trim() !== '' && one !== OTHER);
  const [first = ''] = all;
  const one = first.trim();
  // A part of a name may be blank: many people have one name alone.
  const blank =
    item.kind === 'name'
      ? !oneGiven(given, item.givenId).trim() && !oneGiven(given, item.familyId).trim()
      : one === '';
  if (item.kind === 'consent') return 'required' in item && item.required && one !== 'yes' ? 'agree' : null;
  if (blank) return 'required' in item && item.required ? 'missing' : null;
  switch (item.kind) {
    case 'short':
    case 'long':
      return textProblem(item, one);
    case 'hidden':
      return lengthOf(one) > 2000 ? ['too-long', 2000] : null;
    case 'name':
      return lengthOf(one) > 200 ? ['too-long', 200] : null;
    case 'number':
      return numberProblem(item, one);
    case 'scale':
      return /^\d{1,2}$/.test(one) && Number(one) >= item.from && Number(one) <= item.to ? null : 'no-choice';
    case 'date':
      return dayProblem(item, one);
    case 'time':
      if (!/^([01]\d|2[0-3]):[0-5]\d$/.test(one)) return 'no-time';
      if (item.first && one < item.first) return ['time-early', item.first];
      return item.last && one > item.last ? ['time-late', item.last] : null;
    case 'email':
      return readAddress(one).kind === 'address' ? null : 'no-email';
    case 'phone':
      return isPhone(one) ? null : 'no-phone';
    case 'one':
    case 'several':
    case 'grid':
      return choiceProblem(item, all);
    case 'file':
    case 'signature': {
      const most = isOnePicture(item) || item.kind === 'signature' ? 1 : item.most;
      return all.length > most ? ['too-many-files', most] : null;
    }
    default:
      return null;
  }
}

/** Characters as people count them: not halves of one (Unicode code points). */
const lengthOf = (text: string): number => [...text].length;

function textProblem(item: Extract<FormItem, { kind: 'short' | 'long' }>, text: string): Found {
  const most = item.most ?? (item.kind === 'short' ? SHORT_MOST : FORM_LIMITS.text);
  if (text.length > most && lengthOf(text) > most) return ['too-long', most];
  if (item.least !== undefined && lengthOf(text) < item.least) return ['too-short', item.least];
  return item.rule && !keeps(item.rule, text) ? BROKEN(item.rule) : null;
}

const ONLY = {
  digits: /^\p{Nd}+$/u,
  letters: /^[\p{L}\p{M}\s'’.-]+$/u,
  'letters and digits': /^[\p{L}\p{M}\p{Nd}]+$/u,
  'capitals and digits': /^[\p{Lu}\p{Nd}]+$/u,
} as const;

function keeps(rule: TextRule, text: string): boolean {
  if (rule.is === 'only') return ONLY[rule.of].test(text);
  const [where, words] = [text.toLowerCase(), rule.text.toLowerCase()];
  if (rule.is === 'begins with') return where.startsWith(words);
  return rule.is === 'ends with' ? where.endsWith(words) : where.includes(words);
}

const BROKEN = (rule: TextRule): Found => {
  if (rule.is !== 'only')
    return [
      ({ 'begins with': 'begins', 'ends with': 'ends', contains: 'contains' } as const)[rule.is],
      rule.text,
    ];
  return (
    {
      digits: 'only-digits',
      letters: 'only-letters',
      'letters and digits': 'only-letters-digits',
      'capitals and digits': 'only-capitals-digits',
    } as const
  )[rule.of];
};

function numberProblem(item: Extract<FormItem, { kind: 'number' }>, text: string): Found {
  if (!/^-?\d{1,15}(\.\d{1,9})?$/.test(text)) return 'no-number';
  if (item.whole && /\.\d*[1-9]/.test(text)) return 'no-whole';
  if (item.least !== undefined && Number(text) < Number(item.least)) return ['under', item.least];
  return item.most !== undefined && Number(text) > Number(item.most) ? ['over', item.most] : null;
}

function dayProblem(item: Extract<FormItem, { kind: 'date' }>, text: string): Found {
  const [day = '', time] = text.split('T');
  const parsed = /^\d{4}-\d{2}-\d{2}$/.test(day) ? new Date(`${day}T00:00:00Z`) : null;
  // 30 February is the second of March to a clock.
  const isDay = parsed !== null && !Number.isNaN(parsed.getTime()) && parsed.toISOString().startsWith(day);
  const isTime = item.withTime ? /^([01]\d|2[0-3]):[0-5]\d$/.test(time ?? '') : time === undefined;
  if (!isDay || !isTime) return 'no-day';
  if (item.first && day < item.first) return ['day-early', item.first];
  return item.last && day > item.last ? ['day-late', item.last] : null;
}

function choiceProblem(
  item: Extract<FormItem, { kind: 'one' | 'several' | 'grid' }>,
  all: readonly string[],
): Found {
  const known = new Set(item.choices.map(({ id }) => id));
  const other = item.kind !== 'grid' && item.other;
  for (const one of all) {
    if (one.startsWith(OTHER) && other) {
      if (lengthOf(one) > 500 + OTHER.length) return ['too-long', 500];
    } else if (!known.has(one)) return 'no-choice';
  }
  const several = item.kind === 'several' || (item.kind === 'grid' && item.several);
  if (new Set(all).size < all.length || all.filter((one) => one.startsWith(OTHER)).length > 1)
    return 'no-choice';
  if (!several && all.length > 1) return 'no-choice';
  if (item.kind !== 'several') return null;
  if (item.least !== undefined && all.length < item.least) return ['too-few', item.least];
  return item.most !== undefined && all.length > item.most ? ['too-many', item.most] : null;
}
