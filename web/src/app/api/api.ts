import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type {
  AddWriting,
  AgainPlan,
  AnswerAbout,
  AskAgain,
  AskedPress,
  BringIn,
  ChangeLink,
  Checks,
  DeletedWritings,
  DispatchPlan,
  Fits,
  Folio,
  FormDoor,
  Ground,
  FolioSummary,
  FoundLearner,
  Judged,
  KeptVersion,
  LookedForReturns,
  LetterheadNow,
  LetterheadProof,
  LetterheadVersions,
  Mail,
  Mailboxes,
  MailList,
  Me,
  AddWatched,
  ChangeHook,
  WatchedList,
  ChangeWatched,
  HookList,
  Practised,
  OrderList,
  OrderNext,
  OrderWorkList,
  PaperHistory,
  DropOff,
  DropPlace,
  Pack,
  PackAsked,
  PackContents,
  PackList,
  PictureAsset,
  RegisterSought,
  SchoolRegister,
  ProblemDetails,
  Proof,
  Register,
  RunLine,
  RunStarted,
  SendManyAgain,
  SendPapersAgain,
  StartDispatch,
  SaveLetterhead,
  SaveWriting,
  SchoolWishes,
  SeenFindings,
  Tried,
  WritingNow,
  WritingSaved,
  Dispatchings,
  MailAccount,
  MailQueue,
  MailTest,
  PostRoom,
  QueueSought,
  SaveMailAccount,
  TakenReturns,
  PracticeManner,
  PracticeMood,
} from '@scriptum/core/contract';
import type { Order } from '@scriptum/core/order';
import type { RollPatch } from '@scriptum/core/roll';
import type { AlongFile, Letterhead, Placed, Template, Writing, WritingKind } from '@scriptum/core/template';
import type { Observable } from 'rxjs';

