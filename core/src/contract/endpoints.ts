import { z } from 'zod';
import { Finding } from '../preflight/index.js';
import { AlongFile } from '../template/index.js';
import { Nothing } from './common.js';
import { DropOff, SetDropOff } from './drop-off.js';
import {
  ArchiveFolio,
  CopyFolio,
  Fits,
  FitsRequest,
  Folio,
  FolioList,
  FolioSummary,
  FolioTitle,
  FoundLearners,
  Ground,
  PictureAsset,
  Proof,
  ProofRequest,
} from './folio.js';
import { HOOK_ENDPOINTS } from './hook-endpoints.js';
import { INTAKE_ENDPOINTS } from './intake-endpoints.js';
import { ORDER_ENDPOINTS } from './order-endpoints.js';
import { WATCHED_ENDPOINTS } from './watched-endpoints.js';
import { LetterheadNow, LetterheadProof, LetterheadVersions, SaveLetterhead } from './letterhead.js';
import { Pack, PackAsked, PackContents, PackList } from './packs.js';
import {
  LookedForReturns,
  ChangeDispatch,
  ChoosePost,
  Dispatchings,
  MailAccount,
  MailQueue,
  MailTest,
  PostRoom,
  QueueSought,
  SaveMailAccount,
  StartDispatch,
  TakenReturns,
  TestMailAccount,
} from './post-room.js';
import { Mail, Mailboxes, MailList, PracticeManner } from './practice-post.js';
import {
  AgainPlan,
  AskAgain,
  ChangeLink,
  Checks,
  DispatchPlan,
  Dispatched,
  HoldPapers,
  IssueAgain,
  Judged,
  PaperHistory,
  Register,
  RegisterFile,
  RegisterSince,
  RunList,
  RunStarted,
  SeeFindings,
  SeenFindings,
  SealedPassword,
  SealPassword,
  SendManyAgain,
  SendPapersAgain,
  StartRun,
  Tried,
  TryPapers,
  VoidPapers,
} from './register.js';
import { BringIn, KeptFile, RollFileQuery } from './roll.js';
import { RollPatch } from '../roll/index.js';
import { Letterhead } from '../template/index.js';
import { Reading } from '../table/index.js';
import { RegisterSought, SchoolClasses, SchoolRegister, SchoolRegisterFile } from './school-register.js';
import { CsrfToken, Me, SchoolWishes, SignIn } from './staff.js';
import {
  AddWriting,
  CopyWriting,
  DeletedWritings,
  OrderWritings,
  KeepVersion,
  KeptVersion,
  KeptVersions,
  SaveWriting,
  Writing,
  WritingNow,
  WritingSaved,
} from './writing.js';

/** One operation of the HTTP interface. Paths are in OpenAPI form, below `/api`. */
export interface Endpoint {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  readonly path: string;
  readonly summary: string;
  /** True where no staff member needs to be signed in. */
  readonly open?: boolean;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Media types of a body that is a file. */
  readonly upload?: readonly string[];
  readonly answer?: z.ZodType;
  /** Media type of an answer that is not JSON. */
  readonly answerType?: string;
}

const define = <T extends Record<string, Endpoint>>(endpoints: T): T => endpoints;
const fileName = z.object({ name: z.string().min(1).max(255) });
/** A reading as JSON, for a query. */
const readingText = z
  .string()
  .max(2000)
  .transform((text, context): Reading => {
    try {
      return Reading.parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'The reading is no JSON of a reading.' });
      return z.NEVER;
    }
  });

