import { safePart } from '@scriptum/core/filing';
import type { Router } from 'express';
import { pipeline } from 'node:stream/promises';
import { In, type DataSource } from 'typeorm';
import type { DropOffs } from '../drop/drop-off.js';
import { partsOf } from '../pack/pack-files.js';
import type { Packs } from '../pack/packs.js';
import { linesOf } from '../pack/plan-pack.js';
import { notFound } from '../refusal.js';
import { PaperRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { recordHappening } from '../store/happenings.js';
import { answer } from './call.js';
import { disposition } from './disposition.js';

export interface PackRouteParts {
  readonly database: DataSource;
  readonly packs: Packs;
  readonly drops: DropOffs;
}

/** Many papers in one file: for the printer, for a folder, and one that grows. */
export function packRoutes(router: Router, { database, packs, drops }: PackRouteParts): void {
  const { manager } = database;
  const place = (schoolId: string, params: Readonly<Record<string, string>>) => ({
    schoolId,
    folioId: params['folioId']!,
  });

  answer(router, 'packs', async ({ schoolId, params }) => {
    const at = place(schoolId, params);
    await packs.growWhereDue(at);
    return { packs: await packs.list(at) };
  });
  answer(router, 'makePack', async ({ schoolId, staffId, params, body }) => {
    const at = place(schoolId, params);
    const pack = await packs.ask(at, staffId, body);
    await recordHappening(manager, { ...at, staffId, kind: 'pack-asked', count: pack.papers });
    return pack;
  });
  answer(router, 'packContents', async ({ schoolId, params }) => {
    const { id } = await packs.find(place(schoolId, params), params['packId']!);
    const lines = await linesOf(manager, id);
    const rows = await manager.find(PaperRow, {
      select: { id: true, learner: true, fileName: true },
      where: { ...place(schoolId, params), id: In(lines.map(({ paperId }) => paperId)) },
    });
    const papers = new Map(rows.map((row) => [row.id, row]));
    return {
      lines: lines.flatMap((line) => {
        const paper = papers.get(line.paperId);
        return paper ? [{ ...line, learner: paper.learner, fileName: paper.fileName }] : [];
      }),
    };
  });
  answer(router, 'packFile', async ({ response, schoolId, params, query }) => {
    const at = place(schoolId, params);
    const { asked, fileId, bytes } = await packs.find(at, params['packId']!);
    if (!fileId) throw notFound('The file of this pack');
    const { title } = await findFolio(manager, schoolId, at.folioId);
    const zip = asked.kind === 'zip';
    const name = `${safePart(title) || 'Papers'}.${zip ? 'zip' : 'pdf'}`;
    disposition(response, zip || query.download ? 'attachment' : 'inline', name);
    response.type(zip ? 'application/zip' : 'application/pdf').set('Content-Length', String(bytes));
    // Who leaves before the end has left.
    await pipeline(partsOf(manager, fileId), response).catch(() => response.destroy());
  });
  answer(router, 'dropOff', ({ schoolId, params }) => drops.about(place(schoolId, params)));
  answer(router, 'setDropOff', async ({ schoolId, staffId, params, body }) => {
    const at = place(schoolId, params);
    await drops.set(at, body.place);
    await recordHappening(manager, { ...at, staffId, kind: 'drop-off-set' });
    return drops.about(at);
  });
  answer(router, 'endDropOff', async ({ schoolId, staffId, params }) => {
    const at = place(schoolId, params);
    await drops.end(at);
    await recordHappening(manager, { ...at, staffId, kind: 'drop-off-ended' });
    return drops.about(at);
  });
  answer(router, 'dropAgain', async ({ schoolId, params }) => {
    const at = place(schoolId, params);
    await findFolio(manager, at.schoolId, at.folioId);
    await drops.begin(at);
    return drops.about(at);
  });
  answer(router, 'deletePack', async ({ schoolId, params }) => {
    await packs.delete(place(schoolId, params), params['packId']!);
    return {};
  });
}
