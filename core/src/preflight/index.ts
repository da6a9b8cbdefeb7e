export { Finding, FindingPlace } from './finding.js';
export { entriesToLookAt, mayDispatch, mayPress, preflight, type FolioContents } from './preflight.js';
