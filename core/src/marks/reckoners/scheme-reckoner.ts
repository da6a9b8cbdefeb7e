import { phrase } from '../../sentences/index.js';
import type { Piece } from '../../column/index.js';
import { blank, number, sourceError, type Cell } from '../cell.js';
import { step, type Step, type Term } from '../explanation.js';
import {
  HUNDRED,
  ONE,
  plainRatio,
  ratio,
  roundRatio,
  sum,
  withSign,
  ZERO,
  type Ratio,
} from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';
import { FastScheme, scaledPoints, type QuickMark } from '../scheme/fast-score.js';
import { MarkReader, pointsMark, type Mark } from '../scheme/read-mark.js';
import {
  scoreScheme,
  type GroupScore,
  type PieceCell,
  type PieceScore,
  type SchemeScore,
} from '../scheme/score.js';
import { daysLate, type Lateness } from '../scheme/lateness.js';

/** A mark scheme's column: the mark in percent of 100. */
export class SchemeReckoner implements Reckoner {
  readonly together = false;
  private readonly reader: MarkReader;
  private readonly fast: FastScheme | null;
  /** For each group, where its marks stand. */
  private readonly places: { id: string; worked: boolean; decimal: '.' | ',' }[][];

  private readonly read: Mark[][];
  private readonly quick: QuickMark[][];
  /** What each piece is out of, in ten thousandths of a point. */
  private readonly most: number[][];
  private readonly pieces: number;
  /** A piece's column that is no longer there. */
  private readonly goneId: string | undefined;

