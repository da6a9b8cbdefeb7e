/** A letter as it stands on a page. Millimetres from the upper left corner; `baseline` is the line that it stands on. */
export interface Glyph {
  readonly text: string;
  readonly x: number;
  readonly baseline: number;
  readonly width: number;
  /** Of its type, in millimetres. */
  readonly size: number;
}

/** A straight line, or the edge of a shape, along one axis. */
export interface Rule {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A shape that has an inside. */
export interface Shape extends Area {
  readonly round: boolean;
  /** Light enough to be written on. */
  readonly light: boolean;
  readonly outlined: boolean;
}

/** A field of an interactive form (ISO 32000-1, 12.7). */
export interface FormField extends Area {
  readonly name: string;
  readonly kind: 'text' | 'tick' | 'choice';
  /** Letters that it takes, where each has a cell of its own. */
  readonly cells: number | null;
  /** Its full name in the form; nothing where it has none. */
  readonly field?: string;
  /** Which of its marks it is, where it has several places. */
  readonly mark?: string;
}

/** What is on a page of a PDF, as far as blanks to be filled in can be told by it. */
export interface PageMarks {
  readonly width: number;
  readonly height: number;
  readonly glyphs: readonly Glyph[];
  readonly rules: readonly Rule[];
  readonly shapes: readonly Shape[];
  readonly fields: readonly FormField[];
}
