import { In, type EntityManager } from 'typeorm';
import { Staff } from './entities/people.js';

/** The names of some of a school's staff, by identity; those who are gone are not among them. */
export async function namesOf(
  manager: EntityManager,
  schoolId: string,
  ids: readonly (string | null)[],
): Promise<Map<string, string>> {
  const known = [...new Set(ids.filter((id) => id !== null))];
  if (known.length === 0) return new Map();
  const staff = await manager.findBy(Staff, { id: In(known), schoolId });
  return new Map(staff.map(({ id, name }) => [id, name]));
}