/** The server's HTTP interface. Nothing else in the interface speaks HTTP. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  me = (): Observable<Me> => this.http.get<Me>('/api/me');
  signIn = (email: string, password: string): Observable<Me> =>
    this.http.post<Me>('/api/sign-in', { email, password });
  signOut = (): Observable<Me> => this.http.post<Me>('/api/sign-out', {});
  signOutEverywhere = (): Observable<Me> => this.http.post<Me>('/api/sign-out-everywhere', {});

  folios = (): Observable<{ folios: FolioSummary[] }> =>
    this.http.get<{ folios: FolioSummary[] }>('/api/folios');
  createFolio = (title: string): Observable<FolioSummary> =>
    this.http.post<FolioSummary>('/api/folios', { title });
  renameFolio = (id: string, title: string): Observable<FolioSummary> =>
    this.http.patch<FolioSummary>(`/api/folios/${id}`, { title });
  copyFolio = (id: string, title: string, people: boolean): Observable<FolioSummary> =>
    this.http.post<FolioSummary>(`/api/folios/${id}/copies`, { title, people });
  archiveFolio = (id: string, archived: boolean): Observable<FolioSummary> =>
    this.http.put<FolioSummary>(`/api/folios/${id}/archived`, { archived });
  findLearners = (text: string): Observable<{ learners: FoundLearner[] }> =>
    this.http.get<{ learners: FoundLearner[] }>('/api/learners', { params: { text } });
  deleteFolio = (id: string): Observable<object> => this.http.delete(`/api/folios/${id}`);
  folio = (id: string): Observable<Folio> => this.http.get<Folio>(`/api/folios/${id}`);
  /** Refused with `reading-doubtful` where people had better look first. */
  bringInSheet = (id: string, file: File): Observable<Folio> =>
    this.http.post<Folio>(`/api/folios/${id}/sheet`, file, {
      params: { name: file.name, ifSure: 'yes' },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  keepFile = (id: string, file: Blob): Observable<{ fileId: string }> =>
    this.http.post<{ fileId: string }>(`/api/folios/${id}/files`, file, {
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  bringIn = (id: string, body: BringIn): Observable<Folio> =>
    this.http.post<Folio>(`/api/folios/${id}/roll`, body);
  patchRoll = (id: string, patch: RollPatch): Observable<object> =>
    this.http.patch(`/api/folios/${id}/roll`, patch);
  takeOutSource = (id: string, sourceId: string): Observable<Folio> =>
    this.http.delete<Folio>(`/api/folios/${id}/sources/${sourceId}`);
  goBack = (id: string, earlierId: string): Observable<Folio> =>
    this.http.post<Folio>(`/api/folios/${id}/roll/earlier/${earlierId}`, {});
  sourceFile = (id: string, sourceId: string): Observable<Blob> =>
    this.http.get(`/api/folios/${id}/sources/${sourceId}/file`, { responseType: 'blob' });

  formDoors = (id: string): Observable<{ doors: FormDoor[] }> =>
    this.http.get<{ doors: FormDoor[] }>(`/api/folios/${id}/forms`);
  publishForm = (id: string, writingId: string, version: number): Observable<{ doors: FormDoor[] }> =>
    this.http.post<{ doors: FormDoor[] }>(`/api/folios/${id}/forms/${writingId}/publish`, { version });
  openForm = (id: string, writingId: string, isOpen: boolean): Observable<{ doors: FormDoor[] }> =>
    this.http.put<{ doors: FormDoor[] }>(`/api/folios/${id}/forms/${writingId}/open`, { isOpen });
  answersOf = (id: string, entryId: string): Observable<{ answers: AnswerAbout[] }> =>
    this.http.get<{ answers: AnswerAbout[] }>(`/api/folios/${id}/entries/${entryId}/answers`);
  deleteAnswer = (id: string, entryId: string): Observable<object> =>
    this.http.delete(`/api/folios/${id}/entries/${entryId}/answers`);

  hooks = (id: string): Observable<HookList> => this.http.get<HookList>(`/api/folios/${id}/hooks`);
  addHook = (id: string, hookId: string, name: string): Observable<HookList> =>
    this.http.post<HookList>(`/api/folios/${id}/hooks`, { id: hookId, name });
  changeHook = (id: string, hookId: string, change: ChangeHook): Observable<HookList> =>
    this.http.patch<HookList>(`/api/folios/${id}/hooks/${hookId}`, change);
  newHookKey = (id: string, hookId: string): Observable<HookList> =>
    this.http.post<HookList>(`/api/folios/${id}/hooks/${hookId}/key`, {});
  deleteHook = (id: string, hookId: string): Observable<HookList> =>
    this.http.delete<HookList>(`/api/folios/${id}/hooks/${hookId}`);
  practiseHook = (id: string, hookId: string): Observable<Practised> =>
    this.http.post<Practised>(`/api/folios/${id}/hooks/${hookId}/practice`, {});

  watched = (id: string): Observable<WatchedList> => this.http.get<WatchedList>(`/api/folios/${id}/watched`);
  addWatched = (id: string, asked: AddWatched): Observable<WatchedList> =>
    this.http.post<WatchedList>(`/api/folios/${id}/watched`, asked);
  changeWatched = (id: string, watchedId: string, change: ChangeWatched): Observable<WatchedList> =>
    this.http.patch<WatchedList>(`/api/folios/${id}/watched/${watchedId}`, change);
  lookNow = (id: string, watchedId: string): Observable<WatchedList> =>
    this.http.post<WatchedList>(`/api/folios/${id}/watched/${watchedId}/look`, {});
  deleteWatched = (id: string, watchedId: string): Observable<WatchedList> =>
    this.http.delete<WatchedList>(`/api/folios/${id}/watched/${watchedId}`);
  watchedVersion = (id: string, watchedId: string): Observable<Blob> =>
    this.http.get(`/api/folios/${id}/watched/${watchedId}/version`, { responseType: 'blob' });

  orders = (id: string): Observable<OrderList> => this.http.get<OrderList>(`/api/folios/${id}/orders`);
  addOrder = (id: string, orderId: string, order: Order): Observable<OrderList> =>
    this.http.post<OrderList>(`/api/folios/${id}/orders`, { id: orderId, order });
  saveOrder = (id: string, orderId: string, order: Order, version: number): Observable<OrderList> =>
    this.http.put<OrderList>(`/api/folios/${id}/orders/${orderId}`, { order, version });
  switchOrder = (id: string, orderId: string, isOn: boolean): Observable<OrderList> =>
    this.http.put<OrderList>(`/api/folios/${id}/orders/${orderId}/on`, { isOn });
  deleteOrder = (id: string, orderId: string): Observable<OrderList> =>
    this.http.delete<OrderList>(`/api/folios/${id}/orders/${orderId}`);
  restoreOrder = (id: string, orderId: string): Observable<OrderList> =>
    this.http.post<OrderList>(`/api/folios/${id}/orders/${orderId}/restore`, {});
  orderNext = (id: string, orderId: string): Observable<OrderNext> =>
    this.http.get<OrderNext>(`/api/folios/${id}/orders/${orderId}/next`);
  runOrder = (id: string, orderId: string, count: number): Observable<{ owed: number }> =>
    this.http.post<{ owed: number }>(`/api/folios/${id}/orders/${orderId}/run`, { count });
  orderWork = (id: string, orderId: string): Observable<OrderWorkList> =>
    this.http.get<OrderWorkList>(`/api/folios/${id}/orders/${orderId}/work`);
  answerAsked = (
    id: string,
    orderId: string,
    workIds: readonly string[],
    yes: boolean,
  ): Observable<{ done: number; passedOver: number }> =>
    this.http.post<{ done: number; passedOver: number }>(`/api/folios/${id}/orders/${orderId}/answer`, {
      workIds,
      yes,
    });

  schoolRegister = (sought: RegisterSought): Observable<SchoolRegister> =>
    this.http.get<SchoolRegister>('/api/register', { params: { ...sought } });
  schoolClasses = (): Observable<{ classes: string[] }> =>
    this.http.get<{ classes: string[] }>('/api/register/classes');
  issueAgain = (id: string, paperIds: readonly string[], reason: string): Observable<RunStarted> =>
    this.http.post<RunStarted>(`/api/folios/${id}/papers/issue-again`, { paperIds, reason });
  dropOff = (id: string): Observable<DropOff> => this.http.get<DropOff>(`/api/folios/${id}/drop-off`);
  setDropOff = (id: string, place: DropPlace): Observable<DropOff> =>
    this.http.put<DropOff>(`/api/folios/${id}/drop-off`, { place });
  endDropOff = (id: string): Observable<DropOff> => this.http.delete<DropOff>(`/api/folios/${id}/drop-off`);
  dropAgain = (id: string): Observable<DropOff> =>
    this.http.post<DropOff>(`/api/folios/${id}/drop-off/again`, {});
  packs = (id: string): Observable<PackList> => this.http.get<PackList>(`/api/folios/${id}/packs`);
  makePack = (id: string, asked: PackAsked): Observable<Pack> =>
    this.http.post<Pack>(`/api/folios/${id}/packs`, asked);
  packContents = (id: string, packId: string): Observable<PackContents> =>
    this.http.get<PackContents>(`/api/folios/${id}/packs/${packId}`);
  deletePack = (id: string, packId: string): Observable<unknown> =>
    this.http.delete(`/api/folios/${id}/packs/${packId}`);
  writing = (id: string, writingId: string): Observable<WritingNow> =>
    this.http.get<WritingNow>(`/api/folios/${id}/writings/${writingId}`);
  addTemplate = (id: string, content: Template): Observable<Writing> =>
    this.addWriting(id, { kind: content.kind, content } as AddWriting);
  addWriting = (id: string, body: AddWriting): Observable<Writing> =>
    this.http.post<Writing>(`/api/folios/${id}/writings`, body);
  copyWriting = (
    id: string,
    from: { folioId: string; writingId: string; name?: string },
  ): Observable<Writing> => this.http.post<Writing>(`/api/folios/${id}/writing-copies`, from);
  orderWritings = (id: string, kind: WritingKind, ids: readonly string[]): Observable<unknown> =>
    this.http.put(`/api/folios/${id}/writing-order`, { kind, ids });
  deleteWriting = (id: string, writingId: string): Observable<unknown> =>
    this.http.delete(`/api/folios/${id}/writings/${writingId}`);
  restoreWriting = (id: string, writingId: string): Observable<Writing> =>
    this.http.post<Writing>(`/api/folios/${id}/writings/${writingId}/restore`, {});
  bringLetter = (id: string, file: File): Observable<Writing> =>
    this.http.post<Writing>(`/api/folios/${id}/letter-files`, file, {
      params: { name: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  deletedWritings = (id: string): Observable<DeletedWritings> =>
    this.http.get<DeletedWritings>(`/api/folios/${id}/deleted-writings`);
  saveWriting = (id: string, writingId: string, body: SaveWriting): Observable<WritingSaved> =>
    this.http.put<WritingSaved>(`/api/folios/${id}/writings/${writingId}`, body);
  /** Keeps a text as it stands on screen beside the writing, under a name. */
  keepCopy = (
    id: string,
    { id: writingId, kind, content }: Pick<Writing, 'id' | 'kind' | 'content'>,
    name: string,
  ): Observable<KeptVersion> =>
    this.http.post<KeptVersion>(`/api/folios/${id}/writings/${writingId}/versions`, {
      name,
      copy: { kind, content },
    });
  keptVersions = (id: string, writingId: string): Observable<{ versions: KeptVersion[] }> =>
    this.http.get<{ versions: KeptVersion[] }>(`/api/folios/${id}/writings/${writingId}/versions`);
  keptVersion = (id: string, writingId: string, versionId: string): Observable<Writing> =>
    this.http.get<Writing>(`/api/folios/${id}/writings/${writingId}/versions/${versionId}`);
  addPicture = (id: string, file: File): Observable<PictureAsset> =>
    this.http.post<PictureAsset>(`/api/folios/${id}/assets`, file, {
      params: { name: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  addAlong = (id: string, file: File): Observable<AlongFile> =>
    this.http.post<AlongFile>(`/api/folios/${id}/along`, file, {
      params: { name: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  lookForReturns = (accountId: string): Observable<LookedForReturns> =>
    this.http.post<LookedForReturns>(`/api/post-room/accounts/${accountId}/returns`, {});
  againPlan = (id: string, asked: AskAgain): Observable<AgainPlan> =>
    this.http.get<AgainPlan>(`/api/folios/${id}/again`, { params: { ...asked } });
  sendManyAgain = (id: string, asked: SendManyAgain): Observable<{ queued: number }> =>
    this.http.post<{ queued: number }>(`/api/folios/${id}/again`, asked);
  sealPassword = (id: string, word: string): Observable<{ sealed: string }> =>
    this.http.post<{ sealed: string }>(`/api/folios/${id}/password`, { word });
  changeLink = (id: string, messageId: string, body: ChangeLink): Observable<unknown> =>
    this.http.post(`/api/folios/${id}/messages/${messageId}/link`, body);
  letterheadPicture = (pictureId: string): Observable<Blob> =>
    this.http.get(`/api/letterhead/pictures/${pictureId}`, { responseType: 'blob' });
  letterhead = (): Observable<LetterheadNow> => this.http.get<LetterheadNow>('/api/letterhead');
  saveLetterhead = (body: SaveLetterhead): Observable<LetterheadNow> =>
    this.http.put<LetterheadNow>('/api/letterhead', body);
  letterheadVersions = (): Observable<LetterheadVersions> =>
    this.http.get<LetterheadVersions>('/api/letterhead/versions');
  letterheadVersion = (version: number): Observable<{ letterhead: Letterhead }> =>
    this.http.get<{ letterhead: Letterhead }>(`/api/letterhead/versions/${version}`);
  letterheadProof = (body: LetterheadProof): Observable<Proof> =>
    this.http.post<Proof>('/api/letterhead/proof', body);
  addLetterheadPicture = (file: File): Observable<PictureAsset> =>
    this.http.post<PictureAsset>('/api/letterhead/pictures', file, {
      params: { name: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  ground = (id: string, groundId: string): Observable<Ground> =>
    this.http.get<Ground>(`/api/folios/${id}/grounds/${groundId}`);
  addGround = (id: string, file: File): Observable<Ground> =>
    this.http.post<Ground>(`/api/folios/${id}/grounds`, file, {
      params: { name: file.name },
      headers: { 'content-type': 'application/pdf' },
    });
  fits = (id: string, template: Placed, templateId: string): Observable<Fits> =>
    this.http.post<Fits>(`/api/folios/${id}/fits`, { template, templateId });
  proof = (id: string, entryId: string | null, template: Template): Observable<Proof> =>
    this.http.post<Proof>(`/api/folios/${id}/proof`, { entryId, template });

  /** @param since the revision that is known, where one is. */
  register = (id: string, since: number | null): Observable<Register> =>
    this.http.get<Register>(`/api/folios/${id}/papers`, { params: since === null ? {} : { since } });
  startRun = (id: string, asked: AskedPress): Observable<RunStarted> =>
    this.http.post<RunStarted>(`/api/folios/${id}/runs`, asked);
  runs = (id: string): Observable<{ runs: RunLine[] }> =>
    this.http.get<{ runs: RunLine[] }>(`/api/folios/${id}/runs`);
  tryPapers = (id: string, entryIds: string[], messages: boolean): Observable<Tried> =>
    this.http.post<Tried>(`/api/folios/${id}/tries`, { entryIds, messages });
  stopRun = (id: string, runId: string): Observable<object> =>
    this.http.post(`/api/folios/${id}/runs/${runId}/stop`, {});
  holdPapers = (id: string, paperIds: string[], hold: boolean, note = ''): Observable<Judged> =>
    this.http.post<Judged>(`/api/folios/${id}/papers/hold`, { paperIds, hold, ...(note ? { note } : {}) });
  voidPapers = (id: string, paperIds: string[], reason: string): Observable<Judged> =>
    this.http.post<Judged>(`/api/folios/${id}/papers/void`, { paperIds, reason });
  paperHistory = (id: string, paperId: string): Observable<PaperHistory> =>
    this.http.get<PaperHistory>(`/api/folios/${id}/papers/${paperId}/history`);
  paperProof = (id: string, paperId: string): Observable<Proof> =>
    this.http.get<Proof>(`/api/folios/${id}/papers/${paperId}/proof`);
  wishes = (): Observable<SchoolWishes> => this.http.get<SchoolWishes>('/api/wishes');
  setWishes = (wishes: SchoolWishes): Observable<SchoolWishes> =>
    this.http.put<SchoolWishes>('/api/wishes', wishes);
  checks = (id: string): Observable<Checks> => this.http.get<Checks>(`/api/folios/${id}/checks`);
  seenFindings = (id: string): Observable<SeenFindings> =>
    this.http.get<SeenFindings>(`/api/folios/${id}/seen`);
  seeFindings = (id: string, marks: string[], right: boolean): Observable<SeenFindings> =>
    this.http.post<SeenFindings>(`/api/folios/${id}/seen`, { marks, right });
  dispatchPlan = (id: string): Observable<DispatchPlan> =>
    this.http.get<DispatchPlan>(`/api/folios/${id}/dispatch`);
  dispatch = (id: string, asked: StartDispatch): Observable<{ queued: number }> =>
    this.http.post<{ queued: number }>(`/api/folios/${id}/dispatch`, asked);
  sendPapersAgain = (id: string, asked: SendPapersAgain): Observable<{ queued: number }> =>
    this.http.post<{ queued: number }>(`/api/folios/${id}/papers/send-again`, asked);
  sendAgain = (id: string, messageId: string): Observable<object> =>
    this.http.post(`/api/folios/${id}/messages/${messageId}/again`, {});

  tryMailAgain = (): Observable<{ waiting: number }> =>
    this.http.post<{ waiting: number }>('/api/mail-account/again', {});

  postRoom = (): Observable<PostRoom> => this.http.get<PostRoom>('/api/post-room');
  choosePost = (accountId: string | null, from: string | null): Observable<PostRoom> =>
    this.http.put<PostRoom>('/api/post-room/on', { accountId, from });
  addMailAccount = (account: SaveMailAccount): Observable<MailAccount> =>
    this.http.post<MailAccount>('/api/post-room/accounts', account);
  saveMailAccount = (id: string, account: SaveMailAccount): Observable<MailAccount> =>
    this.http.put<MailAccount>(`/api/post-room/accounts/${id}`, account);
  deleteMailAccount = (id: string): Observable<PostRoom> =>
    this.http.delete<PostRoom>(`/api/post-room/accounts/${id}`);
  testMailAccount = (id: string, send: boolean): Observable<MailTest> =>
    this.http.post<MailTest>(`/api/post-room/accounts/${id}/test`, { send });
  mailQueue = (sought: QueueSought): Observable<MailQueue> =>
    this.http.get<MailQueue>('/api/post-room/queue', { params: { ...sought } });
  dispatches = (id: string): Observable<Dispatchings> =>
    this.http.get<Dispatchings>(`/api/folios/${id}/dispatches`);
  changeDispatch = (
    id: string,
    dispatchId: string,
    to: 'stop' | 'go on' | 'take back',
  ): Observable<Dispatchings> =>
    this.http.post<Dispatchings>(`/api/folios/${id}/dispatches/${dispatchId}`, { to });

  takeReturns = (file: File): Observable<TakenReturns> =>
    this.http.post<TakenReturns>('/api/post-room/returns', file, {
      headers: { 'content-type': 'application/octet-stream' },
    });
  setPracticeManner = (mood: PracticeMood): Observable<PracticeManner> =>
    this.http.put<PracticeManner>('/api/practice-post/manner', { mood });
  mailboxes = (): Observable<Mailboxes> => this.http.get<Mailboxes>('/api/practice-post/mailboxes');
  mailList = (mailbox: string): Observable<MailList> =>
    this.http.get<MailList>('/api/practice-post/messages', { params: { mailbox } });
  mail = (id: string): Observable<Mail> => this.http.get<Mail>(`/api/practice-post/messages/${id}`);
}

export interface Trouble {
  readonly code: string;
  readonly message: string;
}

/** What went wrong, as a sentence for the person. */
export function troubleOf(error: unknown): Trouble {
  if (error instanceof HttpErrorResponse) {
    if (error.status === 0)
      return {
        code: 'offline',
        message: 'Scriptum’s server does not answer. Check that it is running, then try again.',
      };
    const problem = readProblem(error.error);
    if (problem) return { code: problem.code, message: problem.detail };
    return { code: 'http', message: `The server answered ${error.status}. Try again.` };
  }
  return {
    code: 'unknown',
    message: error instanceof Error ? error.message : 'Something went wrong. Try again.',
  };
}

function readProblem(body: unknown): ProblemDetails | null {
  let problem: unknown = body;
  if (typeof body === 'string') {
    try {
      problem = JSON.parse(body);
    } catch {
      return null;
    }
  }
  return typeof problem === 'object' && problem !== null && 'detail' in problem
    ? (problem as ProblemDetails)
    : null;
}
