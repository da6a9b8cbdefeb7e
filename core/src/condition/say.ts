import type { Column } from '../column/index.js';
import type { CellTest, Comparison, Condition } from './condition.js';

/** What a test says of a cell, and what it would say if it were the other way round. Values follow. */
const WORDS: Readonly<Record<Comparison, readonly [held: string, failed: string]>> = {
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
};

/** What a test says, to stand after the column's title: `is at least 70`; or what stands where it fails. */
export function say({ is, values }: CellTest, held = true): string {
  const [words, otherwise] = WORDS[is];
  const type = is === 'between' || is === 'none of' ? 'conjunction' : 'disjunction';
  return [held ? words : otherwise, joined(values.map(quoted), type)].filter(Boolean).join(' ');
}

/** Numbers and days as they are, texts in quotation marks. */
const quoted = (value: string): string => (/^[-\d][\d.:T-]*$/.test(value) ? value : `“${value}”`);

/** What a cell is, for a verdict. */
export const sayCell = ({ title }: Column, text: string): string =>
  text === '' ? `${title} is blank` : `${title} is ${text.length > 60 ? `${text.slice(0, 60)}…` : text}`;

/** A condition as a sentence without its full stop: `Mark is at least 70 and Class is “8A”`. */
export function sentence(condition: Condition, columns: readonly Column[]): string {
  if ('columnId' in condition) {
    const title = columns.find(({ id }) => id === condition.columnId)?.title ?? 'a column that is gone';
    return `${title} ${say(condition)}`;
  }
  if ('not' in condition) return `it is not so that ${bracketed(condition.not, columns)}`;
  const parts = 'all' in condition ? condition.all : condition.any;
  const said = parts.map((part) => bracketed(part, columns));
  if ('all' in condition) return joined(said) || 'everybody';
  return joined(said, 'disjunction') || 'nobody';
}

/** Several parts within another one stand in brackets. */
function bracketed(condition: Condition, columns: readonly Column[]): string {
  const parts = 'all' in condition ? condition.all : 'any' in condition ? condition.any : [];
  const said = sentence(condition, columns);
  return parts.length > 1 ? `(${said})` : said;
}

export const joined = (
  parts: readonly string[],
  type: 'conjunction' | 'disjunction' = 'conjunction',
): string => new Intl.ListFormat('en-GB', { type }).format(parts);
