import { holds } from '../condition/index.js';
import type { Entry } from '../roll/index.js';
import { BETWEEN_CHOICES, columnsOfForm } from './columns.js';
import type { Form, FormItem } from './form.js';
import { allGiven, columnIdsOf, oneGiven, OTHER, type Given } from './given.js';
import { wordsIn } from './words-in.js';

type FormPageItem = Exclude<FormItem, { kind: 'page' }>;

/** One page of a form as it is answered. */
export interface FormPage {
  /** The item that begins it; null for the first one. */
  readonly id: string | null;
  readonly items: readonly FormPageItem[];
}

/**
 * What of a form is there for who gave these answers, page by page. What is not asked counts as not answered, so that a
 * condition never hangs on an answer that stands in no page any more. A page of which nothing is left is none.
 */
export function pagesOf(form: Pick<Form, 'items' | 'languages'>, given: Given): FormPage[] {
  const pages: { id: string | null; items: FormPageItem[] }[] = [{ id: null, items: [] }];
  for (const item of shownItems(form, given))
    if (item.kind === 'page') pages.push({ id: item.id, items: [] });
    else pages.at(-1)!.items.push(item);
  const shown = pages.filter(({ items }) => items.some(({ kind }) => kind !== 'hidden'));
  return shown.length > 0 ? shown : [pages[0]!];
}

/** The items that are there, in their order; those that begin pages too. */
export function shownItems(
  { items, languages }: Pick<Form, 'items' | 'languages'>,
  given: Given,
): FormItem[] {
  const columns = columnsOfForm({ items, languages });
  const values: Record<string, string> = {};
  const entry: Entry = { id: 'answer', position: 0, values };
  let comes = true;
  return items.filter((item) => {
    const stands = item.shownIf === undefined || holds(item.shownIf, entry, columns);
    if (item.kind === 'page') comes = stands;
    else if (comes && stands) Object.assign(values, cellsOf(item, given, languages[0]!));
    return comes && stands;
  });
}

/** What stands between several answers in the cells of a column. */
export type Between = (columnId: string) => string;

/** The cells that an item's answers come to: choices by their words in the form's first language. */
export function cellsOf(
  item: FormItem,
  given: Given,
  first: string,
  between: Between = () => BETWEEN_CHOICES,
): Record<string, string> {
  const cells: Record<string, string> = {};
  for (const id of columnIdsOf(item)) cells[id] = cellOf(item, given, id, first, between);
  return cells;
}

function cellOf(item: FormItem, given: Given, columnId: string, first: string, between: Between): string {
  if (item.kind === 'one' || item.kind === 'several' || item.kind === 'grid') {
    const said = allGiven(given, columnId).flatMap((one) => {
      if (one.startsWith(OTHER)) return one.slice(OTHER.length).trim() || [];
      const choice = item.choices.find(({ id }) => id === one);
      return choice ? wordsIn(choice.label, first, first) || [] : [];
    });
    const many = item.kind === 'several' || (item.kind === 'grid' && item.several);
    if (!many) return said[0] ?? '';
    const sign = between(columnId).trim() || BETWEEN_CHOICES;
    // What stands between answers cannot stand in one.
    return said.map((one) => one.replaceAll(sign, sign === ',' ? ';' : ',')).join(`${sign} `);
  }
  if (item.kind === 'consent') return oneGiven(given, columnId) === 'yes' ? 'yes' : '';
  if (item.kind === 'file' || item.kind === 'signature')
    return allGiven(given, columnId).length > 0 ? '✓' : '';
  return oneGiven(given, columnId).trim();
}
