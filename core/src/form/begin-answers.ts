import type { Form, FormItem } from './form.js';
import { columnIdsOf, type Given } from './given.js';
import { wordsIn } from './words-in.js';
import { problemsOf } from './read-answers.js';

/**
 * The answers that a form begins with: what its questions say, and over that what the link brings along. A choice is named in a link
 * by its words or its identity; what does not fit is passed over.
 *
 * @param link the part of the address behind the question mark.
 */
export function beginAnswers(
  { items, languages }: Pick<Form, 'items' | 'languages'>,
  link: URLSearchParams,
): Given {
  const given: Record<string, string | string[]> = {};
  for (const item of items) {
    const [columnId] = columnIdsOf(item);
    if (columnId === undefined) continue;
    const initial = 'initial' in item ? item.initial : undefined;
    if (initial) given[columnId] = initial;
    const name = 'prefill' in item ? item.prefill : undefined;
    const brought = name ? link.getAll(name) : [];
    if (brought.length === 0) continue;
    const value = valueFrom(item, brought, languages);
    if (value === null || problemsOf(item, { [columnId]: value }).length > 0) continue;
    given[columnId] = value;
  }
  return given;
}

/**
 * The answers that a learner's own form begins with: what stands in the cells that its questions go into, as far as it can be an answer.
 *
 * @param cells by column, with what is known of them beyond their text.
 */
export function givenFromCells(
  { items, languages }: Pick<Form, 'items' | 'languages'>,
  {
    values,
    exact,
  }: { values: Readonly<Record<string, string>>; exact?: Readonly<Record<string, string>> | undefined },
): Given {
  const given: Record<string, string | string[]> = {};
  for (const item of items)
    for (const columnId of columnIdsOf(item)) {
      const text = values[columnId]?.trim() ?? '';
      if (text === '') continue;
      const value =
        item.kind === 'name' ? text : valueFrom(item, partsOf(item, text, exact?.[columnId]), languages);
      if (value === null || problemsOf(item, { [columnId]: value }).some((one) => one.columnId === columnId))
        continue;
      given[columnId] = value;
    }
  return given;
}

/** A cell as a link would bring it: several answers one by one, numbers and days as they are known. */
function partsOf(item: FormItem, text: string, exact: string | undefined): string[] {
  if (item.kind === 'several') return text.split(/[;,]/);
  const known = /^(?:n|d|t):(.+)$/.exec(exact ?? '')?.[1];
  return [(item.kind === 'number' || item.kind === 'date') && known ? known : text];
}

function valueFrom(
  item: FormItem,
  brought: readonly string[],
  languages: readonly string[],
): string | string[] | null {
  const [first = ''] = brought;
  switch (item.kind) {
    case 'one':
    case 'several': {
      const ids = brought.flatMap((said) => {
        const like = said.trim().toLowerCase();
        const choice = item.choices.find(
          ({ id, label }) =>
            id === said ||
            languages.some((language) => wordsIn(label, language, language).toLowerCase() === like),
        );
        return choice ? [choice.id] : [];
      });
      if (ids.length === 0) return null;
      return item.kind === 'one' ? ids[0]! : [...new Set(ids)];
    }
    case 'grid':
    case 'name':
    case 'file':
    case 'signature':
    case 'consent':
      return null;
    default:
      return first;
  }
}
