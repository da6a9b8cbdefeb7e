import type { Band } from '../../column/index.js';
import { bandOf, bandsByShare, countedMark, Ladder, type Banded } from '../band/band.js';
import { blank, error, number, text, truth, type Cell } from '../cell.js';
import { step, type Step, type Term } from '../explanation.js';
import { groupNotices, keyPoints, MANY, MarkScale } from '../mark-scale.js';
import { HUNDRED, plainRatio, ratio, sum, withSign, type Ratio } from '../ratio.js';
import type { ReckonerInput, Notice, Reckoner } from '../reckoner.js';

/** A column that says which band a mark is in. */
export class BandReckoner implements Reckoner {
  readonly together: boolean;
  private byShare = new Map<number, { band: Band; size: number } | null>();

  private readonly ladder: Ladder;
  private readonly scale: MarkScale;

  constructor(private readonly input: ReckonerInput<'band'>) {
    const { rollCells, worked } = input;
    this.ladder = new Ladder(worked.bands);
    this.scale = new MarkScale(rollCells, worked.of, worked.outOf);
    this.together = input.worked.basis === 'shares';
  }

  /** The mark that is looked up, before it is rounded. */
  private mark(cell: Extract<Cell, { kind: 'number' }>): Ratio {
    return this.scale.mark(this.input.worked.asShown ? ratio(cell.shown) : cell.exact);
  }

