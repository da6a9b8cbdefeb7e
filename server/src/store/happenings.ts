import type { EntityManager } from 'typeorm';
import { EventRow } from './entities/people.js';
import { newId } from './id.js';

export interface Happening {
  readonly schoolId: string;
  readonly staffId: string | null;
  readonly folioId: string | null;
  readonly kind: string;
  readonly count?: number;
}

/** Writes down who did what, when. */
export async function recordHappening(manager: EntityManager, happening: Happening): Promise<void> {
  await manager.insert(EventRow, { id: newId(), at: new Date(), count: null, ...happening });
}
