/** What a sheet may hold at most. Checked before the work is done. */
export const SHEET_LIMITS = {
  /** Bytes of the file. */
  bytes: 25 * 1024 * 1024,
  /** Rows below the header. */
  rows: 50_000,
  columns: 500,
  /** UTF-16 code units in one cell. */
  cell: 40_000,
  /** UTF-16 code units in all cells together. */
  text: 80_000_000,
} as const;
