import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type {
  BringIn,
  DispatchPlan,
  Folio,
  FolioSummary,
  Mail,
  Mailboxes,
  MailList,
  Me,
  PictureAsset,
  ProblemDetails,
  Proof,
  Register,
  RunStarted,
} from '@scriptum/core/contract';
import type { RollPatch } from '@scriptum/core/roll';
import type { CoverNote, Filing, Letter } from '@scriptum/core/template';
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

  saveLetter = (id: string, version: number, letter: Letter): Observable<{ version: number }> =>
    this.http.put<{ version: number }>(`/api/folios/${id}/letter`, { version, letter });
  saveNote = (id: string, version: number, note: CoverNote): Observable<{ version: number }> =>
    this.http.put<{ version: number }>(`/api/folios/${id}/note`, { version, note });
  saveFiling = (id: string, version: number, filing: Filing): Observable<{ version: number }> =>
    this.http.put<{ version: number }>(`/api/folios/${id}/filing`, { version, filing });
  addPicture = (id: string, file: File): Observable<PictureAsset> =>
    this.http.post<PictureAsset>(`/api/folios/${id}/assets`, file, {
      params: { name: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  proof = (id: string, entryId: string | null, letter: Letter): Observable<Proof> =>
    this.http.post<Proof>(`/api/folios/${id}/proof`, { entryId, letter });

  register = (id: string): Observable<Register> => this.http.get<Register>(`/api/folios/${id}/papers`);
  startRun = (id: string, entryIds?: string[]): Observable<RunStarted> =>
    this.http.post<RunStarted>(`/api/folios/${id}/runs`, { entryIds });
  stopRun = (id: string, runId: string): Observable<object> =>
    this.http.post(`/api/folios/${id}/runs/${runId}/stop`, {});
  holdPapers = (id: string, paperIds: string[], hold: boolean): Observable<object> =>
    this.http.post(`/api/folios/${id}/papers/hold`, { paperIds, hold });
  dispatchPlan = (id: string): Observable<DispatchPlan> =>
    this.http.get<DispatchPlan>(`/api/folios/${id}/dispatch`);
  dispatch = (id: string, planId: string, again: boolean): Observable<{ queued: number }> =>
    this.http.post<{ queued: number }>(`/api/folios/${id}/dispatch`, { planId, again });
  sendAgain = (id: string, messageId: string): Observable<object> =>
    this.http.post(`/api/folios/${id}/messages/${messageId}/again`, {});

  tryMailAgain = (): Observable<{ waiting: number }> =>
    this.http.post<{ waiting: number }>('/api/mail-account/again', {});

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