/** The whole HTTP interface; the server is built from it and describes itself with it. */
export const ENDPOINTS = define({
  ...INTAKE_ENDPOINTS,
  ...HOOK_ENDPOINTS,
  ...ORDER_ENDPOINTS,
  ...WATCHED_ENDPOINTS,
  me: { method: 'get', path: '/me', summary: 'Who is signed in', open: true, answer: Me },
  csrf: {
    method: 'get',
    path: '/csrf',
    summary: 'A token to send as X-CSRF-Token with each change',
    open: true,
    answer: CsrfToken,
  },
  signIn: { method: 'post', path: '/sign-in', summary: 'Sign in', open: true, body: SignIn, answer: Me },
  signOut: { method: 'post', path: '/sign-out', summary: 'Sign out', answer: Me },
  signOutEverywhere: {
    method: 'post',
    path: '/sign-out-everywhere',
    summary: 'Sign out in all browsers and on all devices',
    answer: Me,
  },
  listFolios: { method: 'get', path: '/folios', summary: "The school's folios", answer: FolioList },
  createFolio: {
    method: 'post',
    path: '/folios',
    summary: 'Start a folio',
    body: FolioTitle,
    answer: FolioSummary,
  },
  getFolio: {
    method: 'get',
    path: '/folios/{folioId}',
    summary: 'A folio with its roll and what is written in it',
    answer: Folio,
  },
  renameFolio: {
    method: 'patch',
    path: '/folios/{folioId}',
    summary: 'Give a folio another title',
    body: FolioTitle,
    answer: FolioSummary,
  },
  copyFolio: {
    method: 'post',
    path: '/folios/{folioId}/copies',
    summary: 'Copy a folio with all that is written in it, with or without its people',
    body: CopyFolio,
    answer: FolioSummary,
  },
  archiveFolio: {
    method: 'put',
    path: '/folios/{folioId}/archived',
    summary: 'Put a folio away, or take it back',
    body: ArchiveFolio,
    answer: FolioSummary,
  },
  folioPicture: {
    method: 'get',
    path: '/folios/{folioId}/picture',
    summary: 'The first page of its first paper',
    answerType: 'image/svg+xml',
  },
  findLearners: {
    method: 'get',
    path: '/learners',
    summary: 'Learners of all folios by name',
    query: z.object({ text: z.string().max(200) }),
    answer: FoundLearners,
  },
  deleteFolio: {
    method: 'delete',
    path: '/folios/{folioId}',
    summary: 'Delete a folio and its papers',
    answer: Nothing,
  },
  bringInSheet: {
    method: 'post',
    path: '/folios/{folioId}/sheet',
    summary: 'Bring a file in as the roll: CSV, TSV, XLSX, XLS or ODS',
    query: fileName.extend({
      reading: readingText.optional(),
      /** `yes`: refused (`reading-doubtful`) where people had better look first how it is read. */
      ifSure: z.enum(['yes']).optional(),
    }),
    upload: ['text/csv', 'application/octet-stream'],
    answer: Folio,
  },
  keepFile: {
    method: 'post',
    path: '/folios/{folioId}/files',
    summary: 'Keep a file, to be brought in afterwards',
    upload: ['application/octet-stream'],
    answer: KeptFile,
  },
  bringIn: {
    method: 'post',
    path: '/folios/{folioId}/roll',
    summary: 'Bring a kept file in: as the roll, as a newer version of a source, or joined to the roll',
    body: BringIn,
    answer: Folio,
  },
  patchRoll: {
    method: 'patch',
    path: '/folios/{folioId}/roll',
    summary: 'Change cells, columns or the key of the roll, add entries, leave them out or take them away',
    body: RollPatch,
    answer: Nothing,
  },
  takeOutSource: {
    method: 'delete',
    path: '/folios/{folioId}/sources/{sourceId}',
    summary: 'Take a joined source out of the roll, with its columns',
    answer: Folio,
  },
  sourceFile: {
    method: 'get',
    path: '/folios/{folioId}/sources/{sourceId}/file',
    summary: 'The file of a source, as it came in',
    answerType: 'application/octet-stream',
  },
  goBack: {
    method: 'post',
    path: '/folios/{folioId}/roll/earlier/{earlierId}',
    summary: 'Have the roll back as it was before a larger change',
    answer: Folio,
  },
  rollFile: {
    method: 'get',
    path: '/folios/{folioId}/roll-file',
    summary: 'The roll as it stands, as a spreadsheet file',
    query: RollFileQuery,
    answerType: 'application/octet-stream',
  },
  addWriting: {
    method: 'post',
    path: '/folios/{folioId}/writings',
    summary: 'Add a letter, a cover note or a pattern of file names',
    body: AddWriting,
    answer: Writing,
  },
  getWriting: {
    method: 'get',
    path: '/folios/{folioId}/writings/{writingId}',
    summary: 'One of the things written in a folio, and who changed it last',
    answer: WritingNow,
  },
  saveWriting: {
    method: 'put',
    path: '/folios/{folioId}/writings/{writingId}',
    summary: 'Save a letter, a cover note or a pattern of file names',
    body: SaveWriting,
    answer: WritingSaved,
  },
  deleteWriting: {
    method: 'delete',
    path: '/folios/{folioId}/writings/{writingId}',
    summary: 'Delete one, unless it is the last of its kind; it can be had back',
    answer: Nothing,
  },
  restoreWriting: {
    method: 'post',
    path: '/folios/{folioId}/writings/{writingId}/restore',
    summary: 'Have one back that was deleted',
    answer: Writing,
  },
  deletedWritings: {
    method: 'get',
    path: '/folios/{folioId}/deleted-writings',
    summary: 'Those that were deleted and can be had back',
    answer: DeletedWritings,
  },
  copyWriting: {
    method: 'post',
    path: '/folios/{folioId}/writing-copies',
    summary: 'Add a copy of one, perhaps of another folio, with its pictures',
    body: CopyWriting,
    answer: Writing,
  },
  orderWritings: {
    method: 'put',
    path: '/folios/{folioId}/writing-order',
    summary: 'Put the writings of a kind into another order',
    body: OrderWritings,
    answer: Nothing,
  },
  keptVersions: {
    method: 'get',
    path: '/folios/{folioId}/writings/{writingId}/versions',
    summary: 'Versions that papers or messages were made from, and those with a name',
    answer: KeptVersions,
  },
  keepVersion: {
    method: 'post',
    path: '/folios/{folioId}/writings/{writingId}/versions',
    summary: 'Keep it as it is, or another text of its kind, under a name',
    body: KeepVersion,
    answer: KeptVersion,
  },
  keptVersion: {
    method: 'get',
    path: '/folios/{folioId}/writings/{writingId}/versions/{versionId}',
    summary: 'A kept version, whole',
    answer: Writing,
  },
  letterFile: {
    method: 'get',
    path: '/folios/{folioId}/writings/{writingId}/file',
    summary: 'A letter with its pictures as a file',
    answerType: 'application/zip',
  },
  bringLetter: {
    method: 'post',
    path: '/folios/{folioId}/letter-files',
    summary: 'Add a letter that was saved as a file, or a template file',
    query: fileName,
    upload: ['application/zip', 'application/json', 'application/octet-stream'],
    answer: Writing,
  },
  letterhead: {
    method: 'get',
    path: '/letterhead',
    summary: "The school's letterhead, with its pictures",
    answer: LetterheadNow,
  },
  saveLetterhead: {
    method: 'put',
    path: '/letterhead',
    summary: 'Use another letterhead from now on; papers that are there stay as they are',
    body: SaveLetterhead,
    answer: LetterheadNow,
  },
  letterheadVersions: {
    method: 'get',
    path: '/letterhead/versions',
    summary: 'What the letterhead was before',
    answer: LetterheadVersions,
  },
  letterheadVersion: {
    method: 'get',
    path: '/letterhead/versions/{version}',
    summary: 'The letterhead as it was in a version',
    answer: z.object({ letterhead: Letterhead }),
  },
  letterheadProof: {
    method: 'post',
    path: '/letterhead/proof',
    summary: 'Typeset a sample letter on a letterhead for the screen',
    body: LetterheadProof,
    answer: Proof,
  },
  addLetterheadPicture: {
    method: 'post',
    path: '/letterhead/pictures',
    summary: 'Add a crest or a scanned signature',
    query: fileName,
    upload: ['image/png', 'image/jpeg', 'image/svg+xml', 'application/octet-stream'],
    answer: PictureAsset,
  },
  letterheadPicture: {
    method: 'get',
    path: '/letterhead/pictures/{pictureId}',
    summary: 'A picture of the letterhead',
    answerType: 'image/*',
  },
  addPicture: {
    method: 'post',
    path: '/folios/{folioId}/assets',
    summary: 'Add a picture',
    query: fileName,
    upload: ['image/png', 'image/jpeg', 'image/svg+xml', 'application/octet-stream'],
    answer: PictureAsset,
  },
  addGround: {
    method: 'post',
    path: '/folios/{folioId}/grounds',
    summary: 'Add a PDF whose pages can lie under those of a certificate',
    query: fileName,
    upload: ['application/pdf', 'application/octet-stream'],
    answer: Ground,
  },
  getGround: {
    method: 'get',
    path: '/folios/{folioId}/grounds/{groundId}',
    summary: 'What is known of a PDF that lies under pages, with its blanks',
    answer: Ground,
  },
  getPicture: {
    method: 'get',
    path: '/folios/{folioId}/assets/{assetId}',
    summary: 'A picture',
    answerType: 'image/*',
  },
  proof: {
    method: 'post',
    path: '/folios/{folioId}/proof',
    summary: "Typeset one entry's paper for the screen",
    body: ProofRequest,
    answer: Proof,
  },
  fits: {
    method: 'post',
    path: '/folios/{folioId}/fits',
    summary: 'Measure how the texts of a certificate fit their boxes, for everybody who gets one',
    body: FitsRequest,
    answer: Fits,
  },
  preflight: {
    method: 'get',
    path: '/folios/{folioId}/preflight',
    summary: 'What is wrong or worth a look',
    answer: z.object({ findings: z.array(Finding) }),
  },
  checks: {
    method: 'get',
    path: '/folios/{folioId}/checks',
    summary: 'What is worth a look in papers as they would come out, as far as that is known',
    answer: Checks,
  },
  seenFindings: {
    method: 'get',
    path: '/folios/{folioId}/seen',
    summary: 'Which findings people have found right',
    answer: SeenFindings,
  },
  seeFindings: {
    method: 'post',
    path: '/folios/{folioId}/seen',
    summary: 'Say of findings that they are right, or take that back',
    body: SeeFindings,
    answer: SeenFindings,
  },
  startRun: {
    method: 'post',
    path: '/folios/{folioId}/runs',
    summary: 'Press papers',
    body: StartRun,
    answer: RunStarted,
  },
  runs: {
    method: 'get',
    path: '/folios/{folioId}/runs',
    summary: 'The press runs, the newest first',
    answer: RunList,
  },
  tryPapers: {
    method: 'post',
    path: '/folios/{folioId}/tries',
    summary: 'Mail papers of some learners to oneself, as they would come out now',
    body: TryPapers,
    answer: Tried,
  },
  stopRun: {
    method: 'post',
    path: '/folios/{folioId}/runs/{runId}/stop',
    summary: 'Stop a press run; what is pressed stays',
    answer: Nothing,
  },
  register: {
    method: 'get',
    path: '/folios/{folioId}/papers',
    summary: 'The papers with their states; with `since`, those that changed',
    query: RegisterSince,
    answer: Register,
  },
  events: {
    method: 'get',
    path: '/folios/{folioId}/events',
    summary: 'Progress as server-sent events',
    answerType: 'text/event-stream',
  },
  paperFile: {
    method: 'get',
    path: '/folios/{folioId}/papers/{paperId}/file',
    summary: 'The PDF of a paper',
    query: z.object({ download: z.literal('1').optional() }),
    answerType: 'application/pdf',
  },
  packs: {
    method: 'get',
    path: '/folios/{folioId}/packs',
    summary: 'The packs of papers, the newest first',
    answer: PackList,
  },
  makePack: {
    method: 'post',
    path: '/folios/{folioId}/packs',
    summary: 'Have papers put together in one file',
    body: PackAsked,
    answer: Pack,
  },
  packContents: {
    method: 'get',
    path: '/folios/{folioId}/packs/{packId}',
    summary: 'What is in a pack',
    answer: PackContents,
  },
  packFile: {
    method: 'get',
    path: '/folios/{folioId}/packs/{packId}/file',
    summary: 'A pack, as PDF or ZIP',
    query: z.object({ download: z.literal('1').optional() }),
    answerType: 'application/octet-stream',
  },
  deletePack: {
    method: 'delete',
    path: '/folios/{folioId}/packs/{packId}',
    summary: 'Take a pack away, also one that is being made',
    answer: Nothing,
  },
  dropOff: {
    method: 'get',
    path: '/folios/{folioId}/drop-off',
    summary: 'Where papers of the folio go as files too',
    answer: DropOff,
  },
  setDropOff: {
    method: 'put',
    path: '/folios/{folioId}/drop-off',
    summary: 'Say where papers go as files too, and put there what may leave',
    body: SetDropOff,
    answer: DropOff,
  },
  endDropOff: {
    method: 'delete',
    path: '/folios/{folioId}/drop-off',
    summary: 'Let papers go nowhere any more; those that lie there stay',
    answer: DropOff,
  },
  dropAgain: {
    method: 'post',
    path: '/folios/{folioId}/drop-off/again',
    summary: 'Put there now what is to be there',
    answer: DropOff,
  },
  holdPapers: {
    method: 'post',
    path: '/folios/{folioId}/papers/hold',
    summary: 'Hold papers back, or clear them',
    body: HoldPapers,
    answer: Judged,
  },
  voidPapers: {
    method: 'post',
    path: '/folios/{folioId}/papers/void',
    summary: 'Void papers, with a reason that stays',
    body: VoidPapers,
    answer: Judged,
  },
  issueAgain: {
    method: 'post',
    path: '/folios/{folioId}/papers/issue-again',
    summary: 'Press papers once more that take the place of others by name',
    body: IssueAgain,
    answer: RunStarted,
  },
  paperHistory: {
    method: 'get',
    path: '/folios/{folioId}/papers/{paperId}/history',
    summary: 'What a paper was made from, and what became of it',
    answer: PaperHistory,
  },
  registerFile: {
    method: 'get',
    path: '/folios/{folioId}/register-file',
    summary: 'The register as a spreadsheet file',
    query: RegisterFile,
    answerType: 'application/octet-stream',
  },
  schoolRegister: {
    method: 'get',
    path: '/register',
    summary: 'The papers of the school, over all folios',
    query: RegisterSought,
    answer: SchoolRegister,
  },
  schoolClasses: {
    method: 'get',
    path: '/register/classes',
    summary: 'The classes that papers of the school are of',
    answer: SchoolClasses,
  },
  schoolRegisterFile: {
    method: 'get',
    path: '/register/file',
    summary: 'Papers of the school as a spreadsheet file',
    query: SchoolRegisterFile,
    answerType: 'application/octet-stream',
  },
  paperProof: {
    method: 'get',
    path: '/folios/{folioId}/papers/{paperId}/proof',
    summary: 'A paper that was pressed, for the screen',
    answer: Proof,
  },
  wishes: {
    method: 'get',
    path: '/wishes',
    summary: 'What the school wants of its papers before they leave',
    answer: SchoolWishes,
  },
  setWishes: {
    method: 'put',
    path: '/wishes',
    summary: 'Say what the school wants of its papers before they leave',
    body: SchoolWishes,
    answer: SchoolWishes,
  },
  dispatchPlan: {
    method: 'get',
    path: '/folios/{folioId}/dispatch',
    summary: 'Who would get mail',
    answer: DispatchPlan,
  },
  dispatch: {
    method: 'post',
    path: '/folios/{folioId}/dispatch',
    summary: 'Send the planned messages',
    body: StartDispatch,
    answer: Dispatched,
  },
  sendAgain: {
    method: 'post',
    path: '/folios/{folioId}/messages/{messageId}/again',
    summary: 'Send a refused or unconfirmed message again',
    answer: Nothing,
  },
  againPlan: {
    method: 'get',
    path: '/folios/{folioId}/again',
    summary: 'Who would get a message once more',
    query: AskAgain,
    answer: AgainPlan,
  },
  sendManyAgain: {
    method: 'post',
    path: '/folios/{folioId}/again',
    summary: 'Send the planned messages once more',
    body: SendManyAgain,
    answer: Dispatched,
  },
  changeLink: {
    method: 'post',
    path: '/folios/{folioId}/messages/{messageId}/link',
    summary: 'Withdraw the private link of a message, allow it again, or let it work longer',
    body: ChangeLink,
    answer: Nothing,
  },
  sealPassword: {
    method: 'post',
    path: '/folios/{folioId}/password',
    summary: 'Seal the password that the papers of a cover note are opened with',
    body: SealPassword,
    answer: SealedPassword,
  },
  addAlong: {
    method: 'post',
    path: '/folios/{folioId}/along',
    summary: 'Add a file that goes along with messages',
    query: fileName,
    upload: ['application/octet-stream'],
    answer: AlongFile,
  },
  sendPapersAgain: {
    method: 'post',
    path: '/folios/{folioId}/papers/send-again',
    summary: 'Send papers once more, to the addresses of the roll now or to another one',
    body: SendPapersAgain,
    answer: Dispatched,
  },
  tryMailAgain: {
    method: 'post',
    path: '/mail-account/again',
    summary: 'Try the mail account again now, and with it all messages that wait for it',
    answer: z.object({ waiting: z.number().int() }),
  },
  postRoom: { method: 'get', path: '/post-room', summary: 'What mail leaves through', answer: PostRoom },
  choosePost: {
    method: 'put',
    path: '/post-room/on',
    summary: 'Which mail account is on',
    body: ChoosePost,
    answer: PostRoom,
  },
  addMailAccount: {
    method: 'post',
    path: '/post-room/accounts',
    summary: 'Add a mail account',
    body: SaveMailAccount,
    answer: MailAccount,
  },
  saveMailAccount: {
    method: 'put',
    path: '/post-room/accounts/{accountId}',
    summary: 'Change a mail account',
    body: SaveMailAccount,
    answer: MailAccount,
  },
  deleteMailAccount: {
    method: 'delete',
    path: '/post-room/accounts/{accountId}',
    summary: 'Delete a mail account',
    answer: PostRoom,
  },
  testMailAccount: {
    method: 'post',
    path: '/post-room/accounts/{accountId}/test',
    summary: 'Talk to the mail server of an account, and say how that went',
    body: TestMailAccount,
    answer: MailTest,
  },
  lookForReturns: {
    method: 'post',
    path: '/post-room/accounts/{accountId}/returns',
    summary: 'Look into the mailbox of an account for mail that came back',
    answer: LookedForReturns,
  },
  mailQueue: {
    method: 'get',
    path: '/post-room/queue',
    summary: 'Messages over all folios',
    query: QueueSought,
    answer: MailQueue,
  },
  messageFile: {
    method: 'get',
    path: '/post-room/messages/{messageId}/file',
    summary: 'A message as it leaves (RFC 5322)',
    answerType: 'message/rfc822',
  },
  folioMail: {
    method: 'get',
    path: '/folios/{folioId}/mail',
    summary: 'All messages of a folio in one file (RFC 4155)',
    answerType: 'application/mbox',
  },
  dispatchings: {
    method: 'get',
    path: '/folios/{folioId}/dispatches',
    summary: 'What was sent together, and how far it is',
    answer: Dispatchings,
  },
  changeDispatch: {
    method: 'post',
    path: '/folios/{folioId}/dispatches/{dispatchId}',
    summary: 'Stop a dispatch, let it go on, or take back what has not left',
    body: ChangeDispatch,
    answer: Dispatchings,
  },
  takeReturns: {
    method: 'post',
    path: '/post-room/returns',
    summary: 'Take in reports of messages that came back (RFC 3464), as a file of a message or an mbox',
    answer: TakenReturns,
  },
  practiceManner: {
    method: 'put',
    path: '/practice-post/manner',
    summary: 'How the practice post behaves',
    body: PracticeManner,
    answer: PracticeManner,
  },
  mailboxes: {
    method: 'get',
    path: '/practice-post/mailboxes',
    summary: 'Mailboxes of the practice post',
    answer: Mailboxes,
  },
  mailList: {
    method: 'get',
    path: '/practice-post/messages',
    summary: 'Messages in a mailbox',
    query: z.object({ mailbox: z.string() }),
    answer: MailList,
  },
  mail: { method: 'get', path: '/practice-post/messages/{mailId}', summary: 'A message', answer: Mail },
  mailHtml: {
    method: 'get',
    path: '/practice-post/messages/{mailId}/html',
    summary: "A message's HTML, sandboxed",
    answerType: 'text/html',
  },
  mailFile: {
    method: 'get',
    path: '/practice-post/messages/{mailId}/files/{index}',
    summary: 'An attachment',
    answerType: 'application/octet-stream',
  },
  openapi: {
    method: 'get',
    path: '/openapi.json',
    summary: 'This description',
    open: true,
    answer: z.record(z.string(), z.unknown()),
  },
  health: {
    method: 'get',
    path: '/health',
    summary: 'Whether the server and its database answer',
    open: true,
    answer: z.object({ ok: z.boolean() }),
  },
});

export type EndpointName = keyof typeof ENDPOINTS;
