import { serveTasks } from '../process/child.js';
import type { LaidOn } from '../store/laid-on.js';
import { joinFiles, type Joined, type JoinedFile } from './join-files.js';
import { lockFile } from './lock-file.js';
import { putUnder } from './put-under.js';

/** A file that is to leave, or several that are to leave as one; the PDFs that they lie on come beside, as parts. */
export type LeavingTask =
  | { readonly file: Uint8Array; readonly laidOn: LaidOn | null; readonly password?: string | undefined }
  | { readonly files: readonly JoinedFile[]; readonly grounds: readonly string[]; readonly fronts: boolean };

serveTasks((task: LeavingTask, parts, tell): Promise<Uint8Array | Joined> => {
  const grounds = parts as Uint8Array[];
  if ('file' in task) {
    return made(task, grounds);
  }
  return joinFiles(
    task.files,
    new Map(task.grounds.map((hash, n) => [hash, grounds[n]!])),
    task.fronts,
    tell,
  );
});

async function made(
  { file, laidOn, password }: Extract<LeavingTask, { file: Uint8Array }>,
  grounds: readonly Uint8Array[],
): Promise<Uint8Array> {
  const whole = laidOn ? await putUnder(file, grounds, laidOn.under, laidOn.beyond, laidOn.fields) : file;
  return password === undefined ? whole : lockFile(whole, password);
}
