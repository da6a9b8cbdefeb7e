import { linePlain, textPlain, type TextValues } from '../text/index.js';
import { textsOf, type Writing } from '../template/index.js';

/** A writing as people can read it beside another one: its text, with the names of its fields in their places. */
export function writingPlain(writing: Pick<Writing, 'kind' | 'content'>): string {
  const { kind, content } = writing as Writing;
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
