import type { FitState } from '@scriptum/core/page';
import type { FileStandard } from '@scriptum/core/template';
import type { Under } from '../store/laid-on.js';
import type { Beyond } from './page-boxes.js';
import type { ProofPage } from './split-pages.js';

/** One document to be set. Its program and pictures come beside it, as parts that documents share. */
export interface TypesetTask {
  /** `fits` gives no document: only how many pages it has and how the texts of boxes fit, for each of several values. */
  readonly form: 'pdf' | 'svg' | 'fits';
  /** What a PDF keeps to, as far as the paper allows; nothing where what lies under its pages keeps to none. */
  readonly standard: FileStandard | null;
  /** JSON of the entry's values. */
  readonly values: string;
  /** Of several entries, where only their texts are measured. */
  readonly all?: readonly string[];
  /** Names of the pictures that only this document has: they are its last parts. */
  readonly own: readonly string[];
  /** Whether charts among the values are to be drawn. */
  readonly draws: boolean;
  /** Whether its program sets boxes, which tell how their texts fit. */
  readonly boxes: boolean;
  /**
   * What is put under its pages when the file leaves: grounds by their places among its parts. Here it is only found out how
   * long the file becomes by that.
   */
  readonly under?: readonly Under[] | null;
  /** How far its pages reach beyond the paper, where they do. */
  readonly beyond?: Beyond | null;
  /** Seconds since 1970 to write into the PDF as its date. */
  readonly timestamp: number;
  /** How long the file may become: bytes of a PDF, characters of a picture. */
  readonly most: number;
}

/** Where a block of a letter's text begins on its pages: both counted from 0, points from the upper edge. */
export interface BlockPlace {
  readonly block: number;
  readonly page: number;
  readonly y: number;
}

/** How the text of a box fits it, as the typesetter has measured it. */
export interface BoxFit {
  /** The box's place among those of its template. */
  readonly box: number;
  readonly state: FitState;
  /** Points that it is set in; 0 for what has no type of its own. */
  readonly size: number;
  /** Millimetres of height that it takes. */
  readonly used: number;
}

/** What one paper comes to, without a file of it. */
export interface Measured {
  /** 0 where it cannot be set. */
  readonly pages: number;
  readonly fits: readonly BoxFit[];
  /** Why it cannot be set; null where it can. */
  readonly reason: string | null;
  /** True where that does not lie with the paper, and it can be set another time. */
  readonly passing?: true;
}

export type TypesetAnswer =
  | {
      readonly ok: true;
      readonly pages: number;
      readonly bytes: Uint8Array;
      /** Bytes of the file when it leaves, about. */
      readonly size: number;
      readonly fits: readonly BoxFit[];
    }
  | {
      readonly ok: true;
      readonly proof: readonly ProofPage[];
      readonly blocks: readonly BlockPlace[];
      readonly fits: readonly BoxFit[];
    }
  | { readonly ok: true; readonly measured: readonly Measured[] }
  | { readonly ok: false; readonly reason: string; readonly passing?: true }
  | { readonly ok: false; readonly tooLong: number };
