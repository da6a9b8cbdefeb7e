import { HttpClient, type HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { map, of, switchMap, tap, type Observable } from 'rxjs';

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

export const csrfInterceptor: HttpInterceptorFn = (request, next) => {
  if (request.method === 'GET') return next(request);
  return inject(CsrfToken)
    .get()
    .pipe(switchMap((token) => next(request.clone({ setHeaders: { 'X-CSRF-Token': token } }))));
};
