import { escapeHtml } from '@scriptum/core/text';
import { printValue } from '@scriptum/core/column';
import { wordsIn } from './words.js';

/** A paper as a family sees it in the list. */
export interface ShownPaper {
  readonly name: string;
  /** Where it is; null where it counts no more. */
  readonly href: string | null;
  readonly bytes: number | null;
}

/** What a family's page is to show. */
export type PageState =
  | { readonly kind: 'ask'; readonly title: string; readonly isDay: boolean; readonly left: number | null }
  | { readonly kind: 'closed-door' }
  | { readonly kind: 'papers'; readonly papers: readonly ShownPaper[] }
  | { readonly kind: 'says'; readonly says: 'ended' | 'withdrawn' | 'closed' | 'unknown' | 'trial' };

export interface Page {
  readonly language: string;
  /** Blank where it must not be told. */
  readonly school: string;
  /** The last day on which it works, ISO 8601. */
  readonly ends: string | null;
  readonly state: PageState;
  /** Of the policy that lets its style through. */
  readonly nonce: string;
}

/** A family's page: one document of HTML without scripts, which loads nothing else. */
export function familyPage({ language: wanted, school, ends, state, nonce }: Page): string {
  const { language, words } = wordsIn(wanted);
  const day =
    ends && printValue({ kind: 'date', iso: ends }, { kind: 'date', style: 'long', time: false }, language);
  const title = state.kind === 'says' ? words[state.says] : words.papers;
  const from = school ? `<p class="from">${escapeHtml(words.from(school))}</p>` : '';
  const foot =
    state.kind === 'says'
      ? ''
      : `<footer><p>${day ? escapeHtml(words.until(day)) : ''}</p><p>${escapeHtml(words.keep)}</p></footer>`;
  return plainPage({
    language,
    dir: words.dir ?? 'ltr',
    title: state.kind === 'says' ? words.papers : title,
    nonce,
    body: `${from}
<h1${state.kind === 'says' ? ' class="says"' : ''}>${escapeHtml(title)}</h1>
${bodyOf(state, words)}
${foot}`,
  });
}

interface PlainPage {
  readonly language: string;
  readonly dir: 'ltr' | 'rtl';
  readonly title: string;
  /** Of the policy that lets its style through. */
  readonly nonce: string;
  /** HTML; what comes from people is escaped in it. */
  readonly body: string;
}

/** A page for who has no account, or is not signed in: one document without scripts, which loads nothing else. */
export function plainPage({ language, dir, title, nonce, body }: PlainPage): string {
  return `<!doctype html>
<html lang="${escapeHtml(language)}" dir="${dir}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex, nofollow">
<meta name="color-scheme" content="light dark">
<link rel="icon" href="data:,">
<title>${escapeHtml(title)}</title>
<style nonce="${escapeHtml(nonce)}">${STYLE}</style>
</head>
<body>
<main>
${body}
</main>
</body>
</html>
`;
}

function bodyOf(state: PageState, words: ReturnType<typeof wordsIn>['words']): string {
  switch (state.kind) {
    case 'says':
      return '';
    case 'closed-door':
      return `<form method="post"><button type="submit">${escapeHtml(words.show)}</button></form>`;
    case 'ask': {
      const wrong =
        state.left === null
          ? ''
          : `<p class="wrong" role="alert" id="wrong">${escapeHtml(words.wrong(state.left))}</p>`;
      const type = state.isDay ? 'date' : 'text';
      const about = state.left === null ? '' : ' aria-describedby="wrong" aria-invalid="true"';
      return `<p>${escapeHtml(words.ask)}</p>
<form method="post">
<label for="answer">${escapeHtml(state.title)}</label>
<input id="answer" name="answer" type="${type}" required maxlength="300" autocomplete="off" autocapitalize="none"${about}>
${wrong}
<button type="submit">${escapeHtml(words.show)}</button>
</form>`;
    }
    case 'papers':
      return `<ul>${state.papers.map((paper) => `<li>${paperLine(paper, words.gone)}</li>`).join('\n')}</ul>`;
  }
}

function paperLine({ name, href, bytes }: ShownPaper, gone: string): string {
  const called = `<bdi>${escapeHtml(name)}</bdi>`;
  if (href === null) return `<span class="gone">${called}<small>${escapeHtml(gone)}</small></span>`;
  const size =
    bytes === null
      ? ''
      : `, ${bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`}`;
  return `<a href="${escapeHtml(href)}">${called}<small>PDF${size}</small></a>`;
}

/** The colours of the application's own light and dark ground. */
const STYLE = `
:root { --ground: #F4F6F4; --leaf: #FFFFFF; --ink: #22303C; --slate: #55636E; --rule: #D7DDDB; --teal: #1D6B61; --on-teal: #FFFFFF; --red: #A3372B }
@media (prefers-color-scheme: dark) { :root { --ground: #151B20; --leaf: #1E262D; --ink: #E6EBEA; --slate: #A9B5BB; --rule: #3A464E; --teal: #7CC7BA; --on-teal: #10201D; --red: #F0A196 } }
* { box-sizing: border-box }
body { margin: 0; background: var(--ground); color: var(--ink); font: 1.0625rem/1.5 system-ui, sans-serif; overflow-wrap: anywhere }
main { max-width: 34rem; margin: 0 auto; padding: 2rem 1.25rem }
.from { margin: 0; color: var(--slate) }
h1 { margin: 0 0 1.25rem; font-size: 1.6rem; line-height: 1.25; text-wrap: balance }
h1.says { font-size: 1.2rem; font-weight: 600; margin-top: .5rem }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: .6rem }
li > :not(.one) { display: block; padding: .8rem 1rem; background: var(--leaf); border: 1px solid var(--rule); border-radius: .5rem; text-decoration: none; color: var(--teal); font-weight: 600 }
li > a:hover { border-color: var(--teal) }
li > .gone { color: var(--slate); background: none; border-style: dashed }
li small { display: block; font-weight: 400; color: var(--slate) }
form { display: grid; gap: .5rem; max-width: 22rem }
label { font-weight: 600 }
input { font: inherit; min-height: 3rem; padding: .5rem .75rem; color: inherit; background: var(--leaf); border: 1px solid var(--slate); border-radius: .5rem }
button { font: inherit; font-weight: 600; min-height: 3rem; padding: .5rem 1.25rem; border: 0; border-radius: .5rem; color: var(--on-teal); background: var(--teal); cursor: pointer; justify-self: start }
:focus-visible { outline: 3px solid var(--teal); outline-offset: 2px }
.wrong { margin: 0; color: var(--red) }
.two { display: flex; flex-wrap: wrap; gap: .75rem; max-width: none; margin-top: 1.25rem }
.two .no { background: none; color: var(--teal); box-shadow: inset 0 0 0 1px var(--teal) }
.about { margin: 0 0 1.25rem; color: var(--slate) }
.done { padding: .6rem 1rem; border-inline-start: 4px solid var(--teal); background: var(--leaf) }
.one { padding: .8rem 1rem; background: var(--leaf); border: 1px solid var(--rule); border-radius: .5rem }
.one a { display: inline-block; padding: .3rem 0; color: var(--teal) }
.one .why { color: var(--red) }
footer { margin-top: 2rem; padding-top: 1rem; border-top: 1px solid var(--rule); color: var(--slate); font-size: .9375rem }
footer p { margin: 0 0 .4rem }
@media print { footer, form { display: none } }
`;
