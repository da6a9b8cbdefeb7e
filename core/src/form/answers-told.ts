import type { Form, FormItem } from './form.js';
import { allGiven, columnIdsOf, oneGiven, OTHER, type Given } from './given.js';
import { shownItems } from './pages.js';
import { wordsIn } from './words-in.js';
import type { Words } from './words.js';

/** A question with what was answered to it; for a heading between questions the answer is null. */
export interface ToldAnswer {
  readonly question: string;
  readonly answer: string | null;
}

export interface Telling {
  /** In which language questions and choices are told. */
  readonly language: string;
  /** Names of files that were brought, by their identities. */
  readonly files: Readonly<Record<string, string>>;
  /** Of the language: what a tick says, and that somebody has signed. */
  readonly yes: string;
  readonly signed: string;
  /** A day, a moment or a time as people read them, from `2026-11-25`, `2026-11-25T08:30` or `08:30`. */
  readonly moment: (iso: string) => string;
}

/** What was answered, as people read it, in the order of the questions; what was left blank is passed over. */
export function answersTold(form: Form, given: Given, telling: Telling): ToldAnswer[] {
  const say = (words: Words | undefined): string => wordsIn(words, telling.language, form.languages[0]!);
  const told: ToldAnswer[] = [];
  for (const item of shownItems(form, given)) {
    if (item.kind === 'section' || item.kind === 'page') {
      // A heading that nothing is answered below says nothing.
      if (told.at(-1)?.answer === null) told.pop();
      if (say(item.title)) told.push({ question: say(item.title), answer: null });
      continue;
    }
    if (!('label' in item)) continue;
    const answer = toldOf(item, given, say, telling);
    if (answer) told.push({ question: say(item.label), answer });
  }
  if (told.at(-1)?.answer === null) told.pop();
  return told;
}

type Say = (words: Words | undefined) => string;
type Labelled = Extract<FormItem, { label: unknown }>;

function toldOf(item: Labelled, given: Given, say: Say, { files, yes, signed, moment }: Telling): string {
  const [columnId = ''] = columnIdsOf(item);
  const one = oneGiven(given, columnId).trim();
  switch (item.kind) {
    case 'one':
    case 'several':
      return choicesTold(item, allGiven(given, columnId), say).join('; ');
    case 'grid':
      return item.rows
        .flatMap((row) => {
          const picked = choicesTold(item, allGiven(given, row.id), say).join('; ');
          return picked ? [`${say(row.label)}: ${picked}`] : [];
        })
        .join('\n');
    case 'name':
      return [item.givenId, item.familyId]
        .map((id) => oneGiven(given, id).trim())
        .filter(Boolean)
        .join(' ');
    case 'consent':
      return one === 'yes' ? yes : '';
    case 'signature':
      return one ? signed : '';
    case 'file':
      return allGiven(given, columnId)
        .flatMap((id) => files[id] ?? [])
        .join('; ');
    case 'date':
    case 'time':
      return one && moment(one);
    case 'number':
      return one && item.unit ? `${one} ${say(item.unit)}` : one;
    default:
      return one;
  }
}

function choicesTold(
  { choices }: Pick<Extract<FormItem, { kind: 'one' }>, 'choices'>,
  given: readonly string[],
  say: Say,
): string[] {
  return given.flatMap((one) => {
    if (one.startsWith(OTHER)) return one.slice(OTHER.length).trim() || [];
    const choice = choices.find(({ id }) => id === one);
    return choice ? say(choice.label) || [] : [];
  });
}
