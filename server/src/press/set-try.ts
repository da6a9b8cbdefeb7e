import { fieldValues } from '@scriptum/core/page';
import { placedOf } from '@scriptum/core/template';
import type { DataSource } from 'typeorm';
import type { Leaving } from '../ground/leaving.js';
import { Refusal } from '../refusal.js';
import type { TryPaper } from '../register/try-papers.js';
import type { Programs } from './programs.js';
import type { Typesetter } from './typesetter.js';

export interface SettingParts {
  readonly database: DataSource;
  readonly programs: Programs;
  readonly typesetter: Typesetter;
  readonly leaving: Leaving;
}

/** Sets a paper as it would leave, without keeping it. @throws Refusal where it cannot be set. */
export async function setTry(
  { database, programs, typesetter, leaving }: SettingParts,
  { schoolId, folioId }: { schoolId: string; folioId: string },
  { template, learner, fileName, printed, values }: TryPaper,
): Promise<{ fileName: string; bytes: Buffer }> {
  const { manager } = database;
  const whole = await programs.fillingForms(manager, schoolId, folioId, template);
  const program = await programs.load(manager, schoolId, folioId, whole);
  const own = await programs.own(manager, schoolId, folioId, printed);
  const set = await typesetter.paper(program, values, new Date(), own);
  if (!set.ok) throw new Refusal(422, 'typesetting', `The paper of ${learner} cannot be set. ${set.reason}`);
  const placed = placedOf(whole);
  const fields = placed?.fillable ? { fields: fieldValues(placed, printed) } : {};
  const laidOn = set.laidOn && { ...set.laidOn, ...fields };
  return { fileName, bytes: await leaving.whole(manager, schoolId, { bytes: set.bytes, laidOn }) };
}
