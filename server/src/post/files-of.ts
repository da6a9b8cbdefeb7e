import type { EntityManager } from 'typeorm';
import type { Leaving } from '../ground/leaving.js';
import type { LaidOn } from '../store/laid-on.js';
import type { Due } from './message-claims.js';
import type { OutgoingMessage } from './transport.js';

/** The papers of a message as they leave, whole; null where one is not there any more. */
export async function filesOf(
  manager: EntityManager,
  leaving: Leaving,
  { message, files }: Due,
): Promise<OutgoingMessage['files'] | null> {
  if (files.length === 0 || files.some(({ bytes }) => bytes === null)) return null;
  const there: { name: string; bytes: Buffer }[] = [];
  for (const { fileName, bytes, laidOn } of files) {
    const file = { bytes: bytes!, laidOn: laidOn === null ? null : (JSON.parse(laidOn) as LaidOn) };
    there.push({
      name: fileName.split('/').at(-1)!,
      bytes: await leaving.whole(manager, message.schoolId, file),
    });
  }
  return there;
}
