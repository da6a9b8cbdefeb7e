export { AttendanceColumn, ATTENDANCE_KINDS, PLAIN_CODES, type AttendanceKind } from './attendance.js';
export { Band, BandColumn } from './bands.js';
export { CohortColumn, PercentileMethod, RankTies } from './cohort.js';
export { Remark, RemarkColumn, RemarkPart, RemarkWord, REMARK_WORDS } from './comment-bank.js';
export { inputsOf, markWords } from './inputs.js';
export {
  LatePolicy,
  MARK_STATES,
  MarkScheme,
  Piece,
  PieceGroup,
  PLAIN_STATES,
  StatePolicy,
  type MarkState,
} from './mark-scheme.js';
export { MarkingKey, Question, RightAnswer } from './marking-key.js';
export { Identity } from './identity.js';
export { ColumnRef, DecimalText, OutOf, PLAIN_ROUNDING, Rounding, RoundingMode } from './parts.js';
export { ExpressionColumn, FormulaPart, PartColumn, Worked, type WorkedKind } from './worked.js';
