/** The size of a file in words: `48 KB`, `1.2 MB`; blank where it is not known. A KB are 1024 bytes. */
export const sizeSays = (bytes: number | null): string =>
  bytes === null
    ? ''
    : bytes < 1024 * 1024
      ? `${Math.max(1, Math.round(bytes / 1024))} KB`
      : `${(bytes / 1024 / 1024).toFixed(1)} MB`;
