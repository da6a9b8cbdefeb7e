import { phrase } from '../../sentences/index.js';
import type { Question } from '../../column/index.js';
import { blank, number, type Cell } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { markAnswer, plainAnswer, type AnswerScore } from '../key/answer.js';
import { nearMisses, type NearMiss } from '../key/near-misses.js';
import { itemStatistics, type ItemStatistics } from '../key/item-statistics.js';
import { scoreKey, VERDICT_SIGNS, type KeyScore } from '../key/score-key.js';
import { plainRatio, ratio, withSign, type Ratio } from '../../ratio/index.js';
import { plainNumber } from '../scheme/read-mark.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';

/** A marking key's column: the score, in points or percent. */
export class KeyReckoner implements Reckoner {
  readonly together = false;

  constructor(private readonly input: ReckonerInput<'key'>) {}

  score(at: number): KeyScore {
    const { worked, rollCells } = this.input;
    return scoreKey(
      worked,
      worked.questions.map((question) =>
        markAnswer(
          question,
          rollCells.written(question.columnId, at),
          rollCells.columns.get(question.columnId)?.format,
          this.hand(question, at),
          this.exact(question, at),
        ),
      ),
    );
  }

  /** The points that a person gave; null where nobody did. */
  private hand({ handId }: Question, at: number): Ratio | null {
    if (handId === undefined) return null;
    const { rollCells } = this.input;
    const cell = rollCells.cell(handId, at);
    if (cell.kind === 'number') return cell.exact;
    const points = cell.kind === 'text' ? plainNumber(cell.text, rollCells.decimal(handId)) : null;
    return points === null ? null : ratio(points);
  }

  /** The number that the answer's cell holds, whatever of it is shown. */
  private exact({ mode, columnId }: Question, at: number): Ratio | null {
    const cell = mode === 'number' ? this.input.rollCells.cell(columnId, at) : null;
    return cell?.kind === 'number' ? cell.exact : null;
  }

  /** How a question is called: by its column's title. */
  nameOf(answer: Pick<AnswerScore, 'question'>): string {
    return this.input.rollCells.title(answer.question.columnId);
  }

  statistics(): ItemStatistics[] {
    const { rollCells, worked } = this.input;
    const scores = rollCells.entries
      .map((_, at) => at)
      .filter((at) => rollCells.isIn(at) && !this.isBlank(at));
    return itemStatistics(
      worked.questions,
      scores.map((at) => this.score(at)),
    );
  }

  private isBlank(at: number): boolean {
    const { worked, rollCells } = this.input;
    return worked.questions.every(
      (question) =>
        rollCells.written(question.columnId, at).trim() === '' && this.hand(question, at) === null,
    );
  }

  /** An error among the answers or the points by hand. */
  private error(at: number): Cell | null {
    const { worked, rollCells } = this.input;
    for (const { columnId, handId } of worked.questions)
      for (const id of [columnId, ...(handId === undefined ? [] : [handId])]) {
        const cell = rollCells.cell(id, at);
        if (cell.kind === 'error') return cell;
      }
    return null;
  }

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    const gone = worked.questions.find(({ columnId }) => !rollCells.columns.has(columnId));
    if (gone) return rollCells.cell(gone.columnId, at);
    if (worked.questions.length === 0) return blank('no-questions');
    const error = this.error(at);
    if (error) return error;
    if (this.isBlank(at)) return blank('no-answers');
    const score = this.score(at);
    if (score.percent === null) return blank('nothing-marked');
    return number(worked.give === 'points' ? score.points : score.percent, worked.rounding);
  }

  explain(at: number): Step[] {
    const score = this.score(at);
    const steps = score.answers.map((answer) =>
      step(
        `${VERDICT_SIGNS[answer.verdict]} ${this.nameOf(answer)}`,
        [
          {
            text: answer.given || phrase('verdict', { verdict: 'blank' }),
            ...(answer.verdict === 'right' || !answer.right
              ? {}
              : { note: phrase('right-answer', { right: answer.right }) }),
          },
        ],
        answer.points === null
          ? phrase('verdict', { verdict: 'open' })
          : phrase('of-whole', {
              value: this.say(answer.points),
              whole: this.say(ratio(answer.question.points)),
            }),
      ),
    );
    const [points, outOf] = [this.say(score.points), this.say(score.outOf)];
    steps.push(
      step(
        phrase('score'),
        score.open > 0 ? [phrase('still-open', { questions: score.open })] : [],
        score.percent === null
          ? phrase('of-whole', { value: points, whole: outOf })
          : phrase('score-and-percent', { points, outOf, percent: this.say(score.percent) }),
      ),
    );
    return steps;
  }

  say(value: Ratio): string {
    return withSign(plainRatio(value, 2), this.input.rollCells.decimal(this.input.column.id));
  }

  notices(): Notice[] {
    const { worked, rollCells, column } = this.input;
    const notices: Notice[] = [];
    for (const question of worked.questions) {
      const about = { title: column.title, question: rollCells.title(question.columnId) };
      if (question.mode !== 'hand' && question.answers.every(({ text }) => text.trim() === ''))
        notices.push(notice('question-without-answer', [], about));
      if (ratio(question.points).compare(0) <= 0) notices.push(notice('question-without-points', [], about));
      if (question.mode === 'hand') notices.push(...this.handNotices(question, about));
      const near = this.nearMisses(question);
      if (near.length > 0) notices.push(this.nearNotice(question, about, near));
    }
    return notices;
  }

  /** Answers that are nearly right, and that nobody has decided about yet. */
  private nearMisses(question: Question): NearMiss[] {
    const { rollCells } = this.input;
    const all = rollCells.entries.map((_, at) => at).filter((at) => rollCells.isIn(at));
    return nearMisses(
      question,
      all.map((at) => rollCells.written(question.columnId, at)),
    );
  }

  private nearNotice(question: Question, about: About, near: readonly NearMiss[]): Notice {
    const { rollCells } = this.input;
    const texts = new Set(near.map(({ text }) => plainAnswer(text, question)));
    const places = rollCells.entries.flatMap((_, at) =>
      rollCells.isIn(at) && texts.has(plainAnswer(rollCells.written(question.columnId, at), question))
        ? [at]
        : [],
    );
    const answers = near.slice(0, 3).map(({ text }) => text.slice(0, 40));
    return notice('near-miss', places, { ...about, answers, more: near.length > answers.length });
  }

  private handNotices(question: ReckonerInput<'key'>['worked']['questions'][number], about: About): Notice[] {
    const { rollCells } = this.input;
    const open: number[] = [];
    const above: number[] = [];
    for (let at = 0; at < rollCells.entries.length; at++) {
      if (!rollCells.isIn(at) || this.isBlank(at)) continue;
      const hand = this.hand(question, at);
      if (hand === null) open.push(at);
      else if (hand.compare(ratio(question.points)) > 0 || hand.compare(0) < 0) above.push(at);
    }
    const notices: Notice[] = [];
    if (open.length > 0) notices.push(notice('hand-open', open, about));
    if (above.length > 0) notices.push(notice('hand-above', above, { ...about, most: question.points }));
    return notices;
  }
}

/** The titles of a key and of one of its questions. */
interface About {
  readonly title: string;
  readonly question: string;
}
