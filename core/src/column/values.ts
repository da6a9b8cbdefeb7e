import { saying, type Code, type Given, type Saying } from '../sentences/index.js';
import { readAddresses } from './address.js';
import type { ColumnFormat, ColumnType } from './column-type.js';
import { readMoment } from './dates.js';
import { readExact, type Exact } from './exact.js';
import { readNumber, readPercentage } from './numbers.js';

/** What a cell means under its column's type. */
export type Value =
  | { readonly kind: 'blank' }
  | { readonly kind: 'text'; readonly text: string }
  /** `decimal` in plain decimal notation; a percentage is percent of 100. */
  | { readonly kind: 'number'; readonly decimal: string }
  /** ISO 8601, with a time where the type has one. */
  | { readonly kind: 'date'; readonly iso: string }
  | { readonly kind: 'truth'; readonly truth: boolean }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  /** The text is none of its type; `reason` ends the sentence “… because”. */
  | { readonly kind: 'wrong'; readonly reason: Saying };

/** Pairs of words that say yes and no. */
const YES = new Set([
  'yes',
  'y',
  'true',
  'ja',
  'oui',
  'sí',
  'si',
  'sim',
  'tak',
  'ano',
  'ie',
  '1',
  '✓',
  '✔',
  'x',
  '是',
  'はい',
  'نعم',
]);
const NO = new Set([
  'no',
  'n',
  'false',
  'nein',
  'non',
  'nee',
  'não',
  'nie',
  'ne',
  'nage',
  '0',
  '✗',
  '✘',
  '-',
  '否',
  'いいえ',
  'لا',
]);

/** Reads a cell under a column's type. `exact` is what a workbook knows beyond the text. */
export function readValue(
  column: { readonly type?: ColumnType | undefined; readonly format?: ColumnFormat | undefined },
  text: string,
  exact?: Exact,
): Value {
  const trimmed = text.trim();
  const known = exact === undefined ? undefined : readExact(exact);
  if (trimmed === '') {
    return known?.kind === 'e' ? wrong('source-error', { error: known.value }) : { kind: 'blank' };
  }
  switch (column.type ?? 'text') {
    case 'number': {
      if (known && (known.kind === 'n' || known.kind === 'p'))
        return { kind: 'number', decimal: known.value };
      const decimal = readNumber(trimmed, column.format?.decimal);
      return decimal === null ? wrong('not-number') : { kind: 'number', decimal };
    }
    case 'percentage': {
      if (known?.kind === 'p') return { kind: 'number', decimal: known.value };
      const decimal = readPercentage(trimmed, column.format?.decimal);
      return decimal === null ? wrong('not-percentage') : { kind: 'number', decimal };
    }
    case 'date':
    case 'date-time': {
      const iso =
        known?.kind === 'd' || known?.kind === 't'
          ? known.value
          : readMoment(trimmed, column.format?.dateOrder)?.iso;
      if (!iso) return wrong('not-date');
      return { kind: 'date', iso: column.type === 'date' ? iso.slice(0, 10) : iso };
    }
    case 'yes/no': {
      const word = trimmed.toLowerCase();
      if (known?.kind === 'b') return { kind: 'truth', truth: known.value === 'true' };
      if (YES.has(word)) return { kind: 'truth', truth: true };
      return NO.has(word) ? { kind: 'truth', truth: false } : wrong('not-truth');
    }
    case 'several choices':
      return { kind: 'list', items: splitChoices(text, column.format?.separator ?? ',') };
    case 'email': {
      const [wrong] = readAddresses(trimmed).wrong;
      return wrong ? { kind: 'wrong', reason: wrong.reason } : { kind: 'text', text: trimmed };
    }
    case 'phone':
      return isPhone(trimmed) ? { kind: 'text', text: trimmed } : wrong('not-phone');
    case 'web':
      return isWeb(trimmed) ? { kind: 'text', text: trimmed } : wrong('not-web');
    case 'picture':
      return isPicture(trimmed) ? { kind: 'text', text: trimmed } : wrong('not-picture');
    case 'choice':
    case 'text':
      return { kind: 'text', text };
  }
}

const wrong = <C extends Code>(code: C, ...given: Given<C>): Value => ({
  kind: 'wrong',
  reason: saying(code, ...given),
});

/** The choices in a cell, without the blanks around them and without empty ones. */
export function splitChoices(text: string, separator: string): string[] {
  return text
    .split(separator.trim() || separator)
    .map((item) => item.trim())
    .filter(Boolean);
}

/** 7 to 15 digits (ITU-T E.164: 15 at most), with the signs that people put between them, and perhaps an extension. */
export function isPhone(text: string): boolean {
  if (!/^[+(]?[\d\s().\-/–]+(?:\s*(?:x|ext\.?|#)\s*\d{1,6})?$/i.test(text)) return false;
  const digits = text.replace(/\s*(?:x|ext\.?|#)\s*\d{1,6}$/i, '').replace(/\D/g, '');
  return digits.length >= 7 && digits.length <= 15;
}

/** An address that begins with `http://`, `https://` or `www.`. */
export function isWeb(text: string): boolean {
  if (!/^(?:https?:\/\/|www\.)\S+$/i.test(text)) return false;
  return URL.canParse(/^www\./i.test(text) ? `https://${text}` : text);
}

/** A web address or a file name that ends as pictures do. */
export const isPicture = (text: string): boolean =>
  /^[^\r\n]+\.(?:png|jpe?g|gif|webp|svg)(?:[?#]\S*)?$/i.test(text);

/** True for a word that says yes or no. */
export const isTruth = (text: string): boolean => {
  const word = text.trim().toLowerCase();
  return YES.has(word) || NO.has(word);
};
