import { cohortOf, fillFields } from '@scriptum/core/fill';
import { isIn, type Roll } from '@scriptum/core/roll';
import { fieldsOf, type Template } from '@scriptum/core/template';

/** The learners whose papers have the longest and the shortest text; null where nobody gets one. */
export function extremesOf(
  template: Template,
  roll: Roll,
  day: string,
): { readonly longest: string; readonly shortest: string } | null {
  const used = new Set(fieldsOf(template));
  const fields = template.fields.filter(({ id }) => used.has(id));
  const context = { columns: roll.columns, language: template.language, day, cohort: cohortOf(roll) };
  const lengths = roll.entries.filter(isIn).map((entry) => ({
    id: entry.id,
    length: Object.values(fillFields(fields, entry, context)).reduce((sum, { text }) => sum + text.length, 0),
  }));
  const [first, ...rest] = lengths;
  if (!first) return null;
  const far = (longer: boolean): string =>
    rest.reduce(
      (best, one) => ((longer ? one.length > best.length : one.length < best.length) ? one : best),
      first,
    ).id;
  return { longest: far(true), shortest: far(false) };
}
