import { HttpErrorResponse, type HttpInterceptorFn, type HttpRequest } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
import { troubleOf } from './api';
import { finalize, retry, throwError, timer } from 'rxjs';

/** Milliseconds between two tries while the server or its database does not answer. */
export const TRY_EVERY = 1500;

/** Who does not answer, or has no time to. */
type Absent = 'server' | 'database' | 'busy' | 'room';

/** Codes of refusals with 503, besides that of a database that does not answer. */
const BY_CODE: Readonly<Record<string, Absent>> = { busy: 'busy', 'disk-full': 'room' };

const SENTENCES: Readonly<Record<Absent, string>> = {
  server: 'Scriptum’s server does not answer. What you changed stays here; trying again …',
  database: 'The database does not answer. Nothing is lost; trying again …',
  room: 'There is no room left on the disk of the database. What you changed stays here; tell whoever looks after this server. Trying again …',
  busy: 'Scriptum is busy just now. Nothing is lost; trying again …',
};

/** Whether the server, or its database, does not answer just now, so that what was asked for is being tried again. */
@Injectable({ providedIn: 'root' })
export class Outage {
  private readonly waiting = signal(new Map<object, Absent>());
  readonly sentence = signal<string | null>(null);

  wait(request: object, of: Absent): void {
    this.waiting().set(request, of);
    this.say();
  }

  over(request: object): void {
    if (this.waiting().delete(request)) this.say();
  }

  private say(): void {
    const [of] = this.waiting().values();
    this.sentence.set(of === undefined ? null : SENTENCES[of]);
  }
}

/**
 * Tries again what changes nothing, or comes to the same when it is done twice, until it goes through: reading, and saving
 * of a whole text or of cells. What a person starts, such as pressing and sending, is never started a second time by itself.
 */
export const outageInterceptor: HttpInterceptorFn = (request, next) => {
  const outage = inject(Outage);
  if (!mayRepeat(request)) return next(request);
  return next(request).pipe(
    retry({
      delay: (error: unknown) => {
        const away = isAway(error);
        if (!away) return throwError(() => error);
        outage.wait(request, away);
        return timer(TRY_EVERY);
      },
    }),
    finalize(() => outage.over(request)),
  );
};

const mayRepeat = ({ method, url }: HttpRequest<unknown>): boolean =>
  method === 'GET' || method === 'PUT' || method === 'PATCH' || url.endsWith('/proof');

/** Who does not answer; null where somebody did. */
function isAway(error: unknown): Absent | null {
  if (!(error instanceof HttpErrorResponse)) return null;
  if (error.status === 0 || error.status === 502 || error.status === 504) return 'server';
  if (error.status !== 503) return null;
  return BY_CODE[troubleOf(error).code] ?? 'database';
}
