import type { Fits } from '@scriptum/core/contract';
import type { LoadedProgram, Typesetter } from './typesetter.js';

type BoxFits = Fits['boxes'][number];

/** Papers that are measured between two looks whether somebody still wants to know. */
const BETWEEN_LOOKS = 100;

/**
 * How the texts of boxes fit for everybody. Papers whose texts are the same are measured once.
 *
 * @param gone tells that nobody waits for it any more: then it ends early.
 */
export async function fitsOfAll(
  typesetter: Typesetter,
  program: LoadedProgram,
  boxIds: readonly string[],
  all: readonly { readonly entryId: string; readonly values: string }[],
  gone: AbortSignal,
): Promise<BoxFits[]> {
  const alike = new Map<string, string[]>();
  for (const { entryId, values } of all) alike.set(values, [...(alike.get(values) ?? []), entryId]);
  const boxes = boxIds.map((box): BoxFits => ({ box, who: {}, least: 0 }));
  const kinds = [...alike];
  for (let at = 0; at < kinds.length && !gone.aborted; at += BETWEEN_LOOKS) {
    const some = kinds.slice(at, at + BETWEEN_LOOKS);
    const measured = await typesetter.measure(
      program,
      some.map(([values]) => values),
    );
    measured.forEach((fits, n) => {
      const entryIds = some[n]![1];
      for (const { box, state, size } of fits) {
        const known = boxes[box];
        if (!known) continue;
        (known.who[state] ??= []).push(...entryIds);
        if (size > 0 && (known.least === 0 || size < known.least)) known.least = size;
      }
    });
  }
  return boxes;
}
