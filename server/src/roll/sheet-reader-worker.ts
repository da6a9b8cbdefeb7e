import type { Reading, Result, LaidOut } from '@scriptum/core/table';
import { openSheetFile } from '@scriptum/core/workbook';
import { newId } from '../store/id.js';

export interface ReadTask {
  readonly bytes: Uint8Array;
  readonly reading: Reading;
}

/** Reads a file in a thread of its own. */
export default function readSheet({ bytes, reading }: ReadTask): Result<LaidOut> {
  const opened = openSheetFile(bytes);
  return opened.ok ? opened.value.layOut(reading, newId) : opened;
}
