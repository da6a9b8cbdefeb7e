import { sayingOf } from '../condition/index.js';
import type { Column } from '../column/index.js';
import { saying, type Saying } from '../sentences/index.js';
import type { SortingOutcome, SortingRule } from '../template/index.js';

/** Names of the templates and cover notes, by their identity. */
export type TemplateNames = ReadonlyMap<string, string>;

/** What those get whom a rule takes. */
export function sayOutcome(then: SortingOutcome, names: TemplateNames): Saying {
  if (then.kind === 'out') return saying('sorted-out', { why: then.why.trim() });
  const given = then.templates.flatMap((id) => names.get(id) ?? []);
  const notes = (then.notes ?? []).flatMap((id) => names.get(id) ?? []);
  return saying('sorted-gives', { names: given, notes, also: then.kind === 'also' });
}

/** A rule as a sentence without its full stop. */
export const sayRule = (rule: SortingRule, columns: readonly Column[], names: TemplateNames): Saying =>
  saying('sorting-rule', {
    if: rule.if && sayingOf(rule.if, columns),
    then: sayOutcome(rule.then, names),
    also: rule.then.kind === 'also',
  });
