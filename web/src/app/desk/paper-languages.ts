import type { Column } from '@scriptum/core/column';
import type { Variant } from '@scriptum/core/template';

const names = new Intl.DisplayNames('en', { type: 'language' });
const named = (code: string): readonly [string, string] => [code, names.of(code) ?? code];

/** Languages that paper can be written in. Those that schools here write in first; behind them those of families, by name. */
export const PAPER_LANGUAGES: readonly (readonly [string, string])[] = [
  ['en-GB', 'English (UK)'],
  ['en-US', 'English (US)'],
  ['de-DE', 'German'],
  ['fr-FR', 'French'],
  ['es-ES', 'Spanish'],
  ['nl-NL', 'Dutch'],
  ['pl-PL', 'Polish'],
  ['it-IT', 'Italian'],
  ['pt-PT', 'Portuguese'],
  ['cy-GB', 'Welsh'],
  ['ga-IE', 'Irish'],
  ...'am ar bn bg zh hr cs da et fa fi gd gu he hi hu hy id is ja ka ko ku lt lv mk ml mn ms ne nb pa ps ro ru sk sl so sq sr sv sw ta te th ti tr uk ur vi'
    .split(' ')
    .map(named)
    .sort(([, a], [, b]) => a.localeCompare(b, 'en')),
];

/** What people write for a language in a sheet: its name in English and in itself, and its codes. */
function wordsForLanguage(language: string): string[] {
  const [code = language] = language.split('-');
  const own = new Intl.DisplayNames(code, { type: 'language' }).of(code) ?? code;
  const said = [names.of(code) ?? code, own, code, language];
  return [...new Map(said.map((one) => [one.toLowerCase(), one])).values()];
}

/** A language's name as it stands behind a letter's: `German`. */
export const languageName = (language: string): string => names.of(language.split('-')[0]!) ?? language;

/** Titles of columns that say which language is spoken at home. */
const LANGUAGE_COLUMN = /language|sprache|langue|idioma|lingua|taal|język|språk|sprog|язык|мова|لغة/i;

/** For whom something in another language stands in for what the others get, by the column that says it, where there is one. */
export function variantIn(language: string, of: string, columns: readonly Column[]): Variant {
  const column = columns.find(({ title }) => LANGUAGE_COLUMN.test(title));
  return { of, columnId: column?.id ?? null, name: column?.title ?? '', says: wordsForLanguage(language) };
}
