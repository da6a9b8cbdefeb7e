import type { HttpInterceptorFn } from '@angular/common/http';
import { newId } from './new-id';

/** Names this window among those that show a folio, so that it does not hear of what it did itself. */
export const DESK_ID = newId();

export const deskIdInterceptor: HttpInterceptorFn = (request, next) =>
  next(request.method === 'GET' ? request : request.clone({ setHeaders: { 'X-Desk': DESK_ID } }));
