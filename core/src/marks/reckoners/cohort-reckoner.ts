import { phrase, saying } from '../../sentences/index.js';
import { blank, blankFor, error, number, text, type Cell } from '../cell.js';
import { percentiles, ranks } from '../cohort/ranks.js';
import { inOrder, mean, median, quantile, standardDeviation } from '../cohort/statistics.js';
import { step, type Step } from '../explanation.js';
import { HUNDRED, plainRatio, ratio, withSign, type Ratio } from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';
import { groupNotices } from '../mark-scale.js';

class Members {
  readonly places: number[] = [];
  readonly values: Ratio[] = [];
  /** What all of them share, or each its own. */
  results: readonly (Ratio | null)[] | Ratio | null = null;
  private inOrder: readonly Ratio[] | undefined;

  /** The values, lowest first. */
  get sorted(): readonly Ratio[] {
    return (this.inOrder ??= inOrder(this.values, (value) => value));
  }
}

/** A column that compares a learner with the others who are in. */
export class CohortReckoner implements Reckoner {
  readonly together: boolean;
  private groups = new Map<string, Members>();
  private place = new Map<number, number>();

  constructor(private readonly input: ReckonerInput<'cohort'>) {
    this.together = input.worked.measure !== 'change';
  }

  begin(): void {
    const { worked, rollCells } = this.input;
    this.groups = new Map();
    this.place = new Map();
    for (let at = 0; at < rollCells.entries.length; at++) {
      const cell = rollCells.cell(worked.of, at);
      if (cell.kind !== 'number' || !rollCells.isIn(at)) continue;
      const name = rollCells.group(worked.within, at);
      let members = this.groups.get(name);
      if (!members) this.groups.set(name, (members = new Members()));
      this.place.set(at, members.places.length);
      members.places.push(at);
      members.values.push(worked.by === 'shown' ? ratio(cell.shown) : cell.exact);
    }
    for (const members of this.groups.values()) {
      members.results = this.measure(members);
    }
  }

