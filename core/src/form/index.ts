export { beginAnswers, givenFromCells } from './begin-answers.js';
export { BETWEEN_CHOICES, columnsOfForm, isOnePicture } from './columns.js';
export {
  ASKED_KINDS,
  type AskedItem,
  Choice,
  emptyForm,
  Form,
  FormItem,
  FormTerms,
  type ItemKind,
  Mark,
  type MarkedItem,
  TextRule,
} from './form.js';
export { allGiven, columnIdsOf, type Given, oneGiven, OTHER } from './given.js';
export { type Between, cellsOf, type FormPage, pagesOf, shownItems } from './pages.js';
export { answersTold, type ToldAnswer } from './answers-told.js';
export { canBeMarked, formForAnswering, isKeyOfForm, keyOfForm, marksOf } from './marking.js';
export {
  type Counted,
  type FormSummary,
  type ItemSummary,
  type Numbers,
  summaryOf,
  type Tally,
} from './summary.js';
export { withOwnIdentities } from './own-identities.js';
export { formPlain } from './form-plain.js';
export { PROBLEM_WORDS, problemSays } from './problem-says.js';
export {
  type AnswerProblem,
  problemsOf,
  type ProblemCode,
  type ReadAnswers,
  readAnswers,
} from './read-answers.js';
export { FORM_LIMITS } from './limits.js';
export { LanguageTag, ShortWords, Words } from './words.js';
export { wordsIn } from './words-in.js';
export { hasWorked, TICKET_BITS, workFor } from './work.js';
