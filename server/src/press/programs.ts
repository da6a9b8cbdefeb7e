import { typesetLetter } from '@scriptum/core/page';
import type { Letter } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { readBlob } from '../store/blobs.js';
import { AssetRow } from '../store/entities/folio.js';
import { shareAsset, type LoadedProgram } from './typesetter.js';
import type { SharedAsset } from './typesetter-worker.js';

/** One transparent pixel: stands for a picture that is gone, so that the rest of the proof can be seen. */
const BLANK_SVG = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"/>');

/** Turns letters into programs and keeps the pictures that were read last. */
export class Programs {
  private readonly pictures = new Map<string, SharedAsset>();
  private static readonly KEPT = 40;

  async load(
    manager: EntityManager,
    schoolId: string,
    folioId: string,
    letter: Letter,
  ): Promise<LoadedProgram> {
    const program = typesetLetter(letter);
    if (program.assets.length === 0) return { ...program, pictures: [] };
    const rows = await manager.findBy(AssetRow, { folioId, schoolId });
    const hashes = new Map(rows.map((row) => [row.id, row.blobHash]));
    const pictures = await Promise.all(
      program.assets.map((asset) => this.picture(manager, schoolId, hashes.get(asset))),
    );
    return { ...program, pictures };
  }

  private async picture(
    manager: EntityManager,
    schoolId: string,
    hash: string | undefined,
  ): Promise<SharedAsset> {
    const key = `${schoolId}/${hash}`;
    const kept = this.pictures.get(key);
    if (kept) return kept;
    const bytes = hash ? await readBlob(manager, schoolId, hash) : null;
    const picture = shareAsset(bytes ? hash! : 'blank', bytes ?? BLANK_SVG);
    this.pictures.set(key, picture);
    if (this.pictures.size > Programs.KEPT) this.pictures.delete(this.pictures.keys().next().value!);
    return picture;
  }
}
