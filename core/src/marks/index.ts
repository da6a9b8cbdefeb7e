export { attendanceFromTotals, countSessions, readCodes, type Attendance } from './attendance.js';
export { bandOf, bandsByShare, Ladder, type Banded } from './band/band.js';
export { SCALES, type Scale } from './band/scales.js';
export type { TableShape } from './roll-cells.js';
export { cellText, sameCell, type Cell, type ErrorCode } from './cell.js';
export { percentiles, ranks } from './cohort/ranks.js';
export { inOrder, mean, median, quantile, standardDeviation } from './cohort/statistics.js';
export { BandReckoner } from './reckoners/band-reckoner.js';
export { KeyReckoner } from './reckoners/key-reckoner.js';
export { RemarkReckoner } from './reckoners/remark-reckoner.js';
export { stepText, type Explanation, type Step, type Term } from './explanation.js';
export { evaluate } from './expression/evaluate.js';
export { FUNCTION_GROUPS, FUNCTIONS, type Surroundings } from './expression/functions.js';
export { chipTitles, parseFormula, readFormula, writeFormula } from './expression/parse.js';
export { markAnswer, plainAnswer, type AnswerScore, type Verdict } from './key/answer.js';
export { answersOf } from './key/answers-of.js';
export { nearMisses, type NearMiss } from './key/near-misses.js';
export { itemStatistics, type ItemStatistics } from './key/item-statistics.js';
export { scoreKey, VERDICT_SIGNS, type KeyScore } from './key/score-key.js';
export { Marks, type Changes, type ColumnNotice } from './marks.js';
export {
  decimalOf,
  plainRatio,
  ratio,
  ratioOf,
  roundRatio,
  sum,
  withSign,
  type Ratio,
} from '../ratio/index.js';
export { chooseRemarks, lettersOf, remarksFor, writeRemark } from './remark/choose-remark.js';
export { isRemarkWord, WORD_LABELS, withoutPronouns, wordForms, type WordForms } from './remark/pronouns.js';
export { bestKept } from './scheme/best-kept.js';
export { FastScheme } from './scheme/fast-score.js';
export { MarkReader, type Mark } from './scheme/read-mark.js';
export { scoreScheme, type SchemeScore } from './scheme/score.js';
export { beginWorked, type BegunKind, guessScale } from './begin/begin.js';
export { copyScheme, schemeCopies, type SchemeCopy } from './begin/copy-scheme.js';
export { keyPoints, MarkScale } from './mark-scale.js';
export { guessOutOf, holdsMarks } from './begin/guess-pieces.js';
export { plainQuestion } from './begin/guess-questions.js';
export { followTitle } from './begin/title.js';
export { describeWorked } from './describe.js';
