import { withOwnIdentities, type Form } from '@scriptum/core/form';
import { movedTo } from '@scriptum/core/letter-file';
import {
  allPicturesOf,
  assetsOfNote,
  matchFields,
  withNoteAssets,
  withTemplatePictures,
  type WritingContent,
} from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { conflict } from '../refusal.js';
import { AssetRow, type FolioRow } from './entities/folio.js';
import type { WritingRow } from './entities/writing.js';
import { newId } from './id.js';

/** What is written in one folio as it can stand in another one of the school: with its pictures, matched to its roll. */
export async function copiedContent(
  manager: EntityManager,
  from: WritingRow,
  { columns }: FolioRow,
  to: FolioRow,
  name: string | undefined,
): Promise<WritingContent> {
  if ('rules' in from.content)
    throw conflict(
      'stays-here',
      'The sorting belongs to its folio: its rules name the papers that there are here.',
    );
  if ('own' in from.content)
    throw conflict('stays-here', 'An exception belongs to its learner, and to the letter of this folio.');
  if ('items' in from.content) return copiedForm(manager, from, to, name);
  const moved = movedTo(from.content, columns, to.columns);
  // Elsewhere there is no letter that it stands in for.
  const written = from.folioId !== to.id && 'variant' in moved ? { ...moved, variant: undefined } : moved;
  const used = new Set(
    'kind' in written
      ? allPicturesOf(written).map(({ attrs }) => attrs.asset)
      : 'to' in written
        ? assetsOfNote(written)
        : [],
  );
  const assets =
    from.folioId === to.id ? new Map<string, string>() : await copyPictures(manager, from, to, used);
  const content = {
    ...written,
    ...('name' in written && name ? { name } : {}),
    fields: matchFields(written.fields, to.columns),
  };
  const assetOf = (asset: string): string | undefined => assets.get(asset);
  if ('kind' in content) return withTemplatePictures(content, assetOf);
  return 'to' in content ? withNoteAssets(content, assetOf) : content;
}

/** A form with identities of its own, so that its answers go into columns of their own; nothing of it is published. */
async function copiedForm(
  manager: EntityManager,
  from: WritingRow,
  to: FolioRow,
  name: string | undefined,
): Promise<Form> {
  const form = from.content as Form;
  const shown = new Set(
    form.items.flatMap((item) => (item.kind === 'picture' && item.assetId ? item.assetId : [])),
  );
  const assets =
    from.folioId === to.id ? new Map<string, string>() : await copyPictures(manager, from, to, shown);
  return { ...withOwnIdentities(form, newId, assets), ...(name ? { name } : {}) };
}

/** Takes the pictures of one folio over into another. @returns the new identities by the old ones. */
async function copyPictures(
  manager: EntityManager,
  { schoolId, folioId }: WritingRow,
  to: FolioRow,
  used: ReadonlySet<string>,
): Promise<Map<string, string>> {
  const copies = new Map<string, string>();
  for (const row of await manager.findBy(AssetRow, { schoolId, folioId })) {
    if (!used.has(row.id)) continue;
    const id = newId();
    await manager.insert(AssetRow, { ...row, id, folioId: to.id });
    copies.set(row.id, id);
  }
  return copies;
}
