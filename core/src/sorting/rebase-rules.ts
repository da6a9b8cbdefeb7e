import type { SortingRule } from '../template/index.js';

const same = (a: SortingRule | undefined, b: SortingRule | undefined): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

const byId = (rules: readonly SortingRule[]): Map<string, SortingRule> =>
  new Map(rules.map((rule) => [rule.id, rule]));

/**
 * Rules that somebody is changing, upon what others made of them meanwhile. Rules are told apart by identity: each keeps what was
 * changed in it here, and is as the others have it otherwise. Where both changed a rule, it stays as it is here; a rule that was
 * taken out on one side stays where it was changed on the other.
 *
 * @param base the rules that the changes began with.
 */
export function rebaseRules(
  base: readonly SortingRule[],
  own: readonly SortingRule[],
  theirs: readonly SortingRule[],
): readonly SortingRule[] {
  const [before, here, there] = [byId(base), byId(own), byId(theirs)];
  const moved = !sameOrder(base, own);
  const order = moved ? own : theirs;
  const others = moved ? theirs : own;
  const ids = order.map(({ id }) => id);
  // What only the other side has stands behind what it stands behind there.
  others.forEach(({ id }, n) => {
    if (ids.includes(id)) return;
    const ahead = others
      .slice(0, n)
      .reverse()
      .find((one) => ids.includes(one.id));
    ids.splice(ahead ? ids.indexOf(ahead.id) + 1 : 0, 0, id);
  });
  return ids.flatMap((id) => {
    const [was, mine, his] = [before.get(id), here.get(id), there.get(id)];
    if (mine && his) return [same(mine, was) ? his : mine];
    const left = mine ?? his!;
    // New, or changed where it was not taken out.
    return was === undefined || !same(left, was) ? [left] : [];
  });
}

/** Whether rules that are in both lists stand in the same order. */
function sameOrder(a: readonly SortingRule[], b: readonly SortingRule[]): boolean {
  const common = (list: readonly SortingRule[], other: readonly SortingRule[]): string =>
    list
      .filter(({ id }) => other.some((one) => one.id === id))
      .map(({ id }) => id)
      .join();
  return common(a, b) === common(b, a);
}
