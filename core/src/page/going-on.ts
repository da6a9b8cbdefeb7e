import type { BoxOf, Placed } from '../template/index.js';

type TextBox = BoxOf<'text'>;

/** Text boxes of which each goes on in the next, by their places among the boxes; two at the least. */
export type Chain = readonly number[];

/**
 * The chains of a template. A box that is gone, that several go on in, or that would go on in itself ends none: the first one
 * that goes on in a box has it.
 */
export function chainsOf({ boxes }: Pick<Placed, 'boxes'>): Chain[] {
  const places = new Map(boxes.map(({ id }, n) => [id, n]));
  const next = new Map<number, number>();
  const taken = new Set<number>();
  boxes.forEach((box, n) => {
    if (box.kind !== 'text' || box.long?.do !== 'on') return;
    const to = places.get(box.long.to);
    if (to === undefined || to === n || taken.has(to) || boxes[to]!.kind !== 'text') return;
    next.set(n, to);
    taken.add(to);
  });
  return [...next.keys()].flatMap((n): Chain[] => {
    if (taken.has(n)) return [];
    const chain = [n];
    for (let at = next.get(n); at !== undefined; at = next.get(at)) chain.push(at);
    return [chain];
  });
}

/** Whether a box may go on in another one: it would not come back to itself, and no other goes on there. */
export function mayGoOnIn({ boxes }: Pick<Placed, 'boxes'>, from: TextBox, to: TextBox): boolean {
  const others = boxes.filter((box): box is TextBox => box.kind === 'text' && box.id !== from.id);
  if (others.some(({ long }) => long?.do === 'on' && long.to === to.id)) return false;
  const next = new Map(others.flatMap(({ id, long }) => (long?.do === 'on' ? [[id, long.to]] : [])));
  const seen = new Set([from.id]);
  for (let at: string | undefined = to.id; at !== undefined; at = next.get(at)) {
    if (seen.has(at)) return false;
    seen.add(at);
  }
  return true;
}

/**
 * Cuts text at a space, between two letters of a script without spaces, at a line break or between two blocks, so that each
 * box holds as much as fits it.
 */
export const GOING_ON_PRELUDE = `#let many-of = [a#box[]].func()
#let set-of = text(red)[a].func()
#let between = regex("\\\\s+|[\\\\p{Han}\\\\p{Hiragana}\\\\p{Katakana}]")
#let holding = (strong, emph, underline, link, par, align)
#let whole-blocks = (heading, list, enum, table, grid, block, pad, image)
#let held(it) = if it.func() == set-of { it.child } else { it.body }
#let again(it, inner) = {
  let kind = it.func()
  if kind == set-of { set-of(inner, it.styles) } else if kind == link { link(it.dest, inner) } else if kind == align { align(it.alignment, inner) } else { kind(inner) }
}
#let cuts(it) = {
  if it == none { return 0 }
  let kind = it.func()
  if kind == text { it.text.matches(between).len() }
  else if kind == many-of { it.children.map(cuts).sum(default: 0) }
  else if kind == par { cuts(it.body) + 1 }
  else if kind == set-of or kind in holding { cuts(held(it)) }
  else if kind == linebreak or kind in whole-blocks or it == [ ] { 1 }
  else { 0 }
}
#let cut(it, n) = {
  if it == none or n <= 0 { return (none, it) }
  let kind = it.func()
  if n > cuts(it) { (it, none) }
  else if kind == text {
    let at = it.text.matches(between).at(n - 1)
    let head = it.text.slice(0, at.end).trim(at: end)
    let rest = it.text.slice(at.end)
    (text(head), if rest == "" { none } else { text(rest) })
  } else if kind == many-of {
    let (head, rest, left) = ((), (), n)
    for child in it.children {
      let most = cuts(child)
      if left <= 0 { rest.push(child) }
      else if left > most { head.push(child); left -= most }
      else {
        let (one, other) = cut(child, left)
        if one != none { head.push(one) }
        if other != none { rest.push(other) }
        left = 0
      }
    }
    (head.join(), rest.join())
  } else if kind == par and n > cuts(it.body) { (it, none) }
  else if kind == set-of or kind in holding {
    let (one, other) = cut(held(it), n)
    (if one != none { again(it, one) }, if other != none { again(it, other) })
  } else { (if kind == linebreak or it == [ ] { none } else { it }, none) }
}
// How much of a text is in each of the rooms that it goes on in. What is too much for all of them is in the last one.
#let shared-out(rooms) = {
  let (shares, rest) = ((), none)
  let last = rooms.filter(room => room.there).len()
  let at = 0
  for room in rooms {
    if not room.there { shares.push(none); continue }
    at += 1
    rest = if rest == none { room.own } else if room.own == none { rest } else { rest + room.own }
    let fits(some) = some == none or measure(block(width: room.width, (room.set-as)(some))).height <= room.height + 0.01pt
    if at == last or fits(rest) { shares.push(rest); rest = none; continue }
    let (low, top) = (0, cuts(rest))
    while top - low > 1 {
      let half = calc.quo(low + top, 2)
      if fits(cut(rest, half).first()) { low = half } else { top = half }
    }
    let (head, tail) = cut(rest, low)
    shares.push(head)
    rest = tail
  }
  (rooms, shares)
}
#let on-box(n, at, size, vertical, words, (rooms, shares)) = context {
  let slack = 0.01pt
  let (room, it) = (rooms.at(at), shares.at(at))
  let set-it = if it == none { [] } else { (room.set-as)(it) }
  let used = measure(block(width: room.width, set-it)).height
  let wide = words.fold(0pt, (most, word) => calc.max(most, measure((room.set-as)(text(word))).width))
  let goes-on = shares.slice(at + 1).any(share => share != none)
  told(n, if it == none and not goes-on { "blank" } else if used > room.height + slack or wide > room.width + slack { "long" } else if goes-on { "goes-on" } else { "fits" }, size, used)
  block(width: room.width, height: room.height, align(vertical, set-it))
}
`;
