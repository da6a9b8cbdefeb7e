import type { Pack, PackAsked, PackContents, PackList } from '@scriptum/core/contract';
import type { Client } from './school.js';

/** A print of all papers, as they stand in the roll. */
export const PRINT = {
  kind: 'print',
  who: 'all',
  sort: [],
  apart: null,
  fronts: false,
  copies: null,
} satisfies PackAsked;

export interface MadePack {
  readonly status: number;
  readonly detail: string;
  readonly pack: Pack;
  readonly bytes: Buffer;
  readonly lines: PackContents['lines'];
}

/** A pack once it is made. */
export async function endedPack(client: Client, folioId: string, id: string): Promise<Pack> {
  for (;;) {
    const { packs } = await client.get<PackList>(`/folios/${folioId}/packs`);
    const pack = packs.find((one) => one.id === id)!;
    if (pack.state === 'done' || pack.state === 'failed') return pack;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

export const packBytes = async (client: Client, folioId: string, id: string): Promise<Buffer> =>
  Buffer.from(await (await client.raw('GET', `/folios/${folioId}/packs/${id}/file`)).arrayBuffer());

/** Asks for a pack and waits until it is made. */
export async function packOf(client: Client, folioId: string, asked: PackAsked): Promise<MadePack> {
  const { status, body } = await client.send<Pack & { detail: string }>(
    'POST',
    `/folios/${folioId}/packs`,
    asked,
  );
  if (status !== 200) return { status, detail: body.detail, pack: body, bytes: Buffer.alloc(0), lines: [] };
  const pack = await endedPack(client, folioId, body.id);
  const { lines } = await client.get<PackContents>(`/folios/${folioId}/packs/${body.id}`);
  return { status, detail: pack.reason ?? '', pack, bytes: await packBytes(client, folioId, body.id), lines };
}