  constructor(private readonly input: ReckonerInput<'scheme'>) {
    const { worked, rollCells } = input;
    const ids = worked.groups.flatMap(({ pieces }) => pieces.map(({ columnId }) => columnId));
    this.pieces = ids.length;
    this.goneId = ids.find((id) => !rollCells.columns.has(id));
    this.reader = new MarkReader(worked.states);
    this.fast = FastScheme.of(worked);
    this.read = worked.groups.map(() => []);
    this.quick = worked.groups.map(({ pieces }) => pieces.map(() => NaN));
    this.most = worked.groups.map(({ pieces }) =>
      pieces.map(({ outOf }) => ratio(outOf).mul(10_000).valueOf()),
    );
    this.places = worked.groups.map(({ pieces }) =>
      pieces.map(({ columnId }) => ({
        id: columnId,
        worked: rollCells.columns.get(columnId)?.worked !== undefined,
        decimal: rollCells.decimal(columnId),
      })),
    );
  }

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    if (this.pieces === 0) return blank('no-pieces');
    if (this.goneId !== undefined) return rollCells.cell(this.goneId, at);
    const quick = this.fast?.mark(this.quickMarks(at));
    if (quick) return number(quick, worked.rounding);
    const { mark } = this.score(at);
    if (this.failed) return this.failed;
    return mark === null ? blank(this.whyNothing(at)) : number(mark, worked.rounding);
  }

  /** The whole reckoning; `fill` is what open pieces are taken to come out at. */
  score(at: number, fill: Ratio | null = null): SchemeScore {
    return scoreScheme(this.input.worked, this.cells(at), fill);
  }

  private whyNothing(at: number): 'nothing-marked' | 'all-is-dropped' | 'nothing-counts' {
    const counts = this.score(at).groups.flatMap(({ pieces }) => pieces.map((piece) => piece.counts));
    if (counts.includes('open')) return 'nothing-marked';
    return counts.includes('yes') ? 'all-is-dropped' : 'nothing-counts';
  }

  /** The error of the entry that was looked at last, where one of its marks is one. */
  private failed: Cell | null = null;

  /** The marks of an entry, in lists that are used again for the next one. */
  private marks(at: number): readonly (readonly Mark[])[] {
    const { values, exact } = this.input.rollCells.entries[at]!;
    this.failed = null;
    for (let g = 0; g < this.places.length; g++) {
      const group = this.places[g]!;
      const marks = this.read[g]!;
      for (let p = 0; p < group.length; p++) {
        const { id, worked, decimal } = group[p]!;
        const known = exact?.[id];
        if (worked) marks[p] = this.workedMark(id, at, decimal);
        else if (known?.startsWith('e:') && !values[id]?.trim()) {
          this.failed ??= sourceError(known);
          marks[p] = { kind: 'unmarked' };
        } else if (known?.startsWith('n:')) marks[p] = this.reader.mark(known.slice(2), '.');
        else if (known?.startsWith('p:')) marks[p] = this.reader.mark(`${known.slice(2)}%`, '.');
        else marks[p] = this.reader.mark(values[id] ?? '', decimal);
      }
    }
    return this.read;
  }

  /** The same for the quick way; what needs a closer look is not a number. */
  private quickMarks(at: number): readonly (readonly QuickMark[])[] {
    const { values, exact } = this.input.rollCells.entries[at]!;
    for (let g = 0; g < this.places.length; g++) {
      const group = this.places[g]!;
      const marks = this.quick[g]!;
      for (let p = 0; p < group.length; p++) {
        const { id, worked, decimal } = group[p]!;
        const known = exact?.[id];
        if (worked) marks[p] = this.quickWorked(id, at, decimal);
        else if (known === undefined) marks[p] = this.reader.quick(values[id] ?? '', decimal);
        else if (known.startsWith('n:')) marks[p] = this.reader.quick(known, '.', 2);
        else if (known.startsWith('p:') || known.startsWith('e:')) marks[p] = NaN;
        else marks[p] = this.reader.quick(values[id] ?? '', decimal);
      }
    }
    return this.quick;
  }

  private quickWorked(id: string, at: number, decimal: '.' | ','): QuickMark {
    const cell = this.input.rollCells.cell(id, at);
    if (cell.kind === 'number') {
      const points = scaledPoints(cell.exact);
      return points >= 0 ? points : NaN;
    }
    if (cell.kind === 'text') return this.reader.quick(cell.text, decimal);
    return cell.kind === 'error' ? NaN : this.reader.quick('', decimal);
  }

  private workedMark(id: string, at: number, decimal: '.' | ','): Mark {
    const cell = this.input.rollCells.cell(id, at);
    if (cell.kind === 'number') return pointsMark(cell.exact, cell.shown);
    if (cell.kind === 'error') this.failed ??= cell;
    return cell.kind === 'text' ? this.reader.mark(cell.text, decimal) : { kind: 'unmarked' };
  }

  private cells(at: number): PieceCell[][] {
    const { worked } = this.input;
    return this.marks(at).map((marks, g) =>
      marks.map((mark, p) => ({
        mark,
        daysLate: this.lateness(worked.groups[g]!.pieces[p]!, at)?.days ?? 0,
      })),
    );
  }

  /** Null where nothing says when the piece came. */
  private lateness({ lateColumnId, due }: Piece, at: number): Lateness | null {
    if (!lateColumnId || !this.input.worked.late) return null;
    return daysLate(this.input.rollCells.cell(lateColumnId, at), due);
  }

  explain(at: number): Step[] {
    const { worked, rollCells } = this.input;
    const score = this.score(at);
    if (this.failed) return [step(phrase('mark-an-error'), [], null)];
    const byPoints = worked.weigh === 'points';
    const total = sum(score.groups.filter(({ mark }) => mark !== null).map((group) => group.weight));
    const steps = score.groups.map((group) => this.explainGroup(group, byPoints, total));
    const counted = score.groups.filter(({ mark }) => mark !== null);
    const added = total.equals(0) ? [] : score.groups.filter(({ bonus }) => !bonus.equals(0));
    if (counted.length + added.length > 1 && score.mark) {
      const terms = counted.map((group): Term => ({
        text: phrase('mark-by-weight', {
          name: group.group.name || phrase('group'),
          mark: this.say(group.mark!),
          weight: this.say(group.weight),
        }),
      }));
      for (const { group, bonus } of added)
        terms.push({
          text: `${group.name || phrase('extra')} ${this.say(bonus.div(total))}`,
          note: phrase('on-top'),
        });
      const uncut = score.uncut ?? score.mark;
      steps.push(
        step(phrase('together', { total: byPoints ? null : this.say(total) }), terms, this.say(uncut)),
      );
    }
    if (score.uncut)
      steps.push(
        step(phrase('cut-at', { at: this.say(score.mark!) }), [this.say(score.uncut)], this.say(score.mark!)),
      );
    if (score.mark && !ratio(roundRatio(score.mark, worked.rounding)).equals(score.mark)) {
      const rounded = withSign(
        roundRatio(score.mark, worked.rounding),
        rollCells.decimal(this.input.column.id),
      );
      steps.push(step(phrase('rounded-to', worked.rounding), [this.say(score.mark)], rounded));
    }
    if (!score.open.equals(0)) {
      const low = this.score(at, ZERO).mark;
      const high = this.score(at, ONE).mark;
      steps.push(
        step(
          phrase('open'),
          [phrase('of-the-weight', { percent: this.say(score.open) })],
          low && high ? phrase('between', { low: this.say(low), high: this.say(high) }) : null,
        ),
      );
    }
    return steps;
  }

  private explainGroup(
    { group, pieces, mark, uncut, weight, bonus }: GroupScore,
    byPoints: boolean,
    total: Ratio,
  ): Step {
    const name = group.name || phrase('pieces');
    const label = byPoints ? name : `${name} ${this.say(weight)}`;
    const terms = pieces.map((piece) => this.explainPiece(piece));
    if (uncut) terms.push({ text: this.say(uncut), note: phrase('cut-there', { at: this.say(mark!) }) });
    const adds =
      bonus.equals(0) || total.equals(0)
        ? phrase('adds-nothing')
        : phrase('adds', { points: this.say(bonus.div(total)) });
    return step(label, terms, mark ? phrase('percent', { value: this.say(mark) }) : adds);
  }

  private explainPiece({ piece, mark, counts, share, weight, dropped, late }: PieceScore): Term {
    const title = this.input.rollCells.title(piece.columnId);
    const outOf = ratio(piece.outOf);
    const got = this.say(share.mul(outOf));
    const said = (text: string, note?: string, struck = false): Term => ({
      text: `${title} ${text}`,
      struck,
      ...(note ? { note } : {}),
    });
    switch (mark.kind) {
      case 'wrong':
        return said(`“${mark.written}”`, phrase('no-mark'), true);
      case 'points':
      case 'share': {
        const out = outOf.compare(0) <= 0;
        if (out) return said(mark.written, phrase('out-of-nothing'), true);
        const note = phrase('piece-notes', {
          late:
            late && !late.lost.equals(0) ? { days: late.days, lost: this.say(late.lost.mul(outOf)) } : null,
          extra: piece.extra,
          dropped,
          weightless: weight.equals(0),
        });
        return said(`${got}/${this.say(outOf)}`, note, dropped);
      }
      default: {
        if (counts === 'yes')
          return said(
            `${got}/${this.say(outOf)}`,
            phrase('state-counts', { state: mark.kind, dropped }),
            dropped,
          );
        return said(
          phrase('mark-state', { state: mark.kind }),
          phrase(counts === 'open' ? 'is-open' : 'does-not-count'),
          true,
        );
      }
    }
  }

  private say(value: Ratio): string {
    return withSign(plainRatio(value, 2), this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { worked, column } = this.input;
    const notices: Notice[] = [];
    const weights = sum(worked.groups.map(({ weight }) => ratio(weight)));
    if (worked.weigh === 'weights' && worked.groups.length > 1 && !weights.equals(HUNDRED)) {
      notices.push(notice('weights-sum', [], { title: column.title, total: this.say(weights) }));
    }
    for (const piece of worked.groups.flatMap(({ pieces }) => pieces)) {
      if (ratio(piece.outOf).compare(0) > 0) continue;
      notices.push(
        notice('out-of-zero', [], {
          title: column.title,
          piece: this.input.rollCells.title(piece.columnId),
          outOf: piece.outOf,
        }),
      );
    }
    return [...notices, ...this.letterNotices(), ...this.markNotices()];
  }

  /** Letters that stand for absent or missing, in a column where other single letters look like grades. */
  private letterNotices(): Notice[] {
    const { worked, column, rollCells } = this.input;
    const notices: Notice[] = [];
    worked.groups.forEach(({ pieces }, g) =>
      pieces.forEach(({ columnId }, p) => {
        const grades = new Set<string>();
        const states = new Map<string, number[]>();
        for (let at = 0; at < rollCells.entries.length; at++) {
          if (!rollCells.isIn(at)) continue;
          const cell = rollCells.written(columnId, at);
          // Nearly all cells are numbers or blank.
          if (cell === '' || cell <= '9' || cell.length > 9) continue;
          const written = cell.trim();
          if (!/^\p{L}[+-]?$/u.test(written)) continue;
          if (this.marks(at)[g]![p]!.kind === 'wrong') grades.add(written);
          else states.set(written, [...(states.get(written) ?? []), at]);
        }
        if (grades.size < 2 || states.size === 0) return;
        notices.push(
          notice('letter-grades', [...states.values()].flat(), {
            title: column.title,
            piece: rollCells.title(columnId),
            grades: [...grades].sort().slice(0, 4),
            states: [...states.keys()].sort(),
          }),
        );
      }),
    );
    return notices;
  }

  private markNotices(): Notice[] {
    const { worked, column, rollCells } = this.input;
    const found = {
      wrong: [] as number[],
      above: [] as number[],
      dropped: [] as number[],
      late: [] as number[],
      due: [] as number[],
    };
    let sample = { written: '', piece: '' };
    let over = { piece: '', outOf: '' };
    let late = { written: '', piece: '' };
    let due = { piece: '' };
    for (let at = 0; at < rollCells.entries.length; at++) {
      if (!rollCells.isIn(at)) continue;
      let wrong = false;
      let above = false;
      let dropped = false;
      let unread = false;
      let undue = false;
      const read = this.marks(at);
      for (let g = 0; g < read.length; g++) {
        const { pieces, drop, keep } = worked.groups[g]!;
        let counted = 0;
        for (let p = 0; p < pieces.length; p++) {
          const mark = read[g]![p]!;
          const piece = pieces[p]!;
          const most = this.most[g]![p]!;
          const lateness = this.lateness(piece, at);
          if (lateness?.problem === 'unread') {
            unread = true;
            if (!late.piece)
              late = { written: lateness.written.slice(0, 40), piece: rollCells.title(piece.lateColumnId!) };
          } else if (lateness?.problem === 'no due date') {
            undue = true;
            if (!due.piece) due = { piece: rollCells.title(piece.columnId) };
          }
          if (mark.kind === 'wrong') {
            wrong = true;
            if (!sample.piece)
              sample = { written: mark.written.slice(0, 40), piece: rollCells.title(piece.columnId) };
          } else if (most > 0) {
            if (!piece.extra && this.counts(mark) && this.weighs(g, p)) counted++;
            if (isOutside(mark, most, piece.outOf)) {
              above = true;
              if (!over.piece) over = { piece: rollCells.title(piece.columnId), outOf: piece.outOf };
            }
          }
        }
        if (counted > 0 && Math.min(keep ?? Infinity, counted - drop) <= 0) dropped = true;
      }
      if (wrong) found.wrong.push(at);
      if (above) found.above.push(at);
      if (dropped) found.dropped.push(at);
      if (unread) found.late.push(at);
      if (undue) found.due.push(at);
    }
    const notices: Notice[] = [];
    const { title } = column;
    if (found.wrong.length > 0) notices.push(notice('mark-text', found.wrong, { title, ...sample }));
    if (found.above.length > 0) notices.push(notice('mark-above', found.above, { title, ...over }));
    if (found.dropped.length > 0) notices.push(notice('all-dropped', found.dropped, { title }));
    if (found.late.length > 0) notices.push(notice('late-text', found.late, { title, ...late }));
    if (found.due.length > 0) notices.push(notice('late-due', found.due, { title, ...due }));
    return notices;
  }

  private weighs(g: number, p: number): boolean {
    const { worked } = this.input;
    const { weigh, pieces } = worked.groups[g]!;
    return worked.weigh === 'points' || weigh !== 'weights' || !ratio(pieces[p]!.weight).equals(0);
  }

  /** True for a mark that is in, or whose absence counts at once. */
  private counts({ kind }: Mark): boolean {
    if (kind === 'points' || kind === 'share') return true;
    return kind !== 'wrong' && ['zero', 'share'].includes(this.input.worked.states[kind].as);
  }
}

/** More than there is to get, or less than nothing. `most` is in ten thousandths of a point. */
function isOutside(mark: Mark, most: number, outOf: string): boolean {
  if (mark.kind === 'share') return mark.share.compare(1) > 0 || mark.share.compare(0) < 0;
  if (mark.kind !== 'points') return false;
  if (!Number.isNaN(mark.scaled)) return mark.scaled > most || mark.scaled < 0;
  return mark.points.compare(ratio(outOf)) > 0 || mark.points.compare(0) < 0;
}
