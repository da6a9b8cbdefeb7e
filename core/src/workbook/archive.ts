import { Unzip, UnzipInflate } from 'fflate';
import { megabytes, refuse, succeed, type Result } from '../table/index.js';
import { damaged } from './refusals.js';

/** What an archive may unpack to at most, in bytes. Checked by unpacking, since an archive's own figures may lie. */
export const UNPACKED_MOST = 300 * 1024 * 1024;
/** The parts an archive may have at most. */
const PARTS_MOST = 5000;

export interface Inspected {
  /** The names of the archive's parts. */
  readonly names: readonly string[];
  /** All parts together, in bytes. */
  readonly unpacked: number;
}

/** Unpacks an archive to nowhere and counts, in pieces, so that one that swells is refused before it fills the memory. */
export function inspectArchive(bytes: Uint8Array): Result<Inspected> {
  const names: string[] = [];
  let unpacked = 0;
  const unzip = new Unzip((file) => {
    names.push(file.name);
    file.ondata = (error, chunk) => {
      if (error) throw error;
      unpacked += chunk.length;
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const step = 64 * 1024;
  try {
    for (let at = 0; at < bytes.length; at += step) {
      unzip.push(bytes.subarray(at, at + step), at + step >= bytes.length);
      if (unpacked > UNPACKED_MOST) {
        return refuse(
          'unpacks-too-large',
          `The file unpacks to more than ${megabytes(UNPACKED_MOST)}, so it is not opened. Save the sheet alone as a new workbook, or as CSV, and drop that here.`,
        );
      }
      if (names.length > PARTS_MOST) {
        return refuse(
          'too-many-parts',
          `The file has more than ${PARTS_MOST.toLocaleString('en')} parts, so it is not opened. Save the sheet alone as a new workbook, or as CSV, and drop that here.`,
        );
      }
    }
  } catch {
    return damaged();
  }
  return names.length > 0 ? succeed({ names, unpacked }) : damaged();
}
