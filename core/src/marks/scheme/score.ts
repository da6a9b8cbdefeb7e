import type { MarkScheme, MarkState, Piece, PieceGroup } from '../../column/index.js';
import { HUNDRED, ONE, ratio, sum, ZERO, type Ratio } from '../../ratio/index.js';
import { bestKept, meanOf } from './best-kept.js';
import type { Mark } from './read-mark.js';

/** One piece for one learner. */
export interface PieceScore {
  readonly piece: Piece;
  readonly mark: Mark;
  /** `yes`: it counts. `open`: it is still to come. `no`: it does not count at all. */
  readonly counts: 'yes' | 'open' | 'no';
  /** Share of the points, 1 being all of them, after policies and lateness. */
  readonly share: Ratio;
  readonly weight: Ratio;
  /** Left out because others are better. */
  readonly dropped: boolean;
  readonly late: { readonly days: number; readonly lost: Ratio } | null;
}

export interface GroupScore {
  readonly group: PieceGroup;
  readonly pieces: readonly PieceScore[];
  /** Percent of 100; null where nothing counts. */
  readonly mark: Ratio | null;
  /** The mark before it was cut at the cap, where it was. */
  readonly uncut: Ratio | null;
  /** What the group counts for in the whole. */
  readonly weight: Ratio;
  /** What the extra pieces of a group without a mark add above the line of the whole; percent times weight. */
  readonly bonus: Ratio;
  /** Part of the group that is still to come, 1 being all of it. */
  readonly open: Ratio;
}

export interface SchemeScore {
  /** Percent of 100; null where nothing counts yet. */
  readonly mark: Ratio | null;
  readonly uncut: Ratio | null;
  /** Percent of the whole weight that is still to come. */
  readonly open: Ratio;
  readonly groups: readonly GroupScore[];
}

/** What stands in the roll for one piece: its mark, and how many days late it came. */
export interface PieceCell {
  readonly mark: Mark;
  readonly daysLate: number;
}

/**
 * Works out a mark scheme for one learner, exactly.
 *
 * A group's mark is the weighted mean of its pieces' shares, with extra pieces added on top; the whole is the weighted
 * mean of the groups that have a mark, so that the weight of a group without one passes to the others. What is dropped and
 * kept is chosen without regard to extra pieces: with groups that have weights so that the group's mark is highest, and
 * where all count by their points so that the whole mark is, which has the same value whichever group a piece is in. Extra
 * pieces of a group that has nothing else, or nothing else that counts yet, are added to the whole: all of them together
 * are then worth what the group weighs. Common practice; no published source.
 *
 * @param cells for each piece of each group, in their order.
 * @param fill what open pieces are taken to come out at, for the range that the mark can still end in; null leaves them
 *   out.
 */
export function scoreScheme(
  scheme: MarkScheme,
  cells: readonly (readonly PieceCell[])[],
  fill: Ratio | null = null,
): SchemeScore {
  const byPoints = scheme.weigh === 'points';
  const pieces = scheme.groups.map((group, g) =>
    group.pieces.map((piece, p) => scorePiece(scheme, group, piece, cells[g]![p]!, fill)),
  );
  const choices = scheme.groups.map((group, g) => choiceOf(group, pieces[g]!));
  // Where all count by their points, the groups are chosen from together.
  const kept = byPoints ? bestKept(choices) : choices.map((choice) => bestKept([choice])[0]!);
  const groups = scheme.groups.map((group, g) =>
    scoreGroup(scheme, group, pieces[g]!, new Set(kept[g]!.map((n) => choices[g]!.pieces[n]!))),
  );
  const counted = groups.filter(({ mark }) => mark !== null);
  const weight = sum(counted.map((group) => group.weight));
  const uncut = weight.equals(0)
    ? null
    : sum([
        ...counted.map((group) => group.weight.mul(group.mark!)),
        ...groups.map(({ bonus }) => bonus),
      ]).div(weight);
  const cap = scheme.cap === null ? null : ratio(scheme.cap);
  const whole = groups.filter(({ mark, open }) => mark !== null || !open.equals(0));
  const wholeWeight = sum(whole.map((group) => openWeight(group, byPoints)));
  return {
    mark: uncut && cap && uncut.compare(cap) > 0 ? cap : uncut,
    uncut: uncut && cap && uncut.compare(cap) > 0 ? uncut : null,
    open: wholeWeight.equals(0)
      ? ZERO
      : sum(whole.map((group) => openWeight(group, byPoints).mul(group.open)))
          .div(wholeWeight)
          .mul(HUNDRED),
    groups,
  };
}

/** What a group weighs once all is in: where points count, its open points too. */
function openWeight(group: GroupScore, byPoints: boolean): Ratio {
  if (!byPoints) return group.weight;
  return sum(
    group.pieces.filter(({ counts, piece }) => counts !== 'no' && !piece.extra).map(({ weight }) => weight),
  );
}

