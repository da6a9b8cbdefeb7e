import type { Question } from '../../column/index.js';
import { blank, number, type Cell } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { markAnswer, plainAnswer, type AnswerScore } from '../key/answer.js';
import { nearMisses, type NearMiss } from '../key/near-misses.js';
import { itemStatistics, type ItemStatistics } from '../key/item-statistics.js';
import { scoreKey, VERDICT_SIGNS, VERDICT_WORDS, type KeyScore } from '../key/score-key.js';
import { plainRatio, ratio, withSign, type Ratio } from '../ratio.js';
import { plainNumber } from '../scheme/read-mark.js';
import type { ReckonerInput, Notice, Reckoner } from '../reckoner.js';

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
    if (worked.questions.length === 0) return blank('the key has no questions yet');
    const error = this.error(at);
    if (error) return error;
    if (this.isBlank(at)) return blank('no question is answered');
    const score = this.score(at);
    if (score.percent === null) return blank('nothing is marked yet');
    return number(worked.give === 'points' ? score.points : score.percent, worked.rounding);
  }

  explain(at: number): Step[] {
    const score = this.score(at);
    const steps = score.answers.map((answer) =>
      step(
        `${VERDICT_SIGNS[answer.verdict]} ${this.nameOf(answer)}`,
        [
          {
            text: answer.given || 'no answer',
            ...(answer.verdict === 'right' || !answer.right ? {} : { note: `right: ${answer.right}` }),
          },
        ],
        answer.points === null
          ? VERDICT_WORDS.open
          : `${this.say(answer.points)} of ${this.say(ratio(answer.question.points))}`,
      ),
    );
    const sum = `${this.say(score.points)} of ${this.say(score.outOf)}`;
    steps.push(
      step(
        'Score',
        score.open > 0 ? [`${score.open} still open`] : [],
        score.percent === null ? sum : `${sum}, ${this.say(score.percent)} %`,
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
      const title = rollCells.title(question.columnId);
      if (question.mode !== 'hand' && question.answers.every(({ text }) => text.trim() === '')) {
        notices.push({
          code: 'question-without-answer',
          places: [],
          say: () =>
            `“${title}” has no right answer in the key “${column.title}”, so nobody gets points for it.`,
        });
      }
      if (ratio(question.points).compare(0) <= 0) {
        notices.push({
          code: 'question-without-points',
          places: [],
          say: () => `“${title}” gives no points in the key “${column.title}”. Say how many.`,
        });
      }
      if (question.mode === 'hand') notices.push(...this.handNotices(question, title));
      const near = this.nearMisses(question);
      if (near.length > 0) notices.push(this.nearNotice(question, title, near));
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

  private nearNotice(question: Question, title: string, near: readonly NearMiss[]): Notice {
    const { rollCells, column } = this.input;
    const texts = new Set(near.map(({ text }) => plainAnswer(text, question)));
    const places = rollCells.entries.flatMap((_, at) =>
      rollCells.isIn(at) && texts.has(plainAnswer(rollCells.written(question.columnId, at), question))
        ? [at]
        : [],
    );
    const said = near.slice(0, 3).map(({ text }) => `“${text.slice(0, 40)}”`);
    return {
      code: 'near-miss',
      places,
      say: (who) =>
        `Answers to “${title}” are nearly right and get nothing (${who}): ${said.join(', ')}${near.length > 3 ? ' and others' : ''}. Decide at the key “${column.title}” whether they are.`,
    };
  }

  private handNotices(
    question: ReckonerInput<'key'>['worked']['questions'][number],
    title: string,
  ): Notice[] {
    const { rollCells, column } = this.input;
    const open: number[] = [];
    const above: number[] = [];
    for (let at = 0; at < rollCells.entries.length; at++) {
      if (!rollCells.isIn(at) || this.isBlank(at)) continue;
      const hand = this.hand(question, at);
      if (hand === null) open.push(at);
      else if (hand.compare(ratio(question.points)) > 0 || hand.compare(0) < 0) above.push(at);
    }
    const notices: Notice[] = [];
    if (open.length > 0)
      notices.push({
        code: 'hand-open',
        places: open,
        say: (who) =>
          `“${title}” of “${column.title}” waits to be marked by hand for ${who}. It is left out of the score until then.`,
      });
    if (above.length > 0)
      notices.push({
        code: 'mark-above',
        places: above,
        say: (who) =>
          `The points that were given by hand for “${title}” are outside 0 to ${question.points} for ${who}. They count as they stand.`,
      });
    return notices;
  }
}