  begin(): void {
    const { worked, rollCells } = this.input;
    this.byShare = new Map();
    if (!this.together) return;
    const groups = new Map<string, { at: number; mark: Ratio }[]>();
    for (let at = 0; at < rollCells.entries.length; at++) {
      const cell = rollCells.cell(worked.of, at);
      if (cell.kind !== 'number' || !rollCells.isIn(at)) continue;
      const name = rollCells.group(worked.within, at);
      const list = groups.get(name);
      if (list) list.push({ at, mark: cell.exact });
      else groups.set(name, [{ at, mark: cell.exact }]);
    }
    for (const members of groups.values()) {
      const few = members.length < worked.least;
      const bands = few
        ? []
        : bandsByShare(
            worked.bands,
            members.map(({ mark }) => mark),
            worked.ties,
          );
      members.forEach(({ at }, n) =>
        this.byShare.set(at, few ? null : { band: bands[n]!, size: members.length }),
      );
    }
  }

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    const cell = rollCells.cell(worked.of, at);
    if (cell.kind === 'error') return cell;
    if (cell.kind !== 'number')
      return cell.kind === 'blank'
        ? blank(cell.why ?? `“${rollCells.title(worked.of)}” is blank`)
        : error('#VALUE!', `“${rollCells.title(worked.of)}” is no number here.`);
    if (worked.basis === 'shares') {
      const place = this.byShare.get(at);
      if (!place)
        return blank(
          rollCells.isIn(at) ? `fewer than ${worked.least} learners have a mark` : 'the entry is left out',
        );
      return this.give(place.band, null);
    }
    if (worked.give !== 'distance') {
      const band = this.ladder.bands[this.ladder.placeOf(countedMark(worked, this.mark(cell)))];
      return band ? this.give(band, null) : blank('the mark is below all bands');
    }
    const banded = bandOf(worked, this.mark(cell), this.ladder);
    return banded ? this.give(banded.band, banded) : blank('the mark is below all bands');
  }

  private give(band: Band, banded: Banded | null): Cell {
    const { worked } = this.input;
    switch (worked.give) {
      case 'label':
        return text(band.label);
      case 'points':
        return band.points === undefined
          ? blank(`the band ${band.label} stands for no number`)
          : number(ratio(band.points), null);
      case 'pass':
        return band.pass === undefined ? truth(false) : text(worked.passWords[band.pass ? 0 : 1]);
      case 'distance':
        return banded?.next
          ? text(`${this.say(banded.next.missing)} below ${banded.next.band.label}`)
          : blank('there is no band above');
    }
  }

  /** The places of those who are in and just below the next band, with how much is missing. */
  borderline(): { at: number; missing: Ratio; next: Band }[] {
    const { worked, rollCells } = this.input;
    if (worked.basis !== 'thresholds') return [];
    return rollCells.entries.flatMap((_, at) => {
      const cell = rollCells.isIn(at) ? rollCells.cell(worked.of, at) : null;
      const banded = cell?.kind === 'number' ? bandOf(worked, this.mark(cell), this.ladder) : null;
      return banded?.borderline ? [{ at, missing: banded.next!.missing, next: banded.next!.band }] : [];
    });
  }

  explain(at: number): Step[] {
    const { worked, rollCells } = this.input;
    const cell = rollCells.cell(worked.of, at);
    if (cell.kind !== 'number') return [];
    const title = rollCells.title(worked.of);
    if (worked.basis === 'shares') {
      const place = this.byShare.get(at);
      return place
        ? [
            step(
              `${title} among ${place.size} learners`,
              worked.bands.map((band): Term => ({
                text: `${band.label} ${band.share ?? 0} %`,
                struck: band !== place.band,
              })),
              place.band.label,
            ),
          ]
        : [];
    }
    const mark = this.mark(cell);
    const banded = bandOf(worked, mark, this.ladder);
    const { whole } = this.scale;
    const percent = whole
      ? [
          step(
            title,
            [`${this.say(worked.asShown ? ratio(cell.shown) : cell.exact)} of ${this.say(whole)}`],
            `${this.say(mark)} %`,
          ),
        ]
      : worked.asShown
        ? [step(`${title}, as it is shown`, [this.say(cell.exact)], this.say(mark))]
        : [];
    if (!banded) return [...percent, step(title, [this.say(mark)], 'below all bands')];
    const counted =
      worked.before && !banded.counted.equals(mark)
        ? [step(`${title}, rounded before its band is looked up`, [this.say(mark)], this.say(banded.counted))]
        : [];
    const from =
      banded.band.from === null
        ? 'the lowest band'
        : `${banded.band.label} from ${this.number(banded.band.from)}`;
    const steps = [
      ...percent,
      ...counted,
      step(worked.before ? 'Band' : title, [`${this.say(banded.counted)}`, from], banded.band.label),
    ];
    if (banded.next)
      steps.push(
        step('To the next band', [
          {
            text: `${this.say(banded.next.missing)} below ${banded.next.band.label}`,
            ...(banded.borderline ? { note: 'borderline' } : {}),
          },
        ]),
      );
    return steps;
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 4), this.input.rollCells.decimal(this.input.column.id));
  }

  private number(decimal: string): string {
    return withSign(decimal, this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { worked, column, rollCells } = this.input;
    const notices: Notice[] =
      worked.basis === 'shares' ? groupNotices(rollCells, column.title, worked.within) : [];
    if (worked.basis === 'shares') {
      const total = sum(worked.bands.map(({ share }) => ratio(share ?? '0')));
      if (!total.equals(HUNDRED))
        notices.push({
          code: 'shares-sum',
          places: [],
          say: () =>
            `The shares of “${column.title}” add up to ${this.say(total)} %, not to 100 %. They are counted in proportion.`,
        });
      return notices;
    }
    const twice = worked.bands.find((band) => !this.ladder.bands.includes(band));
    if (twice)
      notices.push({
        code: 'threshold-twice',
        places: [],
        say: () =>
          `Two bands of “${column.title}” begin at ${twice.from === null ? 'the bottom' : this.number(twice.from)}, so “${twice.label}” is never given. Change one of them.`,
      });
    const most = this.scale.whole === null ? keyPoints(rollCells, worked.of) : null;
    const top = this.ladder.bands.at(-1)?.from;
    if (most && top && ratio(top).compare(most) > 0)
      notices.push({
        code: 'band-points',
        places: [],
        say: () =>
          `“${column.title}” looks up points out of ${this.say(most)} as if they were percent, so nobody can reach “${this.ladder.bands.at(-1)!.label}”. Say that they are out of ${this.say(most)}.`,
      });
    const below: number[] = [];
    const shown: number[] = [];
    const places = new Set<number>();
    let learners = 0;
    for (let at = 0; at < rollCells.entries.length; at++) {
      const cell = rollCells.isIn(at) ? rollCells.cell(worked.of, at) : null;
      if (cell?.kind !== 'number') continue;
      const place = this.ladder.placeOf(countedMark(worked, this.mark(cell)));
      learners++;
      places.add(place);
      if (place < 0) below.push(at);
      if (this.ladder.placeOf(countedMark(worked, this.scale.mark(ratio(cell.shown)))) !== place)
        shown.push(at);
    }
    if (learners >= MANY && places.size === 1 && this.ladder.bands.length > 1)
      notices.push({
        code: 'all-alike',
        places: [],
        say: () =>
          `All ${learners} learners get the same band of “${column.title}”. Look whether the marks and the bands mean the same: points, or percent.`,
      });
    if (shown.length > 0) {
      const cell = rollCells.cell(worked.of, shown[0]!) as Extract<Cell, { kind: 'number' }>;
      notices.push({
        code: 'band-shown',
        places: shown,
        say: (who) =>
          `“${column.title}” looks up more of the mark than is shown: ${this.number(cell.shown)} of ${who} gets another band than a full ${this.number(cell.shown)} would. Choose that it counts as it is shown, if it should.`,
      });
    }
    if (below.length > 0)
      notices.push({
        code: 'below-bands',
        places: below,
        say: (who) =>
          `The mark of ${who} is below all bands of “${column.title}”, which stays blank there. Add a band without a lower end.`,
      });
    return notices;
  }
}
