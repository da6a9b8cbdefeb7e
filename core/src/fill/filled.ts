import type { ChartData } from '../chart/index.js';
import type { Column, Value } from '../column/index.js';
import type { Entry } from '../roll/index.js';
import type { Cohort } from './cohort.js';

/** What filling needs to know besides fields and entry. */
export interface FillContext {
  readonly columns: readonly Column[];
  /** BCP 47; of the text that the values stand in. */
  readonly language: string;
  /** The day on which the paper is pressed or the message written, ISO 8601. */
  readonly day: string;
  /** The others, for what is compared with them; nothing is compared where they are not at hand. */
  readonly cohort?: Cohort | undefined;
  /** What the text is sent with; where there is none, a message to one learner's family is shown. */
  readonly message?: MessageContext | undefined;
  /** The paper's number; a sample stands there while it has none. */
  readonly number?: PaperNumber | undefined;
}

/** A message: whom it is about, and whom it goes to. */
export interface MessageContext {
  /** In the order of the roll. */
  readonly entries: readonly Entry[];
  /** What those are called to whom it goes, as far as that is known. */
  readonly addressees: readonly string[];
  /** Its private link, and the last day on which that works (ISO 8601). */
  readonly link?: { readonly url: string; readonly ends: string } | undefined;
}

/** A paper's number, and that of the paper whose place it takes; blank for none. */
export interface PaperNumber {
  readonly own: string;
  readonly replaces: string;
}

/** A cell of a table that is printed: its text, or a text with what is drawn for it. */
export type PrintedCell =
  | string
  | {
      readonly text: string;
      /** How high its band is among the others, from 0 for the highest to 1. */
      readonly tint?: number;
      /** How far a bar goes, from 0 to 1; and where the mean stands on it. Null where there is none. */
      readonly bar?: number | null;
      readonly mean?: number | null;
      /** What the bar and its mark say. */
      readonly alt?: string;
    };

/** The rows of a table as they are printed. */
export interface PrintedTable {
  readonly rows: readonly (readonly PrintedCell[])[];
  /** Places of the rows that stand out. */
  readonly strong?: readonly number[];
  /** Whether each column holds numbers, which are set below each other. */
  readonly numeric?: readonly boolean[];
}

/** What a field comes to for one entry. */
export interface Filled {
  /** The text to print. */
  readonly text: string;
  /** What stands behind the text: a number with all its digits, a day, yes or no, a list. */
  readonly value: Value;
  /** Its rows, where it is a table. */
  readonly table?: PrintedTable;
  readonly chart?: ChartData;
  /** The identity of the folio's picture that it is. */
  readonly picture?: string;
}

/** What is printed: a text, or a text with the table, chart or picture that stands in its place where one can stand. */
export type Printed =
  | string
  | ({ readonly text: string } & Partial<PrintedTable> & {
        readonly chart?: ChartData;
        readonly picture?: string;
      });

/** A cell of a table before it is dressed as its column looks. */
export interface BareCell {
  readonly text: string;
  readonly value: Value;
  /** Fixed text, which is there for everybody. */
  readonly fixed?: boolean;
  readonly tint?: number;
  /** Of the column that it prints, as a decimal number. */
  readonly mean?: string | null;
}

export interface BareRow {
  readonly cells: readonly BareCell[];
  readonly strong: boolean;
}
