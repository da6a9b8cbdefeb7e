import type { Entry, Roll } from '../roll/index.js';
import type { Excepted, Template, Writing } from '../template/index.js';
import type { Finding } from './finding.js';
import { look, who } from './say.js';

/** What is kept of an exception. */
export type ExceptionWriting = Extract<Writing, { kind: 'exception' }>;

interface Given {
  readonly id: string;
  readonly content: Template;
}

/**
 * What is worth a look in exceptions: those whose template has changed in what is another one for the learner, and those of
 * learners who do not get that template. Of learners who are left out, or gone, nothing is said: they get no paper.
 */
export function exceptionFindings(
  all: readonly ExceptionWriting[],
  excepted: readonly Excepted[],
  { columns, entries }: Roll,
  gets: (templateId: string, entry: Entry) => boolean,
  templates: readonly Given[],
): Finding[] {
  if (all.length === 0) return [];
  const there = new Map(entries.map((entry) => [entry.id, entry]));
  const names = new Map(templates.map(({ id, content }) => [id, content.name]));
  const touched = new Set(excepted.flatMap((one) => (one.touched ? [one.id] : [])));
  const [idle, behind] = [new Map<string, Entry[]>(), new Map<string, Entry[]>()];
  for (const { id, content } of all) {
    const entry = there.get(content.entryId);
    if (!entry) continue;
    const kind = !gets(content.of, entry) ? idle : touched.has(id) ? behind : null;
    if (kind) kind.set(content.of, [...(kind.get(content.of) ?? []), entry]);
  }
  const roll = { columns, entries };
  const told = (
    kind: ReadonlyMap<string, Entry[]>,
    code: 'exception-idle' | 'exception-touched',
  ): Finding[] =>
    [...kind].map(([templateId, some]) => {
      const name =
        names.get(templateId) ?? all.find(({ content }) => content.of === templateId)!.content.own.name;
      return look({ place: 'letter', entries: some, templateId }, code, { name, who: who(some, roll) });
    });
  return [...told(behind, 'exception-touched'), ...told(idle, 'exception-idle')];
}
