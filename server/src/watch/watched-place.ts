/** A file that lies somewhere, as it was found there. */
export type Found =
  /** Nothing is another one than by the stamp. */
  | { readonly kind: 'same' }
  /** It is another one, but may still be being written. */
  | { readonly kind: 'settling'; readonly stamp: string }
  | { readonly kind: 'file'; readonly name: string; readonly bytes: Buffer; readonly stamp: string | null };

/** What is known of a file from the time before. */
export interface Known {
  /** What told it from others then. */
  readonly stamp: string | null;
  /** True where what lay there under this stamp was read. */
  readonly isRead: boolean;
}

/** It cannot be read just now; the message is a sentence for people. */
export class WatchFault extends Error {
  override name = 'WatchFault';
}

/** Said of a file that is larger than sheets may be. */
export const tooLargeToWatch = (most: number): WatchFault =>
  new WatchFault(
    `The file is larger than ${Math.round(most / 1024 / 1024)} MB. Save the sheet alone, without pictures, there.`,
  );
