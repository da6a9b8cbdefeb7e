import { serveTasks } from '../process/child.js';
import type { LaidOn } from '../store/laid-on.js';
import { joinFiles, type Joined, type JoinedFile } from './join-files.js';
import { putUnder } from './put-under.js';

/** A file that is to leave, or several that are to leave as one; the PDFs that they lie on come beside, as parts. */
export type LeavingTask =
  | { readonly file: Uint8Array; readonly laidOn: LaidOn }
  | { readonly files: readonly JoinedFile[]; readonly grounds: readonly string[]; readonly fronts: boolean };

serveTasks((task: LeavingTask, parts, tell): Promise<Uint8Array | Joined> => {
  const grounds = parts as Uint8Array[];
  if ('file' in task) {
    const { under, beyond, fields } = task.laidOn;
    return putUnder(task.file, grounds, under, beyond, fields);
  }
  return joinFiles(
    task.files,
    new Map(task.grounds.map((hash, n) => [hash, grounds[n]!])),
    task.fronts,
    tell,
  );
});
