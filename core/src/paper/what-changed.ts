import type { Printed, PrintedValues } from '../fill/index.js';
import { saying, type Saying } from '../sentences/index.js';
import type { Field } from '../template/index.js';

/** Fields that are told by name. */
const TOLD = 4;

/** What two versions of one learner's paper print, and from which versions of the template they are. */
export interface MadeFrom {
  readonly values: PrintedValues;
  readonly templateVersion: number;
  /** What was another one for the learner, where something was. */
  readonly exceptionId: string | null;
  readonly exceptionVersion: number | null;
}

/**
 * What is another one in a newer paper than in the one before it: fields by name, with both texts where they are short, and the
 * template itself. Null where nothing of these is.
 *
 * @param fields those of the newer paper's template; what has no field any more is passed over.
 */
export function whatChanged(before: MadeFrom, now: MadeFrom, fields: readonly Field[]): Saying | null {
  const names = new Map(fields.map(({ id, name }) => [id, name]));
  const changed = Object.keys(now.values).filter((id) => !same(before.values[id], now.values[id]));
  const named = changed.flatMap((id) => {
    const name = names.get(id);
    return name === undefined
      ? []
      : [{ name, before: textOf(before.values[id]), now: textOf(now.values[id]) }];
  });
  const template =
    before.templateVersion !== now.templateVersion ||
    before.exceptionId !== now.exceptionId ||
    before.exceptionVersion !== now.exceptionVersion;
  if (named.length === 0 && changed.length === 0 && !template) return null;
  return saying('paper-changed', {
    fields: named.slice(0, TOLD),
    // Parts that came or went have no name.
    more: changed.length - Math.min(TOLD, named.length),
    template,
  });
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

function textOf(printed: Printed | undefined): string {
  const text = typeof printed === 'object' ? printed.text : (printed ?? '');
  return text.length > 60 ? `${text.slice(0, 60)}…` : text;
}
