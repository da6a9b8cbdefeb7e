import { phrase, saying } from '../../sentences/index.js';
import type { Band } from '../../column/index.js';
import { bandOf, bandsByShare, countedMark, Ladder, type Banded } from '../band/band.js';
import { blank, blankFor, error, number, text, truth, type Cell } from '../cell.js';
import { step, type Step, type Term } from '../explanation.js';
import { groupNotices, keyPoints, MANY, MarkScale } from '../mark-scale.js';
import { HUNDRED, plainRatio, ratio, sum, withSign, type Ratio } from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';

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
        ? blankFor(cell.why ?? saying('column-blank', { title: rollCells.title(worked.of) }))
        : error('#VALUE!', 'value-no-number', { title: rollCells.title(worked.of) });
    if (worked.basis === 'shares') {
      const place = this.byShare.get(at);
      if (!place) return rollCells.isIn(at) ? blank('too-few', { least: worked.least }) : blank('left-out');
      return this.give(place.band, null);
    }
    if (worked.give !== 'distance') {
      const band = this.ladder.bands[this.ladder.placeOf(countedMark(worked, this.mark(cell)))];
      return band ? this.give(band, null) : blank('no-band');
    }
    const banded = bandOf(worked, this.mark(cell), this.ladder);
    return banded ? this.give(banded.band, banded) : blank('no-band');
  }

  private give(band: Band, banded: Banded | null): Cell {
    const { worked } = this.input;
    switch (worked.give) {
      case 'label':
        return text(band.label);
      case 'points':
        return band.points === undefined
          ? blank('band-no-number', { band: band.label })
          : number(ratio(band.points), null);
      case 'pass':
        return band.pass === undefined ? truth(false) : text(worked.passWords[band.pass ? 0 : 1]);
      case 'distance':
        return banded?.next ? text(this.below(banded.next)) : blank('no-band-above');
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
              phrase('among-learners', { title, learners: place.size }),
              worked.bands.map((band): Term => ({
                text: phrase('band-share', { band: band.label, share: band.share ?? 0 }),
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
            [
              phrase('of-whole', {
                value: this.say(worked.asShown ? ratio(cell.shown) : cell.exact),
                whole: this.say(whole),
              }),
            ],
            phrase('percent', { value: this.say(mark) }),
          ),
        ]
      : worked.asShown
        ? [step(phrase('as-shown', { title }), [this.say(cell.exact)], this.say(mark))]
        : [];
    if (!banded) return [...percent, step(title, [this.say(mark)], phrase('below-all-bands'))];
    const counted =
      worked.before && !banded.counted.equals(mark)
        ? [step(phrase('rounded-before', { title }), [this.say(mark)], this.say(banded.counted))]
        : [];
    const from =
      banded.band.from === null
        ? phrase('lowest-band')
        : phrase('band-from', { band: banded.band.label, from: this.number(banded.band.from) });
    const steps = [
      ...percent,
      ...counted,
      step(worked.before ? phrase('band') : title, [this.say(banded.counted), from], banded.band.label),
    ];
    if (banded.next)
      steps.push(
        step(phrase('to-next-band'), [
          {
            text: this.below(banded.next),
            ...(banded.borderline ? { note: phrase('borderline') } : {}),
          },
        ]),
      );
    return steps;
  }

  private below({ missing, band }: NonNullable<Banded['next']>): string {
    return phrase('below-band', { missing: this.say(missing), band: band.label });
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 4), this.input.rollCells.decimal(this.input.column.id));
  }

  private number(decimal: string): string {
    return withSign(decimal, this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { worked, column, rollCells } = this.input;
    const { title } = column;
    const notices: Notice[] = worked.basis === 'shares' ? groupNotices(rollCells, title, worked.within) : [];
    if (worked.basis === 'shares') {
      const total = sum(worked.bands.map(({ share }) => ratio(share ?? '0')));
      if (!total.equals(HUNDRED)) notices.push(notice('shares-sum', [], { title, total: this.say(total) }));
      return notices;
    }
    const twice = worked.bands.find((band) => !this.ladder.bands.includes(band));
    if (twice)
      notices.push(
        notice('threshold-twice', [], {
          title,
          from: twice.from === null ? null : this.number(twice.from),
          band: twice.label,
        }),
      );
    const most = this.scale.whole === null ? keyPoints(rollCells, worked.of) : null;
    const top = this.ladder.bands.at(-1)?.from;
    if (most && top && ratio(top).compare(most) > 0)
      notices.push(
        notice('band-points', [], { title, most: this.say(most), band: this.ladder.bands.at(-1)!.label }),
      );
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
      notices.push(notice('bands-alike', [], { title, learners }));
    if (shown.length > 0) {
      const cell = rollCells.cell(worked.of, shown[0]!) as Extract<Cell, { kind: 'number' }>;
      notices.push(notice('band-shown', shown, { title, shown: this.number(cell.shown) }));
    }
    if (below.length > 0) notices.push(notice('below-bands', below, { title }));
    return notices;
  }
}
