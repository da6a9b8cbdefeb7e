import type { HookList } from '@scriptum/core/contract';
import type { Router } from 'express';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import type { FolioEvents } from '../folio-events.js';
import type { Hooks } from '../intake/hooks.js';
import type { PracticeService } from '../intake/practice-service.js';
import { notFound } from '../refusal.js';
import { recordHappening } from '../store/happenings.js';
import { inTransaction } from '../store/in-transaction.js';
import { answer } from './call.js';

export interface HookParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly hooks: Hooks;
  /** In demo mode only. */
  readonly practiceService: PracticeService | null;
}

/** Hooks, as staff see and change them. */
export function hookRoutes(router: Router, { database, hooks, practiceService }: HookParts): void {
  const { manager } = database;
  const list = async (
    place: { schoolId: string; folioId: string },
    key: { hookId: string; key: string } | null = null,
  ): Promise<z.input<typeof HookList>> => ({
    hooks: await hooks.list(manager, place),
    key,
    practice: practiceService !== null,
  });
  const placeOf = (schoolId: string, params: Readonly<Record<string, string>>) => ({
    schoolId,
    folioId: params['folioId']!,
  });

  answer(router, 'hooks', ({ schoolId, params }) => list(placeOf(schoolId, params)));
  answer(router, 'addHook', async ({ schoolId, staffId, params, body }) => {
    const place = placeOf(schoolId, params);
    const key = await inTransaction(database, (inside) => hooks.add(inside, place, body));
    await recordHappening(manager, { ...place, staffId, kind: 'hook-added' });
    return list(place, key === null ? null : { hookId: body.id, key });
  });
  answer(router, 'changeHook', async ({ schoolId, params, body }) => {
    const place = placeOf(schoolId, params);
    await inTransaction(database, (inside) => hooks.change(inside, place, params['hookId']!, body));
    return list(place);
  });
  answer(router, 'newHookKey', async ({ schoolId, staffId, params }) => {
    const place = placeOf(schoolId, params);
    const hookId = params['hookId']!;
    const key = await inTransaction(database, (inside) => hooks.rotate(inside, place, hookId));
    await recordHappening(manager, { ...place, staffId, kind: 'hook-key' });
    return list(place, { hookId, key });
  });
  answer(router, 'deleteHook', async ({ schoolId, staffId, params }) => {
    const place = placeOf(schoolId, params);
    await inTransaction(database, (inside) => hooks.delete(inside, place, params['hookId']!));
    await recordHappening(manager, { ...place, staffId, kind: 'hook-deleted' });
    return list(place);
  });
  answer(router, 'practiseHook', async ({ schoolId, params }) => {
    const place = placeOf(schoolId, params);
    const row = await hooks.find(manager, place, params['hookId']!);
    if (!practiceService) throw notFound('The practice service');
    const line = (await hooks.list(manager, place)).find(({ id }) => id === row.id)!;
    return practiceService.send(line.link, hooks.keyOf(row));
  });
}
