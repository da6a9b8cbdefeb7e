import type { Request, Response } from 'express';
import type { EntityManager } from 'typeorm';
import { checkPicture } from '../press/check-picture.js';
import { fromProblem, notFound } from '../refusal.js';
import { keepBlob, readBlob } from '../store/blobs.js';

export const PICTURE_MOST = 10 * 1024 * 1024;

/** Keeps a picture that was sent. @throws Refusal for what is no picture that can be printed. */
export async function takePicture(
  request: Request,
  manager: EntityManager,
  schoolId: string,
): Promise<{ mime: string; blobHash: string }> {
  const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
  const checked = await checkPicture(bytes);
  if (!checked.ok) throw fromProblem(checked.problem);
  return { mime: checked.value, blobHash: await keepBlob(manager, schoolId, bytes) };
}

/** Sends a picture to a browser. @throws Refusal `not-found` */
export async function sendPicture(
  response: Response,
  manager: EntityManager,
  picture: { schoolId: string; mime: string; blobHash: string } | null,
): Promise<void> {
  const bytes = picture && (await readBlob(manager, picture.schoolId, picture.blobHash));
  if (!picture || !bytes) throw notFound('This picture');
  // An SVG may hold scripts; opened by itself it must not run them.
  response.set({
    'Content-Security-Policy': "sandbox; default-src 'none'; style-src 'unsafe-inline'",
    'Cache-Control': 'private, max-age=31536000, immutable',
  });
  response.type(picture.mime).send(bytes);
}
