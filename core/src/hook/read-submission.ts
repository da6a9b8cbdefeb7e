import { SHEET_LIMITS } from '../table/index.js';

/** One answer of a submission, as another service sends it. */
export interface SentField {
  /** Where it stands, the same in each submission: names with full stops between them, or the identity of a question. */
  readonly key: string;
  /** What people call it. */
  readonly title: string;
  /** Several answers are a list. */
  readonly value: string | readonly string[];
}

export const HOOK_LIMITS = {
  /** Answers of one submission. */
  fields: 300,
  /** Characters of a key or title. */
  name: 200,
  /** Characters of one answer. */
  text: SHEET_LIMITS.cell,
  /** Levels of objects in objects. */
  depth: 6,
} as const;

/** Why a submission cannot be read, as a sentence. */
export class SubmissionWrong extends Error {
  override name = 'SubmissionWrong';
}

/** Names under which services send what a question is called, and what was answered. */
const IDENTITIES = ['id', 'ref', 'key', 'name'];
const TITLES = ['title', 'label', 'question', 'name'];
const VALUES = ['value', 'values', 'answer', 'answers', 'text'];

/**
 * Reads a submission: answers by their names, in objects of objects too, or as a list of questions with their answers. What is no text,
 * number, yes or no, or list of such is refused with where it stands.
 *
 * @param body what was read from JSON (RFC 8259), or from a form's data: repeated names are lists there.
 * @throws SubmissionWrong
 */
export function readSubmission(body: unknown): SentField[] {
  if (!isObject(body))
    throw new SubmissionWrong(
      'A submission is a JSON object, or a form’s data: one submission at a time, answers by their names.',
    );
  const fields: SentField[] = [];
  const keys = new Set<string>();
  const add = (path: readonly string[], title: string, value: SentField['value']): void => {
    if (fields.length >= HOOK_LIMITS.fields)
      throw new SubmissionWrong(`A submission has ${HOOK_LIMITS.fields} answers at the most.`);
    const own = cut(path.join('.'));
    let key = own;
    for (let n = 2; keys.has(key); n++) key = `${own} (${n})`;
    keys.add(key);
    const long = (Array.isArray(value) ? value : [value]).find(
      (text: string) => text.length > HOOK_LIMITS.text,
    );
    if (long !== undefined || (Array.isArray(value) && value.join('; ').length > HOOK_LIMITS.text))
      throw new SubmissionWrong(
        `The answer “${cut(title)}” is longer than ${HOOK_LIMITS.text.toLocaleString('en')} characters.`,
      );
    fields.push({ key, title: cut(title), value });
  };
  const read = (value: unknown, path: readonly string[], title: string): void => {
    const text = textOf(value);
    if (text !== null) return add(path, title, text);
    if (path.length > HOOK_LIMITS.depth)
      throw new SubmissionWrong(`“${cut(path.join('.'))}” lies more than ${HOOK_LIMITS.depth} levels deep.`);
    if (Array.isArray(value)) {
      const items: readonly unknown[] = value;
      const texts = items.map(textOf);
      if (texts.every((one) => one !== null)) return add(path, title, texts);
      const pairs = items.map(pairOf);
      if (pairs.every((pair) => pair !== null)) {
        for (const { key, title: own, value: inner } of pairs) read(inner, [...path, key], own);
        return;
      }
      items.forEach((item, n) => read(item, [...path, String(n + 1)], `${title} ${n + 1}`));
      return;
    }
    for (const [name, inner] of Object.entries(value as Record<string, unknown>))
      read(inner, [...path, name], path.length === 0 ? name : `${title} ${name}`);
  };
  for (const [name, value] of Object.entries(body)) read(value, [name], name);
  if (fields.length === 0) throw new SubmissionWrong('The submission holds no answers.');
  return fields;
}

const cut = (text: string): string => text.slice(0, HOOK_LIMITS.name);

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What stands in a cell for a plain value; null for what is none. */
function textOf(value: unknown): string | null {
  switch (typeof value) {
    case 'string':
      return value;
    case 'number':
      return String(value);
    case 'boolean':
      return value ? 'yes' : 'no';
    default:
      return value === null ? '' : null;
  }
}

/** A question with its answer; null for another object. */
function pairOf(item: unknown): { key: string; title: string; value: unknown } | null {
  if (!isObject(item)) return null;
  const named = (names: readonly string[]): string | undefined =>
    names.find((name) => typeof item[name] === 'string' && item[name] !== '');
  const title = named(TITLES) ?? named(IDENTITIES);
  const value = VALUES.find((name) => name in item && name !== title);
  if (title === undefined || value === undefined) return null;
  return {
    key: item[named(IDENTITIES) ?? title] as string,
    title: item[title] as string,
    value: item[value],
  };
}
