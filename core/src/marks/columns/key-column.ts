import type { Question } from '../../column/index.js';
import { blank, number, type Cell } from '../cell.js';
import { step, type Step } from '../explanation.js';
import { markAnswer, plainAnswer, type AnswerScore } from '../key/answer.js';
import { nearMisses, type NearMiss } from '../key/near-misses.js';
import { itemStatistics, type ItemStatistics } from '../key/item-statistics.js';
import { scoreKey, VERDICT_SIGNS, VERDICT_WORDS, type KeyScore } from '../key/score-key.js';
import { plainRatio, ratio, withSign, type Ratio } from '../ratio.js';
import { plainNumber } from '../scheme/read-mark.js';
import type { Ground, Notice, Reckoner } from '../reckoner.js';

/** A marking key's column: the score, in points or percent. */
export class KeyColumn implements Reckoner {
  readonly together = false;

  constructor(private readonly ground: Ground<'key'>) {}

  score(at: number): KeyScore {
    const { worked, book } = this.ground;
    return scoreKey(
      worked,
      worked.questions.map((question) =>
        markAnswer(
          question,
          book.written(question.columnId, at),
          book.columns.get(question.columnId)?.format,
          this.hand(question, at),
          this.exact(question, at),
        ),
      ),
    );
  }

  /** The points that a person gave; null where nobody did. */
  private hand({ handId }: Question, at: number): Ratio | null {
    if (handId === undefined) return null;
    const { book } = this.ground;
    const cell = book.cell(handId, at);
    if (cell.kind === 'number') return cell.exact;
    const points = cell.kind === 'text' ? plainNumber(cell.text, book.decimal(handId)) : null;
    return points === null ? null : ratio(points);
  }

  /** The number that the answer's cell holds, whatever of it is shown. */
  private exact({ mode, columnId }: Question, at: number): Ratio | null {
    const cell = mode === 'number' ? this.ground.book.cell(columnId, at) : null;
    return cell?.kind === 'number' ? cell.exact : null;
  }

  /** How a question is called: by its column's title. */
  nameOf(answer: Pick<AnswerScore, 'question'>): string {
    return this.ground.book.title(answer.question.columnId);
  }

  statistics(): ItemStatistics[] {
    const { book, worked } = this.ground;
    const scores = book.entries.map((_, at) => at).filter((at) => book.isIn(at) && !this.isBlank(at));
    return itemStatistics(
      worked.questions,
      scores.map((at) => this.score(at)),
    );
  }

  private isBlank(at: number): boolean {
    const { worked, book } = this.ground;
    return worked.questions.every(
      (question) => book.written(question.columnId, at).trim() === '' && this.hand(question, at) === null,
    );
  }

  /** An error among the answers or the points by hand. */
  private error(at: number): Cell | null {
    const { worked, book } = this.ground;
    for (const { columnId, handId } of worked.questions)
      for (const id of [columnId, ...(handId === undefined ? [] : [handId])]) {
        const cell = book.cell(id, at);
        if (cell.kind === 'error') return cell;
      }
    return null;
  }

  row(at: number): Cell {
    const { worked, book } = this.ground;
    const gone = worked.questions.find(({ columnId }) => !book.columns.has(columnId));
    if (gone) return book.cell(gone.columnId, at);
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
    return withSign(plainRatio(value, 2), this.ground.book.decimal(this.ground.column.id));
  }

  notices(): Notice[] {
    const { worked, book, column } = this.ground;
    const notices: Notice[] = [];
    for (const question of worked.questions) {
      const title = book.title(question.columnId);
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
    const { book } = this.ground;
    const all = book.entries.map((_, at) => at).filter((at) => book.isIn(at));
    return nearMisses(
      question,
      all.map((at) => book.written(question.columnId, at)),
    );
  }

  private nearNotice(question: Question, title: string, near: readonly NearMiss[]): Notice {
    const { book, column } = this.ground;
    const texts = new Set(near.map(({ text }) => plainAnswer(text, question)));
    const places = book.entries.flatMap((_, at) =>
      book.isIn(at) && texts.has(plainAnswer(book.written(question.columnId, at), question)) ? [at] : [],
    );
    const said = near.slice(0, 3).map(({ text }) => `“${text.slice(0, 40)}”`);
    return {
      code: 'near-miss',
      places,
      say: (who) =>
        `Answers to “${title}” are nearly right and get nothing (${who}): ${said.join(', ')}${near.length > 3 ? ' and others' : ''}. Decide at the key “${column.title}” whether they are.`,
    };
  }

  private handNotices(question: Ground<'key'>['worked']['questions'][number], title: string): Notice[] {
    const { book, column } = this.ground;
    const open: number[] = [];
    const above: number[] = [];
    for (let at = 0; at < book.entries.length; at++) {
      if (!book.isIn(at) || this.isBlank(at)) continue;
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
