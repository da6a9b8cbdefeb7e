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
export function wordsForLanguage(language: string): string[] {
  const [code = language] = language.split('-');
  const own = new Intl.DisplayNames(code, { type: 'language' }).of(code) ?? code;
  const said = [names.of(code) ?? code, own, code, language];
  return [...new Map(said.map((one) => [one.toLowerCase(), one])).values()];
}

/** A language's name as it stands behind a letter's: `German`. */
export const languageName = (language: string): string => names.of(language.split('-')[0]!) ?? language;
