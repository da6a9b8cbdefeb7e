import type { z } from 'zod';
import { Refusal } from './refusal.js';

/** How deep what is sent may be nested. A letter with lists in lists needs about forty. */
export const DEPTH_MOST = 100;

/** Checks what came in against its schema. @throws Refusal `input` that says where it is not right. */
export function checkInput<T extends z.ZodType>(schema: T, input: unknown): z.output<T> {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  const where = issue.path.join('.').slice(0, 200);
  throw new Refusal(400, 'input', `${where ? `At ${where}: ` : ''}${issue.message.slice(0, 500)}`);
}

/** Reads JSON. @throws Refusal `json`, `input` */
export function readJson(bytes: Uint8Array): unknown {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new Refusal(400, 'json', 'The request is not valid JSON.');
  }
  refuseOdd(value);
  return value;
}

/**
 * Refuses what no request of ours holds and what reading by recursion, or looking up by name, would stumble over: nesting
 * deeper than `DEPTH_MOST`, and the key `__proto__`.
 */
export function refuseOdd(value: unknown): void {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEPTH_MOST)
      throw new Refusal(400, 'input', `The request is nested more than ${DEPTH_MOST} levels deep.`);
    const next: unknown[] = [];
    for (const one of level) {
      if (Array.isArray(one)) {
        for (const item of one) if (typeof item === 'object' && item !== null) next.push(item);
      } else if (typeof one === 'object' && one !== null) {
        // As a key it would mean something else than what was sent.
        if (Object.hasOwn(one, '__proto__'))
          throw new Refusal(400, 'input', '“__proto__” cannot be the name of anything here.');
        for (const inner of Object.values(one)) {
          if (typeof inner === 'object' && inner !== null) next.push(inner);
        }
      }
    }
    level = next;
  }
}
