import {
  readNumber,
  readPercentage,
  MARK_STATES,
  type MarkScheme,
  type MarkState,
} from '../../column/index.js';
import { HUNDRED, ratio, type Ratio } from '../../ratio/index.js';
import { NOTHING, SCALE, scaledPoints, type QuickMark } from './fast-score.js';

/** What a mark's cell says. */
export type Mark =
  /** `scaled` is the points in ten thousandths, where they are a whole number of them. */
  | { readonly kind: 'points'; readonly points: Ratio; readonly scaled: number; readonly written: string }
  /** So many percent of the points that there are. */
  | { readonly kind: 'share'; readonly share: Ratio; readonly written: string }
  | { readonly kind: MarkState }
  /** Neither a number nor a word that the scheme knows. */
  | { readonly kind: 'wrong'; readonly written: string };

/**
 * Reads the cells of marks under a scheme's words. `17`, `17.5` are points, `17/20` are points out of 20 and a share of
 * whatever the piece is out of, `85 %` is a share. The same text is read once.
 *
 * @param decimal the decimal sign of the column.
 */
export class MarkReader {
  private readonly words = new Map<string, MarkState>();
  /** What was read, by the decimal sign. */
  private readonly stops = new Map<string, Mark>();
  private readonly commas = new Map<string, Mark>();
  /** A word of the scheme that could be taken for points. */
  private readonly numberWord: boolean;

  constructor(private readonly states: MarkScheme['states']) {
    for (const state of MARK_STATES) {
      for (const word of states[state].words) this.words.set(word.trim().toLowerCase(), state);
    }
    this.numberWord = [...this.words.keys()].some((word) => /^\d/.test(word));
  }

  /**
   * A mark for the quick way of `FastScheme`.
   *
   * @param from where the mark begins in the text.
   */
  quick(written: string, decimal: '.' | ',', from = 0): QuickMark {
    const points = this.numberWord ? NaN : plainPoints(written, from, decimal === '.' ? 0x2e : 0x2c);
    // Not a number where it is none of those that are read here.
    if (points >= 0) return points;
    const mark = this.mark(from === 0 ? written : written.slice(from), decimal);
    if (mark.kind === 'points') return mark.scaled >= 0 ? mark.scaled : NaN;
    if (mark.kind === 'share') return NaN;
    return mark.kind !== 'wrong' && this.states[mark.kind].as === 'zero' ? 0 : NOTHING;
  }

  mark(written: string, decimal: '.' | ',' = '.'): Mark {
    const cache = decimal === '.' ? this.stops : this.commas;
    let mark = cache.get(written);
    if (!mark) {
      mark = this.look(written.trim(), decimal);
      if (cache.size < 100_000) cache.set(written, mark);
    }
    return mark;
  }

  private look(written: string, decimal: '.' | ','): Mark {
    if (written === '') return { kind: 'unmarked' };
    const state = this.words.get(written.toLowerCase());
    if (state) return { kind: state };
    const points = plainNumber(written, decimal);
    if (points !== null) return pointsMark(ratio(points), written);
    const share = readPercentage(written, decimal);
    if (share !== null) return { kind: 'share', share: ratio(share).div(HUNDRED), written };
    const [got, most] = written.split('/').map((part) => plainNumber(part.trim(), decimal));
    if (got && most && !ratio(most).equals(0) && written.split('/').length === 2)
      return { kind: 'share', share: ratio(got).div(ratio(most)), written };
    return { kind: 'wrong', written };
  }
}

/** Points of digits alone, with up to four places, in ten thousandths; NaN for everything else. */
function plainPoints(written: string, from: number, decimal: number): number {
  const { length } = written;
  if (length === from || length - from > 10) return NaN;
  let points = 0;
  let scale = 0;
  for (let n = from; n < length; n++) {
    const sign = written.charCodeAt(n);
    if (sign >= 0x30 && sign <= 0x39) {
      points = points * 10 + sign - 0x30;
      scale *= 10;
    } else if (sign === decimal && scale === 0 && n > from && n + 1 < length) scale = 1;
    else return NaN;
  }
  const times = scale === 0 ? SCALE : SCALE / scale;
  return times >= 1 ? points * times : NaN;
}

export const pointsMark = (points: Ratio, written: string): Mark => ({
  kind: 'points',
  points,
  scaled: scaledPoints(points),
  written,
});

/** A number as people write marks and answers: a zero may stand before it, `07`. Null where it is none. */
export const plainNumber = (written: string, decimal: '.' | ','): string | null =>
  readNumber(written.replace(/^([+-]?)0+(?=\d)/, '$1'), decimal);
