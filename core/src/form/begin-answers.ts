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
