import type { OfferedSlice } from '../jobs/slice-queue.js';
import type { PressRunRow } from '../store/entities/register.js';

/** Papers of a run that are made and committed together. */
export const SLICE_PAPERS = 48;
/** Papers of a run that does not wait behind long ones. */
const QUICK_PAPERS = 4;

/** The slices of a run, to be offered. */
export function pressSlices(
  { id: jobId, schoolId, folioId }: Pick<PressRunRow, 'id' | 'schoolId' | 'folioId'>,
  slices: readonly { readonly id: string; readonly size: number }[],
): OfferedSlice[] {
  const all = slices.reduce((sum, { size }) => sum + size, 0);
  const lane = all <= QUICK_PAPERS ? 'quick' : 'bulk';
  return slices.map(({ id, size }) => ({ id, kind: 'press', schoolId, folioId, jobId, lane, size }));
}
