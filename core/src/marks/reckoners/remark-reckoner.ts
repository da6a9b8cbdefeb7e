import { phrase, saying } from '../../sentences/index.js';
import { valueOf } from '../../roll/index.js';
import type { Remark } from '../../column/index.js';
import { blank, blankFor, error, text, type Cell } from '../cell.js';
import { step, type Step, type Term } from '../explanation.js';
import { ONE, plainRatio, ratio, roundRatio, type Ratio } from '../../ratio/index.js';
import { inOrder } from '../cohort/statistics.js';
import { groupNotices, MANY, placesShown, MarkScale } from '../mark-scale.js';
import { remarkNameId } from '../roll-cells.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';
import { chooseRemarks, fitsMark, lettersOf, remarksFor, writeRemark } from '../remark/choose-remark.js';
import { withoutPronouns, wordForms, type WordForms } from '../remark/pronouns.js';

/** A column with a remark for each learner. */
export class RemarkReckoner implements Reckoner {
  readonly together = true;
  private chosen: (Remark | null)[] = [];
  private fitting: readonly Remark[] = [];
  private readonly scale: MarkScale;
  /** Decimal places of the ranges' ends, to which percent are rounded before they are looked up. */
  private places = 0;

  constructor(private readonly input: ReckonerInput<'remark'>) {
    this.scale = new MarkScale(input.rollCells, input.worked.of, input.worked.outOf);
  }

  begin(): void {
    const { worked, rollCells } = this.input;
    this.fitting = remarksFor(worked, this.bank());
    this.places = Math.min(
      6,
      Math.max(0, ...this.fitting.flatMap(({ from, to }) => [placesOf(from), placesOf(to)])),
    );
    this.chosen = chooseRemarks(
      this.fitting,
      rollCells.entries.map((entry, at) => ({
        id: entry.id,
        mark: rollCells.isIn(at) ? this.mark(at) : null,
        className: rollCells.group(worked.within, at),
      })),
    );
  }

  private bank(): readonly Remark[] {
    const { worked, rollCells } = this.input;
    const other = worked.bankOf ? rollCells.columns.get(worked.bankOf)?.worked : undefined;
    return other?.kind === 'remark' ? other.bank : worked.bank;
  }

  /** The mark as it is shown, which is what people look the range up for. */
  private mark(at: number): Ratio | null {
    const cell = this.input.rollCells.cell(this.input.worked.of, at);
    return cell.kind === 'number' ? this.markOf(cell) : null;
  }

  private markOf({ shown }: Extract<Cell, { kind: 'number' }>): Ratio {
    if (!this.scale.whole) return ratio(shown);
    return ratio(roundRatio(this.scale.mark(ratio(shown)), { places: this.places, mode: 'half up' }));
  }

  private name(at: number): string {
    const { worked, rollCells } = this.input;
    return (
      rollCells.written(remarkNameId(worked, rollCells.roll.columns), at).trim() || phrase('the-learner')
    );
  }

