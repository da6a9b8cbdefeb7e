import type { FitState } from '../page/index.js';
import { say, saying } from '../sentences/index.js';
import type { Entry, Roll } from '../roll/index.js';
import { wordsOfBox, type Placed } from '../template/index.js';
import type { Finding } from './finding.js';
import { look, who as people } from './say.js';

/** How the text of one box fits, as it was measured for everybody. */
export interface MeasuredBox {
  /** The box's identity. */
  readonly box: string;
  /** Identities of the entries that have each state. */
  readonly who: Readonly<Partial<Record<FitState, readonly string[]>>>;
}

/** What of one paper does not fit its places, in a sentence to be kept with it; null where all does. */
export function misfit(
  template: Placed,
  fits: readonly { readonly box: number; readonly state: FitState }[],
  columns: Roll['columns'],
): string | null {
  const named = (...states: readonly FitState[]): string[] =>
    fits.flatMap(({ box: n, state }) => {
      const box = template.boxes[n];
      return box && states.includes(state) ? [wordsOfBox(box, template.fields, columns) || '…'] : [];
    });
  const [long, codes] = [named('long'), named('letters', 'too-long')];
  const said = [
    ...(long.length > 0 ? [say(saying('paper-box-long', { boxes: long }))] : []),
    ...(codes.length > 0 ? [say(saying('paper-box-no-code', { boxes: codes }))] : []),
  ];
  return said.length > 0 ? said.join(' ') : null;
}

/**
 * What is worth a look in how texts fit their boxes: those that are too long for their places, and codes that there are none
 * of. Papers of entries that are not in the roll any more are passed over.
 *
 * @param several true where there are other templates, so that it is told which one it is.
 */
export function fitFindings(
  template: Placed,
  measured: readonly MeasuredBox[],
  roll: Roll,
  several: boolean,
): Finding[] {
  const entries = new Map(roll.entries.map((entry) => [entry.id, entry]));
  const known = (ids: readonly string[] = []): Entry[] => ids.flatMap((id) => entries.get(id) ?? []);
  const place = several ? { template: template.name } : ('certificate' as const);
  return measured.flatMap(({ box: id, who }): Finding[] => {
    const box = template.boxes.find((one) => one.id === id);
    if (!box) return [];
    const [long, codes] = [known(who.long), known([...(who.letters ?? []), ...(who['too-long'] ?? [])])];
    const said = (some: readonly Entry[]) => ({
      place,
      box: wordsOfBox(box, template.fields, roll.columns) || '…',
      who: people(some, roll),
    });
    return [
      ...(long.length > 0 ? [look({ place: 'letter', entries: long }, 'box-long', said(long))] : []),
      ...(codes.length > 0 ? [look({ place: 'letter', entries: codes }, 'box-no-code', said(codes))] : []),
    ];
  });
}
