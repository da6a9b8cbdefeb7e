import { HttpClient, type HttpEvent, type HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { catchError, map, of, switchMap, tap, throwError, type Observable } from 'rxjs';
import { troubleOf } from './api';

/** Keeps the token that each change must carry, for as long as one session lasts. */
@Injectable({ providedIn: 'root' })
export class CsrfToken {
  private readonly http = inject(HttpClient);
  private token: string | null = null;

  get(): Observable<string> {
    if (this.token) return of(this.token);
    return this.http.get<{ token: string }>('/api/csrf').pipe(
      map(({ token }) => token),
      tap((token) => (this.token = token)),
    );
  }

  forget(): void {
    this.token = null;
  }
}

/** A token that counts no more, because another session began meanwhile, is asked for anew, once. */
export const csrfInterceptor: HttpInterceptorFn = (request, next) => {
  if (request.method === 'GET') return next(request);
  const csrf = inject(CsrfToken);
  const send = (): Observable<HttpEvent<unknown>> =>
    csrf.get().pipe(switchMap((token) => next(request.clone({ setHeaders: { 'X-CSRF-Token': token } }))));
  return send().pipe(
    catchError((error: unknown) => {
      if (troubleOf(error).code !== 'csrf') return throwError(() => error);
      csrf.forget();
      return send();
    }),
  );
};
