import { Nothing } from './common.js';
import { AnswersOf, FormDoors, OpenForm, PublishForm } from './intake.js';

/** What staff do with forms; whoever answers has addresses of their own, apart from these. */
export const INTAKE_ENDPOINTS = {
  formDoors: {
    method: 'get',
    path: '/folios/{folioId}/forms',
    summary: 'The forms of a folio that are published, with their links and how many have answered',
    answer: FormDoors,
  },
  publishForm: {
    method: 'post',
    path: '/folios/{folioId}/forms/{writingId}/publish',
    summary: 'Let people answer a form as it is written now; its questions become columns of the roll',
    body: PublishForm,
    answer: FormDoors,
  },
  openForm: {
    method: 'put',
    path: '/folios/{folioId}/forms/{writingId}/open',
    summary: 'Close a form, or open it again',
    body: OpenForm,
    answer: FormDoors,
  },
  answersOf: {
    method: 'get',
    path: '/folios/{folioId}/entries/{entryId}/answers',
    summary: 'What is known of the answers of an entry beside its cells',
    answer: AnswersOf,
  },
  deleteAnswer: {
    method: 'delete',
    path: '/folios/{folioId}/entries/{entryId}/answers',
    summary: 'Delete the answers of an entry, with their files',
    answer: Nothing,
  },
  answerUpload: {
    method: 'get',
    path: '/folios/{folioId}/uploads/{uploadId}',
    summary: 'A file that came with an answer; never shown as a page',
    answerType: 'application/octet-stream',
  },
} as const;
