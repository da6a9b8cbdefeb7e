import { printedFor, type FillContext } from '../fill/index.js';
import { isIn, type Entry } from '../roll/index.js';
import { isFor, type Placed } from '../template/index.js';
import { programValues } from './inputs.js';

/** What of a placed template tells how texts fit: the boxes with texts alone, on bare pages. */
export interface Measuring {
  readonly template: Placed;
  /** Identities of its boxes, in their order. */
  readonly boxIds: readonly string[];
}

/** A template without all that has no text to fit, so that many papers of it are measured in little time. */
export function forMeasuring(template: Placed): Measuring {
  const boxes = template.boxes.filter(({ kind }) => kind === 'text' || kind === 'comb' || kind === 'code');
  const pages = template.pages.map(({ size }) => (size ? { size } : {}));
  return { template: { ...template, pages, boxes }, boxIds: boxes.map(({ id }) => id) };
}

/** The values of everybody who gets a paper, as a program reads them. Pictures of their own are left out. */
export function valuesToMeasure(
  template: Placed,
  entries: readonly Entry[],
  around: Omit<FillContext, 'language'>,
): { readonly entryId: string; readonly values: string }[] {
  return entries
    .filter((entry) => isIn(entry) && (!template.variant || isFor(template.variant, entry)))
    .map((entry) => {
      const printed = Object.fromEntries(
        Object.entries(printedFor(template, entry, around)).map(([id, one]) => [
          id,
          typeof one === 'object' && one.picture !== undefined ? one.text : one,
        ]),
      );
      return { entryId: entry.id, values: programValues(template, printed) };
    });
}
