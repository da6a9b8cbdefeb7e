import { linePlain, textPlain, type TextValues } from '../text/index.js';
import { formPlain } from '../form/index.js';
import { textsOf, type Writing } from '../template/index.js';
import type { Column } from '../column/index.js';
import { say } from '../sentences/index.js';
import { sayRule, type TemplateNames } from '../sorting/index.js';

/** What rules are read with: titles of columns, and names of templates. */
interface Around {
  readonly columns: readonly Column[];
  readonly templates: TemplateNames;
}

/** A writing as people can read it beside another one: its text, with the names of its fields in their places. */
export function writingPlain(
  writing: Pick<Writing, 'kind' | 'content'>,
  { columns, templates }: Around = { columns: [], templates: new Map() },
): string {
  const { kind, content } = writing as Writing;
  if (kind === 'sorting')
    return content.rules.map((rule) => `${say(sayRule(rule, columns, templates))}.`).join('\n\n');
  if (kind === 'form') return formPlain(content);
  if (kind === 'exception')
    return writingPlain({ kind: content.own.kind, content: content.own } as Pick<
      Writing,
      'kind' | 'content'
    >);
  const values: TextValues = Object.fromEntries(content.fields.map(({ id, name }) => [id, `‹${name}›`]));
  switch (kind) {
    case 'letter':
    case 'placed':
      return textsOf(content)
        .map((text) => textPlain(text, values))
        .join('\n\n');
    case 'note':
      return [linePlain(content.subject, values), textPlain(content.body, values)]
        .filter(Boolean)
        .join('\n\n');
    case 'filing':
      return linePlain(content.pattern, values);
  }
}
