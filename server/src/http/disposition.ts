import type { Response } from 'express';

/** Content-Disposition with any file name (RFC 6266; RFC 8187 for what is not ASCII). */
export function disposition(response: Response, kind: 'inline' | 'attachment', name: string): void {
  response.attachment(name);
  if (kind === 'inline')
    response.set(
      'Content-Disposition',
      String(response.get('Content-Disposition')).replace(/^attachment/, 'inline'),
    );
}
