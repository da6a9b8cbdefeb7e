/** Where files can be put. Paths have a `/` between their folders. */
export interface Shelf {
  /** SHA-256 of what lies at a path; null where nothing does. @throws ShelfFault */
  hashAt(path: string): Promise<string | null>;
  /** Puts a file there, whole or not at all, in the place of one that is there; folders are made. @throws ShelfFault */
  put(path: string, bytes: Buffer): Promise<void>;
  /** Takes a file away. @throws ShelfFault */
  remove(path: string): Promise<void>;
}

/** Nothing can be put there just now; the message is a sentence for people. */
export class ShelfFault extends Error {
  override name = 'ShelfFault';
}
