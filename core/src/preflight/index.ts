export { type ExceptionWriting } from './exception-findings.js';
export { type Difficult, difficultEntries } from './difficult.js';
export { fitFindings, misfit, type MeasuredBox } from './fit-findings.js';
export { Finding, FindingPlace } from './finding.js';
export { measuredFindings, type MeasuredPaper } from './measured-findings.js';
export { marksFindings } from './marks-findings.js';
export { about, markOf, marksOf, type SeenFinding, withoutSeen } from './seen.js';
export {
  entriesToLookAt,
  mayDispatch,
  mayPress,
  outOfDateFinding,
  preflight,
  refusedFinding,
  type FolioContents,
} from './preflight.js';
