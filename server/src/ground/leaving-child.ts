import { serveTasks } from '../process/child.js';
import type { LaidOn } from '../store/laid-on.js';
import { putUnder } from './put-under.js';

/** A file that is to leave; the PDFs that it lies on come beside it, as parts. */
export interface LeavingTask {
  readonly file: Uint8Array;
  readonly laidOn: LaidOn;
}

serveTasks(({ file, laidOn }: LeavingTask, grounds) =>
  putUnder(file, grounds as Uint8Array[], laidOn.under, laidOn.beyond, laidOn.fields),
);