  private forms(at: number): { forms: WordForms; known: boolean } {
    const { worked, rollCells } = this.input;
    const name = this.name(at);
    const forms = wordForms(name, rollCells.written(worked.pronounId, at));
    return forms ? { forms, known: true } : { forms: withoutPronouns(name), known: false };
  }

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    const cell = rollCells.cell(worked.of, at);
    if (cell.kind === 'error') return cell;
    const chosen = this.chosen[at];
    if (chosen) return text(writeRemark(chosen, this.forms(at).forms));
    if (cell.kind !== 'number')
      return cell.kind === 'blank'
        ? blankFor(cell.why ?? saying('column-blank', { title: rollCells.title(worked.of) }))
        : error('#VALUE!', 'value-no-number', { title: rollCells.title(worked.of) });
    return blank(rollCells.isIn(at) ? 'no-remark' : 'left-out');
  }

  /** The remarks that fit an entry, written for it. */
  suggestions(at: number): { id: string; text: string }[] {
    const mark = this.mark(at);
    const { forms } = this.forms(at);
    return this.fitting
      .filter((remark) => mark !== null && fitsMark(remark, mark))
      .map((remark) => ({ id: remark.id, text: writeRemark(remark, forms) }));
  }

  explain(at: number): Step[] {
    const { worked, rollCells } = this.input;
    const cell = rollCells.cell(worked.of, at);
    if (cell.kind !== 'number') return [];
    const chosen = this.chosen[at];
    const { forms, known } = this.forms(at);
    const mark = this.markOf(cell);
    const { whole } = this.scale;
    const title = rollCells.title(worked.of);
    const steps = [
      step(
        whole
          ? phrase('mark-of-whole', {
              title,
              mark: cell.shown,
              whole: plainRatio(whole),
              percent: plainRatio(mark),
            })
          : `${title} ${cell.shown}`,
        this.fitting
          .filter((remark) => fitsMark(remark, mark))
          .map((remark): Term => ({
            text: short(writeRemark(remark, forms)),
            struck: remark !== chosen,
            note: phrase('mark-range', { from: remark.from, to: remark.to }),
          })),
        null,
      ),
    ];
    const pronouns = rollCells.written(worked.pronounId, at).trim();
    steps.push(
      step(phrase('pronouns'), [
        known ? pronouns || phrase('pronouns-avoided') : phrase('pronouns-strange', { pronouns }),
      ]),
    );
    if (chosen) {
      const length = lettersOf(writeRemark(chosen, forms));
      steps.push(step(phrase('length'), [phrase('letters', { letters: length, room: worked.room })]));
    }
    return steps;
  }

  /** Ends of ranges between which a mark could be shown that nothing fits. */
  private gaps(): [string, string][] {
    const { rollCells, worked } = this.input;
    const cells = rollCells.entries.map((_, at) => rollCells.cell(worked.of, at));
    const shown = this.scale.whole ? this.places : Math.min(6, placesShown(cells));
    const least = ONE.div(10 ** shown);
    const sorted = inOrder(
      this.fitting.filter(({ from }) => from !== null),
      ({ from }) => ratio(from!),
    );
    const open = this.fitting.filter(({ from }) => from === null);
    if (open.some(({ to }) => to === null)) return [];
    let end = open.map(({ to }) => to!).sort((a, b) => ratio(b).compare(ratio(a)))[0] ?? null;
    const gaps: [string, string][] = [];
    for (const { from, to } of sorted) {
      if (end !== null && ratio(from!).sub(ratio(end)).compare(least) > 0) gaps.push([end, from!]);
      if (to === null) break;
      if (end === null || ratio(to).compare(ratio(end)) > 0) end = to;
    }
    return gaps;
  }

  notices(): Notice[] {
    const { worked, rollCells, column } = this.input;
    const found = {
      none: [] as number[],
      long: [] as number[],
      unknown: [] as number[],
      same: [] as number[],
    };
    const last = new Map<string, string>();
    const ranges = new Set<string>();
    let learners = 0;
    for (let at = 0; at < rollCells.entries.length; at++) {
      if (!rollCells.isIn(at)) continue;
      const written =
        valueOf(rollCells.entries[at], column.id) ||
        (this.chosen[at] ? writeRemark(this.chosen[at]!, this.forms(at).forms) : '');
      const mark = this.mark(at);
      if (mark !== null) {
        learners++;
        ranges.add(
          this.fitting
            .filter((remark) => fitsMark(remark, mark))
            .map(({ id }) => id)
            .join(' '),
        );
      }
      if (written === '' && mark !== null) found.none.push(at);
      if (worked.room !== null && lettersOf(written) > worked.room) found.long.push(at);
      if (!this.forms(at).known) found.unknown.push(at);
      const group = rollCells.group(worked.within, at);
      const id = this.chosen[at]?.id ?? '';
      if (id && last.get(group) === id) found.same.push(at);
      last.set(group, id);
    }
    const { title } = column;
    const notices: Notice[] = [];
    const [only = ''] = ranges;
    if (learners >= MANY && ranges.size === 1 && only !== '' && only.split(' ').length < this.fitting.length)
      notices.push(notice('remarks-alike', [], { title, learners }));
    for (const [above, below] of this.gaps()) notices.push(notice('remark-gap', [], { title, above, below }));
    notices.push(...groupNotices(rollCells, title, worked.within));
    if (found.none.length > 0) notices.push(notice('remark-none', found.none, { title }));
    if (found.long.length > 0)
      notices.push(notice('remark-long', found.long, { title, room: worked.room ?? 0 }));
    if (found.unknown.length > 0) notices.push(notice('pronouns-unknown', found.unknown, { title }));
    if (found.same.length > 0) notices.push(notice('remark-same', found.same, { title }));
    return notices;
  }
}

const placesOf = (end: string | null): number => end?.split('.')[1]?.length ?? 0;

const short = (value: string): string => (value.length > 70 ? `${value.slice(0, 68)}…` : value);
