export { hookDescription } from './describe.js';
export { type HookShape, matchSubmission, type MatchedSubmission } from './match-submission.js';
export { HOOK_LIMITS, readSubmission, type SentField, SubmissionWrong } from './read-submission.js';
