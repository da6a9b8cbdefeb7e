import { readFileSync } from 'node:fs';

/** Linux, proc(5): the second number of `statm` is the resident set in pages, and its pages have 4 KiB. */
const PAGE = 4096;

/** Bytes of memory that a process has in use; 0 where the system does not say, or the process has ended. */
export function residentMemory(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE;
  } catch {
    return 0;
  }
}
