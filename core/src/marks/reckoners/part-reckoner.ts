import { phrase } from '../../sentences/index.js';
import { inputsAmong } from '../roll-cells.js';
import type { AnswerScore } from '../key/answer.js';
import { blank, error, number, text, type Cell } from '../cell.js';
import { step, stepText, type Step } from '../explanation.js';
import { lookAgain, VERDICT_SIGNS } from '../key/score-key.js';
import { ONE, ZERO, type Ratio } from '../../ratio/index.js';
import { notice, type Notice, type Reckoner, type ReckonerInput } from '../reckoner.js';
import { KeyReckoner } from './key-reckoner.js';
import { SchemeReckoner } from './scheme-reckoner.js';

/** Something else that another worked column knows. */
export class PartReckoner implements Reckoner {
  private others: boolean | null = null;

  constructor(private readonly input: ReckonerInput<'part'>) {}

  /** The steps of a comparison tell of others, so they change where others do, though its value stays. */
  get together(): boolean {
    const { worked } = this.input;
    return (this.others ??= worked.part === 'steps' && this.tellsOfOthers(worked.of, new Set()));
  }

  private tellsOfOthers(columnId: string, seen: Set<string>): boolean {
    if (seen.has(columnId)) return false;
    seen.add(columnId);
    const { rollCells, other } = this.input;
    const worked = rollCells.columns.get(columnId)?.worked;
    if (!worked) return false;
    if (other(columnId)?.together) return true;
    return inputsAmong(worked, rollCells.roll.columns).some((id) => this.tellsOfOthers(id, seen));
  }

  row(at: number): Cell {
    const { worked, rollCells, other, stepsOf } = this.input;
    if (worked.part === 'steps') return text(stepsOf(worked.of, at).map(stepText).join('\n'));
    const source = other(worked.of);
    const own = rollCells.cell(worked.of, at);
    if (own.kind === 'error') return own;
    if (source instanceof SchemeReckoner) return this.ofScheme(source, at, own);
    if (source instanceof KeyReckoner) return this.ofKey(source, at, own);
    return error('#REF!', 'no-source-of-part', { title: rollCells.title(worked.of) });
  }

  private ofScheme(source: SchemeReckoner, at: number, own: Cell): Cell {
    const { worked } = this.input;
    const given = (value: Ratio | null): Cell =>
      value === null
        ? own.kind === 'blank'
          ? own
          : blank('nothing-counts-there')
        : number(value, worked.rounding);
    switch (worked.part) {
      case 'open':
        return given(source.score(at).open);
      case 'lowest':
        return given(source.score(at, ZERO).mark);
      case 'highest':
        return given(source.score(at, ONE).mark);
      case 'group':
        return given(source.score(at).groups.find(({ group }) => group.id === worked.which)?.mark ?? null);
      default:
        return error('#REF!', 'part-of-scheme');
    }
  }

  private ofKey(source: KeyReckoner, at: number, own: Cell): Cell {
    const { worked } = this.input;
    if (own.kind === 'blank') return own;
    const score = source.score(at);
    if (worked.part === 'review') return text(lookAgain(score, (answer) => source.nameOf(answer)).join(', '));
    if (worked.part === 'answers')
      return text(score.answers.map((answer) => answerLine(source, answer)).join('\n'));
    const answer = score.answers.find(({ question }) => question.id === worked.which);
    if (!answer) return error('#REF!', 'question-gone');
    switch (worked.part) {
      case 'verdict':
        return text(`${VERDICT_SIGNS[answer.verdict]} ${phrase('verdict', { verdict: answer.verdict })}`);
      case 'right':
        return text(answer.right);
      case 'points':
        return answer.points === null ? blank('not-marked') : number(answer.points, null);
      case 'remark':
        return text(answer.remark);
      default:
        return error('#REF!', 'part-of-key');
    }
  }

  explain(at: number): Step[] {
    const { worked, rollCells } = this.input;
    const from = step(phrase('taken-from', { title: rollCells.title(worked.of) }), []);
    return worked.part === 'steps' ? [from] : [from, ...this.input.stepsOf(worked.of, at)];
  }

  notices(): Notice[] {
    const { rollCells, column } = this.input;
    const cell = rollCells.entries.length > 0 ? this.row(0) : null;
    return cell?.kind === 'error' && cell.code === '#REF!'
      ? [notice('part-gone', [], { title: column.title, why: cell.reason })]
      : [];
  }
}

/** `✗ What holds an arch up?: the glue (right: the keystone)` */
function answerLine(source: KeyReckoner, answer: AnswerScore): string {
  return phrase('answer-line', {
    sign: VERDICT_SIGNS[answer.verdict],
    question: source.nameOf(answer),
    given: answer.given,
    right: answer.verdict === 'right' ? '' : answer.right,
    remark: answer.remark,
  });
}
