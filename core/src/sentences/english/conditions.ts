import type { Say, Saying } from '../saying.js';
import { listed } from './grammar.js';

/** What a test says of a cell, and what it would say if it were the other way round. Values follow. */
const TESTS = {
  blank: ['is blank', 'is not blank'],
  'not blank': ['is filled in', 'is not filled in'],
  equal: ['is', 'is not'],
  unequal: ['is not', 'is'],
  under: ['is under', 'is not under'],
  'at most': ['is at most', 'is not at most'],
  over: ['is over', 'is not over'],
  'at least': ['is at least', 'is not at least'],
  between: ['is between', 'is not between'],
  'one of': ['is one of', 'is none of'],
  'none of': ['is none of', 'is one of'],
  contains: ['contains', 'does not contain'],
  'contains not': ['does not contain', 'contains'],
  'begins with': ['begins with', 'does not begin with'],
  true: ['is yes', 'is not yes'],
  false: ['is no', 'is not no'],
} as const;

export interface Test {
  readonly is: keyof typeof TESTS;
  readonly values: readonly string[];
}

function tested({ is, values }: Test, held: boolean): string {
  const words = TESTS[is][held ? 0 : 1];
  const last = is === 'between' || is === 'none of' ? 'and' : 'or';
  return [words, listed(values.map(worth), Infinity, last)].filter(Boolean).join(' ');
}

/** Numbers and days as they are, texts in quotation marks. */
const worth = (value: string): string => (/^[-\d][\d.:T-]*$/.test(value) ? value : `“${value}”`);

export interface Parts {
  readonly parts: readonly { readonly saying: Saying; readonly several: boolean }[];
}

/** Several parts within another one stand in brackets. */
const bracketed = ({ parts }: Parts, say: Say): string[] =>
  parts.map(({ saying, several }) => (several ? `(${say(saying)})` : say(saying)));

/** Conditions, and why they hold or do not, as sentences without their full stop. */
export const conditions = {
  'cell-is': ({ title, ...test }: Test & { title: string | null }) =>
    `${title ?? 'a column that is gone'} ${tested(test, true)}`,
  'papers-are': ({ papers }: { papers: 'new' | 'not new' | 'changed' | 'not changed' }) =>
    ({
      new: 'the learner is new',
      'not new': 'the learner is not new',
      changed: 'something changed since the last paper',
      'not changed': 'nothing changed since the last paper',
    })[papers],
  'not-so': (condition: Parts, say: Say) => `it is not so that ${bracketed(condition, say).join('')}`,
  'all-of': (condition: Parts, say: Say) => listed(bracketed(condition, say)) || 'everybody',
  'any-of': (condition: Parts, say: Say) => listed(bracketed(condition, say), Infinity, 'or') || 'nobody',

  'because-all': ({ why }: { why: readonly Saying[] }, say: Say) =>
    listed(why.map(say)) || 'it holds for everybody',
  'because-none': ({ why }: { why: readonly Saying[] }, say: Say) =>
    listed(why.map(say)) || 'it holds for nobody',
  'because-papers': ({ papers }: { papers: 'new' | 'changed' | 'not changed' }) =>
    ({
      new: 'no paper was made before',
      changed: 'something changed since the last paper',
      'not changed': 'there is a paper, and nothing changed since',
    })[papers],
  'because-gone': () => 'a column that it looks at is gone',
  'because-cell': ({ title, text, fails }: { title: string; text: string; fails: Test | null }) =>
    `${title} is ${text === '' ? 'blank' : text}${fails ? `, which ${tested(fails, false)}` : ''}`,
};
