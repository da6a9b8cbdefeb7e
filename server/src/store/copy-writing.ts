import { movedTo } from '@scriptum/core/letter-file';
import { matchFields, type WritingContent } from '@scriptum/core/template';
import { picturesOf, withPictures, type FlowText } from '@scriptum/core/text';
import type { EntityManager } from 'typeorm';
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
  const moved = movedTo(from.content, columns, to.columns);
  // Elsewhere there is no letter that it stands in for.
  const written = from.folioId !== to.id && 'variant' in moved ? { ...moved, variant: undefined } : moved;
  const texts =
    'boxes' in written ? written.boxes.map(({ body }) => body) : 'body' in written ? [written.body] : [];
  const used = new Set(texts.flatMap((body) => picturesOf(body)).map(({ attrs }) => attrs.asset));
  const assets =
    from.folioId === to.id ? new Map<string, string>() : await copyPictures(manager, from, to, used);
  const text = (body: FlowText): FlowText => withPictures(body, (asset) => assets.get(asset));
  const content = {
    ...written,
    ...('name' in written && name ? { name } : {}),
    fields: matchFields(written.fields, to.columns),
  };
  if ('boxes' in content)
    return { ...content, boxes: content.boxes.map((box) => ({ ...box, body: text(box.body) })) };
  return 'body' in content ? { ...content, body: text(content.body) } : content;
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