function scorePiece(
  scheme: MarkScheme,
  group: PieceGroup,
  piece: Piece,
  { mark, daysLate }: PieceCell,
  fill: Ratio | null,
): PieceScore {
  const outOf = ratio(piece.outOf);
  const byPoints = scheme.weigh === 'points' || group.weigh === 'points';
  const weight = byPoints ? outOf : group.weigh === 'equal' ? ONE : ratio(piece.weight);
  const result = (counts: PieceScore['counts'], share: Ratio, late: PieceScore['late'] = null): PieceScore =>
    counts === 'open' && fill !== null
      ? { piece, mark, counts: 'yes', share: fill, weight, dropped: false, late }
      : { piece, mark, counts, share, weight, dropped: false, late };
  if (outOf.compare(0) <= 0) return result('no', ZERO);
  switch (mark.kind) {
    case 'points':
    case 'share': {
      const given = mark.kind === 'points' ? mark.points.div(outOf) : mark.share;
      const lost = lateLoss(scheme, given, daysLate);
      const share = given.sub(lost);
      // An extra never lowers, not even with points below zero.
      return result(
        'yes',
        piece.extra && share.compare(0) < 0 ? ZERO : share,
        daysLate > 0 ? { days: daysLate, lost } : null,
      );
    }
    case 'wrong':
      return result('open', ZERO);
    default: {
      // What was not asked for is not missed: it can still come, or it adds nothing.
      if (piece.extra) return result(scheme.states[mark.kind].as === 'open' ? 'open' : 'no', ZERO);
      const { counts, share } = byPolicy(scheme, mark.kind);
      return result(counts, share);
    }
  }
}

/** What a state counts as under the scheme's policy. */
function byPolicy(scheme: MarkScheme, state: MarkState): { counts: PieceScore['counts']; share: Ratio } {
  const policy = scheme.states[state];
  switch (policy.as) {
    case 'zero':
      return { counts: 'yes', share: ZERO };
    case 'share':
      return { counts: 'yes', share: ratio(policy.share ?? '0').div(HUNDRED) };
    case 'skip':
      return { counts: 'no', share: ZERO };
    case 'open':
      return { counts: 'open', share: ZERO };
  }
}

/** What lateness takes away, as a share of the points: so much a day after the days of grace, never below the floor. */
function lateLoss(scheme: MarkScheme, given: Ratio, daysLate: number): Ratio {
  const { late } = scheme;
  const days = late ? daysLate - late.grace : 0;
  if (!late || days <= 0) return ZERO;
  const daily = ratio(late.perDay).div(HUNDRED);
  const loss = daily.mul(days).mul(late.of === 'mark' ? given : ONE);
  const most = given.sub(ratio(late.floor).div(HUNDRED));
  if (most.compare(0) <= 0) return ZERO;
  return loss.compare(most) > 0 ? most : loss;
}

const asked = (pieces: readonly PieceScore[]): PieceScore[] =>
  pieces.filter(({ counts, piece }) => counts === 'yes' && !piece.extra);

/** A piece that weighs nothing neither takes the place of another nor is dropped for one. */
function choiceOf(group: PieceGroup, pieces: readonly PieceScore[]) {
  const weighed = asked(pieces).filter(({ weight }) => !weight.equals(0));
  return { pieces: weighed, count: Math.min(group.keep ?? Infinity, weighed.length - group.drop) };
}

/** What extra pieces add above the line. */
const extraOf = (pieces: readonly PieceScore[]): Ratio =>
  sum(
    pieces
      .filter(({ counts, piece }) => counts === 'yes' && piece.extra)
      .map(({ weight, share }) => weight.mul(share)),
  );

/**
 * What extra pieces add to the whole where their group has no mark of its own: by points their points, else their part of
 * the group's weight, out of its other pieces once they are in, or out of all its extras where it has no others.
 */
function bonusOf(scheme: MarkScheme, group: PieceGroup, pieces: readonly PieceScore[]): Ratio {
  const extra = extraOf(pieces);
  if (extra.equals(0)) return ZERO;
  const weigh = (of: (piece: PieceScore) => boolean): Ratio =>
    sum(pieces.filter(of).map(({ weight }) => weight));
  const others = weigh(({ piece }) => !piece.extra);
  const all = others.equals(0) ? weigh(({ piece }) => piece.extra) : others;
  const percent = extra.div(all).mul(HUNDRED);
  const cap = group.cap === null ? percent : ratio(group.cap);
  return (percent.compare(cap) > 0 ? cap : percent).mul(
    scheme.weigh === 'points' ? all : ratio(group.weight),
  );
}

function scoreGroup(
  scheme: MarkScheme,
  group: PieceGroup,
  pieces: readonly PieceScore[],
  kept: ReadonlySet<PieceScore>,
): GroupScore {
  const keptWeight = sum([...kept].map(({ weight }) => weight));
  const mean = meanOf([...kept], extraOf(pieces));
  const uncut = mean === null ? null : mean.mul(HUNDRED);
  const cap = group.cap === null ? null : ratio(group.cap);
  const cut = uncut !== null && cap !== null && uncut.compare(cap) > 0;
  const openWeight = sum(
    pieces.filter(({ counts, piece }) => counts === 'open' && !piece.extra).map(({ weight }) => weight),
  );
  const bonus = mean === null ? bonusOf(scheme, group, pieces) : ZERO;
  const all = openWeight.add(sum(asked(pieces).map(({ weight }) => weight)));
  return {
    group,
    pieces: pieces.map((piece) =>
      piece.counts === 'yes' && !piece.piece.extra && !piece.weight.equals(0) && !kept.has(piece)
        ? { ...piece, dropped: true }
        : piece,
    ),
    mark: cut ? cap : uncut,
    uncut: cut ? uncut : null,
    weight: scheme.weigh === 'points' ? keptWeight : ratio(group.weight),
    bonus,
    open: all.equals(0) ? ZERO : openWeight.div(all),
  };
}
