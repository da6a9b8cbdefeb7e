import type { RequestHandler } from 'express';

/** Reads bodies of people who are signed in; nobody else gets a large body read. */
export function forStaff(read: RequestHandler): RequestHandler {
  return (request, response, next) => {
    if (request.session.staffId) void read(request, response, next);
    else next();
  };
}
