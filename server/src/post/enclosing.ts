import { LRUCache } from 'lru-cache';
import type { EntityManager } from 'typeorm';
import type { Leaving } from '../ground/leaving.js';
import { readBlob } from '../store/blobs.js';
import { AssetRow } from '../store/entities/folio.js';
import type { LaidOn } from '../store/laid-on.js';
import { assetsShown, contentIdOf } from '@scriptum/core/text';
import type { Due } from './message-claims.js';
import type { Secrets } from './secrets.js';
import type { OutgoingFile } from './transport.js';

/** Bytes of files that many messages have in common. */
const KEPT = 60 * 1024 * 1024;

/** What the passwords of a message are sealed for. */
export const lockOf = (messageId: string): string => `message ${messageId}`;
/** What the one password of a note is sealed for. */
export const wordOf = (schoolId: string): string => `note of ${schoolId}`;

/** Thrown where a message cannot leave as it was meant to; the message is a sentence for people. */
export class FileGone extends Error {
  override name = 'FileGone';
}

/** Puts together what goes along with messages: papers, whole and locked, files for everybody, and pictures in the text. */
export class Enclosing {
  private readonly kept = new LRUCache<string, { mime: string; bytes: Buffer }>({
    maxSize: KEPT,
    sizeCalculation: ({ bytes }) => Math.max(1, bytes.length),
  });

  constructor(
    private readonly leaving: Leaving,
    private readonly secrets: Secrets,
  ) {}

  /** All that a message takes along. @throws FileGone */
  async all(manager: EntityManager, { message, files }: Due): Promise<OutgoingFile[]> {
    const { schoolId, folioId, envelope, html } = message;
    const papers = envelope?.along ? [] : await this.papers(manager, { message, files });
    return [
      ...papers,
      ...(await this.forAll(manager, { schoolId, folioId }, envelope?.files ?? [])),
      ...(await this.pictures(manager, { schoolId, folioId }, html)),
    ];
  }

  /** The papers of a message as they leave, in their order. @throws FileGone, also where what locks them cannot be read. */
  async papers(manager: EntityManager, { message, files }: Due): Promise<OutgoingFile[]> {
    const { id, schoolId, envelope } = message;
    const passwords = envelope?.lock === undefined ? null : this.passwordsIn(envelope.lock, id);
    if (files.length === 0) throw new FileGone(NO_PAPER);
    const there: OutgoingFile[] = [];
    for (const { paperId, fileName, bytes, laidOn } of files) {
      if (bytes === null) throw new FileGone(NO_PAPER);
      const password = passwords?.[paperId];
      if (passwords && !password)
        throw new FileGone('There is no password for a paper of this message. Send it again.');
      there.push({
        name: fileName.split('/').at(-1)!,
        bytes: await this.leaving.whole(
          manager,
          schoolId,
          { bytes, laidOn: laidOn === null ? null : (JSON.parse(laidOn) as LaidOn) },
          password,
        ),
      });
    }
    return there;
  }

  private passwordsIn(lock: string, messageId: string): Record<string, string> {
    try {
      return JSON.parse(this.secrets.open(lock, lockOf(messageId))) as Record<string, string>;
    } catch {
      throw new FileGone(
        'The passwords of this message were kept with the key of another machine. Send it again.',
      );
    }
  }

  /** A paper that was set to be tried, as it would leave. */
  locked(schoolId: string, bytes: Buffer, password: string | null): Promise<Buffer> {
    return password === null ? Promise.resolve(bytes) : this.leaving.locked(bytes, password, schoolId);
  }

  /** @throws FileGone */
  async forAll(
    manager: EntityManager,
    place: { readonly schoolId: string; readonly folioId: string },
    files: readonly { readonly asset: string; readonly name: string }[],
  ): Promise<OutgoingFile[]> {
    const there: OutgoingFile[] = [];
    for (const { asset, name } of files) {
      const kept = await this.asset(manager, place, asset);
      if (!kept) throw new FileGone(`The file “${name}” that goes along is not there any more.`);
      there.push({ name, bytes: kept.bytes, type: kept.mime });
    }
    return there;
  }

  /** The pictures that a text shows. One that is gone leaves its place blank. */
  async pictures(
    manager: EntityManager,
    place: { readonly schoolId: string; readonly folioId: string },
    html: string,
  ): Promise<OutgoingFile[]> {
    const there: OutgoingFile[] = [];
    for (const asset of assetsShown(html)) {
      const kept = await this.asset(manager, place, asset);
      if (!kept) continue;
      const { mime, bytes } = kept;
      there.push({ name: `picture.${mime.split('/')[1]}`, bytes, type: mime, contentId: contentIdOf(asset) });
    }
    return there;
  }

  private async asset(
    manager: EntityManager,
    { schoolId, folioId }: { readonly schoolId: string; readonly folioId: string },
    id: string,
  ): Promise<{ mime: string; bytes: Buffer } | null> {
    const key = `${schoolId} ${folioId} ${id}`;
    const known = this.kept.get(key);
    if (known) return known;
    const row = await manager.findOneBy(AssetRow, { id, schoolId, folioId });
    const bytes = row && (await readBlob(manager, schoolId, row.blobHash));
    if (!row || !bytes) return null;
    const made = { mime: row.mime, bytes };
    this.kept.set(key, made);
    return made;
  }
}

const NO_PAPER = 'The paper is not there any more. Press it again.';
