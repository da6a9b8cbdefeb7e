import type { Inline, LineText, TextMark } from '../text/index.js';
import { isBlockField, type Field } from './field.js';

/** Collects the fields named in a template file, one for each name. */
export interface FieldCollector {
  fieldNamed(name: string): Field;
  /** A field of its own. */
  added(field: Omit<Field, 'id'>): Field;
  readonly fields: Field[];
}

export function collectFields(newId: () => string): FieldCollector {
  const fields: Field[] = [];
  return {
    fields,
    fieldNamed(name) {
      const existing = fields.find((field) => field.name === name && !isBlockField(field));
      if (existing) return existing;
      const field = { id: newId(), name, columnId: null };
      fields.push(field);
      return field;
    },
    added(about) {
      const field = { ...about, id: newId() };
      fields.push(field);
      return field;
    },
  };
}

/** `{{Title}}`, or `\{{` for two braces that stand for themselves. */
const PLACE = /\\\{\{|\{\{([^{}]+)\}\}/g;

/**
 * Cuts text in which fields are written `{{Title}}` into runs and fields; marks go to each part. `\{{` prints `{{`.
 */
export function cutMustache(text: string, collector: FieldCollector, marks?: TextMark[]): LineText {
  const pieces: LineText = [];
  const dress = marks && marks.length > 0 ? { marks } : {};
  let fixed = '';
  let last = 0;
  const flush = (): void => {
    if (fixed) pieces.push({ type: 'text', text: fixed, ...dress });
    fixed = '';
  };
  for (const match of text.matchAll(PLACE)) {
    fixed += text.slice(last, match.index);
    last = match.index + match[0].length;
    const name = match[1]?.trim();
    if (!name) {
      fixed += match[0] === '\\{{' ? '{{' : match[0];
      continue;
    }
    flush();
    pieces.push({ type: 'field', attrs: { fieldId: collector.fieldNamed(name).id }, ...dress });
  }
  fixed += text.slice(last);
  flush();
  return pieces;
}

/** The mustache form of a line, for template files. The reverse of {@link cutMustache}. */
export function joinMustache(line: readonly Inline[], nameOf: (fieldId: string) => string): string {
  return line
    .map((part) => {
      if (part.type === 'text') return part.text.replace(/\{\{/g, '\\{{');
      return part.type === 'field' ? `{{${nameOf(part.attrs.fieldId)}}}` : '\n';
    })
    .join('');
}
