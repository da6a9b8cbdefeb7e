/** Which page of which prepared ground lies under a page, counted from 0; null where none does. */
export type Under = { readonly ground: number; readonly page: number } | null;

/** What a kept file lies on: prepared PDFs by their hashes, and which page of which is under each of its pages. */
export interface LaidOn {
  readonly grounds: readonly string[];
  readonly under: readonly Under[];
  /** Points that pages reach beyond the paper on each side. */
  readonly beyond: number;
}
