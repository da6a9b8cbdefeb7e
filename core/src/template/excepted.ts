import { withException } from './exception.js';
import type { TemplateWriting, Writing } from './writing.js';

/** An exception as papers are made from it: the template as it is now, with what is another one for the learner. */
export type Excepted = TemplateWriting & {
  /** The template's identity; its own one and its version are the exception's. */
  readonly of: string;
  readonly entryId: string;
  /** True where the template has changed in what is another one here, so that somebody should look. */
  readonly touched: boolean;
};

/**
 * The exceptions among what is written in a folio, upon their templates as they are now. Those of templates that are not among
 * the given ones are left out.
 */
export function exceptionsOf(
  writings: readonly Writing[],
  templates: readonly TemplateWriting[],
): Excepted[] {
  const known = new Map(templates.map((one) => [one.id, one]));
  return writings.flatMap((writing): Excepted[] => {
    if (writing.kind !== 'exception') return [];
    const template = known.get(writing.content.of);
    return template ? [exceptedOf(writing, template)] : [];
  });
}

/** One exception upon its template as it is now. */
export function exceptedOf(
  {
    id,
    version,
    content: exception,
  }: Pick<Extract<Writing, { kind: 'exception' }>, 'id' | 'version' | 'content'>,
  template: Pick<TemplateWriting, 'name' | 'place' | 'content'>,
): Excepted {
  const { content, touched } = withException(template.content, exception);
  return {
    id,
    kind: content.kind,
    name: template.name,
    place: template.place,
    version,
    content,
    of: exception.of,
    entryId: exception.entryId,
    touched,
  } as Excepted;
}
