export {
  addressKey,
  type AddressesReading,
  type AddressReading,
  needsUtf8,
  readAddress,
  readAddresses,
} from './address.js';
export { ColumnFormat, ColumnType, TYPE_NAMES } from './column-type.js';
export { Column } from './column.js';
export { type DateOrder, readMoment, type ReadMoment } from './dates.js';
export { decimalText, type Exact, type ExactKind, readExact, serialDuration, serialMoment } from './exact.js';
export { Identity } from './identity.js';
export { guessDecimal, readNumber, readPercentage } from './numbers.js';
export { FillFormat } from './print-format.js';
export { printValue } from './print-value.js';
export { columnFor, freeTitle, plainTitle } from './titles.js';
export { isPhone, isPicture, isTruth, isWeb, readValue, splitChoices, type Value } from './values.js';
export { ATTENDANCE_KINDS, AttendanceColumn, type AttendanceKind, PLAIN_CODES } from './worked/attendance.js';
export { Band, BandColumn } from './worked/bands.js';
export { CohortColumn, PercentileMethod, RankTies } from './worked/cohort.js';
export { Remark, REMARK_WORDS, RemarkColumn, RemarkPart, RemarkWord } from './worked/comment-bank.js';
export { inputsOf, markWords } from './worked/inputs.js';
export {
  LatePolicy,
  MARK_STATES,
  MarkScheme,
  type MarkState,
  Piece,
  PieceGroup,
  PLAIN_STATES,
  StatePolicy,
} from './worked/mark-scheme.js';
export { MarkingKey, Question, RightAnswer } from './worked/marking-key.js';
export { ColumnRef, DecimalText, OutOf, PLAIN_ROUNDING, Rounding, RoundingMode } from './worked/parts.js';
export { PersonalColumn, personalCode, readCode, shownCode } from './worked/personal.js';
export { ExpressionColumn, FormulaPart, PartColumn, Worked, type WorkedKind } from './worked/worked.js';
