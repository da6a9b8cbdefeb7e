/** Which page of which prepared ground lies under a page, counted from 0; null where none does. */
export type Under = { readonly ground: number; readonly page: number } | null;

/** What a kept file lies on: prepared PDFs by their hashes, and which page of which is under each of its last pages. */
export interface LaidOn {
  readonly grounds: readonly string[];
  readonly under: readonly Under[];
  /** Points that pages reach beyond the paper on each side. */
  readonly beyond: number;
  /** Where its form stays one that can be filled in: what its fields are filled with. */
  readonly fields?: readonly FieldValue[];
}

/** What a field of a form is filled with: its text, or which of its marks is set; nothing where none is. */
export interface FieldValue {
  /** Its full name in the PDF. */
  readonly field: string;
  readonly value: string;
  /** True where it is set on the paper, so that there is no field any more. */
  readonly set?: boolean;
}
