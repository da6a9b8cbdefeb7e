export { fitFindings, misfit, type MeasuredBox } from './fit-findings.js';
export { Finding, FindingPlace } from './finding.js';
export { marksFindings } from './marks-findings.js';
export { entriesToLookAt, mayDispatch, mayPress, preflight, type FolioContents } from './preflight.js';