  private measure(members: Members): Members['results'] {
    const { worked } = this.input;
    const { values } = members;
    switch (worked.measure) {
      case 'rank':
        return ranks(values, worked.first, worked.ties);
      case 'percentile':
        return percentiles(values, worked.method);
      case 'quarter': {
        const bounds = ['0.25', '0.5', '0.75'].map((p) =>
          quantile(members.sorted, ratio(p), worked.quantileType)!,
        );
        return values.map((value) =>
          ratio(String(1 + bounds.filter((bound) => value.compare(bound) > 0).length)),
        );
      }
      case 'quantile':
        return quantile(members.sorted, ratio(worked.at).div(HUNDRED), worked.quantileType);
      case 'mean':
        return mean(values);
      case 'median':
        return median(members.sorted);
      case 'deviation':
        return standardDeviation(values, worked.spread);
      case 'lowest':
        return members.sorted[0] ?? null;
      case 'highest':
        return members.sorted.at(-1) ?? null;
      case 'count':
        return ratio(String(values.length));
      case 'from mean': {
        const middle = mean(values)!;
        return values.map((value) => value.sub(middle));
      }
      case 'z-score': {
        const middle = mean(values)!;
        const spread = standardDeviation(values, worked.spread);
        return values.map((value) => (spread && !spread.equals(0) ? value.sub(middle).div(spread) : null));
      }
      case 'change':
        return null;
    }
  }

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    const own = rollCells.cell(worked.of, at);
    if (own.kind === 'error') return own;
    if (worked.measure === 'change') return this.change(at, own);
    if (!rollCells.isIn(at)) return blank('left-out');
    const members = this.groups.get(rollCells.group(worked.within, at));
    const n = this.place.get(at);
    // A class mean is told to all of the class; a rank only to those who have a mark.
    if (!members || (n === undefined && Array.isArray(members.results)))
      return own.kind === 'blank'
        ? blankFor(own.why ?? saying('column-blank', { title: rollCells.title(worked.of) }))
        : blank('column-no-number', { title: rollCells.title(worked.of) });
    if (members.values.length < worked.least)
      return worked.fewer ? text(worked.fewer) : blank('too-few', { least: worked.least });
    const result = Array.isArray(members.results)
      ? (members.results as readonly (Ratio | null)[])[n!]!
      : (members.results as Ratio | null);
    if (result === null) return blank('group-small');
    const whole = ['rank', 'quarter', 'count'].includes(worked.measure) && result.d === 1n;
    return number(result, whole ? { places: 0, mode: 'half up' } : worked.rounding);
  }

  private change(at: number, own: Cell): Cell {
    const { worked, rollCells } = this.input;
    const before: Cell = worked.earlier ? rollCells.cell(worked.earlier, at) : blank('no-earlier');
    if (before.kind === 'error') return before;
    if (own.kind !== 'number' || before.kind !== 'number') {
      const missing = own.kind !== 'number' ? worked.of : worked.earlier;
      return missing
        ? blank('column-no-mark', { title: rollCells.title(missing) })
        : error('#REF!', 'earlier-gone');
    }
    const value = (cell: typeof own): Ratio => (worked.by === 'shown' ? ratio(cell.shown) : cell.exact);
    return number(value(own).sub(value(before)), worked.rounding);
  }

  explain(at: number): Step[] {
    const { worked, rollCells } = this.input;
    const own = rollCells.cell(worked.of, at);
    const title = rollCells.title(worked.of);
    const cell = this.row(at);
    const result = cell.kind === 'number' ? this.say(cell.exact) : cell.kind === 'text' ? cell.text : null;
    if (worked.measure === 'change') {
      const before = worked.earlier ? rollCells.cell(worked.earlier, at) : null;
      return own.kind === 'number' && before?.kind === 'number'
        ? [
            step(
              phrase('change'),
              [
                `${title} ${this.say(own.exact)}`,
                `${rollCells.title(worked.earlier!)} ${this.say(before.exact)}`,
              ],
              result,
            ),
          ]
        : [];
    }
    const members = this.groups.get(rollCells.group(worked.within, at));
    if (!members) return [];
    const group = rollCells.groupName(worked.within, at);
    const learners = members.values.length;
    const terms = [
      own.kind === 'number'
        ? `${title} ${this.say(worked.by === 'shown' ? ratio(own.shown) : own.exact)}`
        : title,
      ...this.method(members, own),
    ];
    return [step(phrase('compared', { measure: worked.measure, learners, group }), terms, result)];
  }

  /** How it was reckoned, in the words of the trade. */
  private method(members: Members, own: Cell): string[] {
    const { worked } = this.input;
    const { values } = members;
    const value = own.kind === 'number' ? (worked.by === 'shown' ? ratio(own.shown) : own.exact) : null;
    const count = (test: (other: Ratio) => boolean): number => values.filter(test).length;
    switch (worked.measure) {
      case 'rank':
        return value
          ? [
              phrase('so-many-above', { count: count((other) => other.compare(value) > 0) }),
              phrase('so-many-alike', { count: count((other) => other.equals(value)) - 1 }),
              phrase('ranking', { ties: worked.ties }),
            ]
          : [];
      case 'percentile':
        return value
          ? [
              phrase('so-many-below', { count: count((other) => other.compare(value) < 0) }),
              phrase('so-many-alike', { count: count((other) => other.equals(value)) - 1 }),
              phrase('counted-as', { method: worked.method }),
            ]
          : [];
      case 'quarter':
      case 'quantile':
        return [
          ...(worked.measure === 'quantile'
            ? [phrase('percent', { value: String(worked.at) })]
            : ['0.25', '0.5', '0.75'].map((p) =>
                this.say(quantile(members.sorted, ratio(p), worked.quantileType)!),
              )),
          phrase('quantile-type', { type: worked.quantileType }),
        ];
      case 'deviation':
        return [phrase('of-a-spread', { spread: worked.spread })];
      case 'z-score': {
        const spread = standardDeviation(values, worked.spread);
        return [
          phrase('the-mean', { value: this.say(mean(values)!) }),
          ...(spread ? [phrase('the-deviation', { value: this.say(spread), spread: worked.spread })] : []),
        ];
      }
      case 'from mean':
        return [phrase('the-mean', { value: this.say(mean(values)!) })];
      default:
        return [];
    }
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 2), this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { worked, column, rollCells } = this.input;
    if (worked.measure === 'change') return [];
    const notices = groupNotices(rollCells, column.title, worked.within);
    const alone = [...this.groups.values()].filter(({ values }) => values.length === 1);
    if (alone.length === 0 || worked.least > 1) return notices;
    return [
      ...notices,
      notice(
        'cohort-of-one',
        alone.flatMap(({ places }) => places),
        { title: column.title, of: rollCells.title(worked.of) },
      ),
    ];
  }
}
