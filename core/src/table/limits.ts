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

/** The size in KB below a tenth of a MB, else in MB (10^6 would surprise people who see their file manager's figure: 1 MB = 1,048,576 bytes). */
export const megabytes = (bytes: number): string =>
  bytes < 104_858
    ? `${Math.max(1, Math.round(bytes / 1024))} KB`
    : `${(bytes / 1_048_576).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
