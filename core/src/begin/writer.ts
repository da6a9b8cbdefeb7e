import { fieldForColumn, PAPER_SIZES, type Field, type Letter, type Letterhead } from '../template/index.js';
import type { Column } from '../column/index.js';
import type { Block, Inline, LineText, ParagraphStyle, TextMark } from '../text/index.js';
import type { Beginning } from './series.js';

export const VERDIGRIS = '#1D6B61';
const SLATE = '#55636E';

/** What can stand in a line: words, or a place for a column; null for a column that the roll does not have. */
export type Piece = string | Inline | null;

/** Puts a letter together over the columns of a roll. */
export class LetterWriter {
  private fields: Field[] = [];

  /** The fields that were made so far. */
  get made(): readonly Field[] {
    return this.fields;
  }

  /** @param letterhead which letters stand on, where there is one. */
  constructor(
    private readonly newId: () => string,
    private readonly letterhead: Letterhead | null = null,
  ) {}

  /** A place for a column; with marks. */
  field(column: Column | undefined, ...marks: TextMark[]): Inline | null {
    if (!column) return null;
    const { fields, field } = fieldForColumn(this.fields, column, this.newId);
    this.fields = fields;
    return { type: 'field', attrs: { fieldId: field.id }, ...(marks.length > 0 ? { marks } : {}) };
  }

  /** A place for the names of a learner, a space between them. */
  name(columns: readonly Column[], ...marks: TextMark[]): Piece[] {
    return columns.flatMap((column, n): Piece[] => [...(n > 0 ? [' '] : []), this.field(column, ...marks)]);
  }

  /** A place that prints the same for everybody, known when it is pressed. */
  same(same: NonNullable<Field['same']>, name: string, ...marks: TextMark[]): Inline {
    const field: Field = { id: this.newId(), name, columnId: null, same };
    this.fields = [...this.fields, field];
    return { type: 'field', attrs: { fieldId: field.id }, ...(marks.length > 0 ? { marks } : {}) };
  }

  /** A table or chart as a block. */
  block({ field }: Beginning): Block {
    const added: Field = { ...field, id: this.newId() };
    this.fields = [...this.fields, added];
    return { type: 'fieldBlock', attrs: { fieldId: added.id } };
  }

  letter(name: string, content: readonly (Block | null)[], more: Partial<Letter> = {}): Letter {
    return {
      kind: 'letter',
      name,
      language: 'en-GB',
      page: { ...PAPER_SIZES.A4, margins: { top: 22, right: 25, bottom: 22, left: 25 } },
      font: { family: 'Source Serif 4', size: 10.5 },
      headings: { colour: VERDIGRIS },
      ...(this.letterhead ? { letterhead: { print: 'printed', looks: true } } : {}),
      ...more,
      fields: this.fields,
      body: { type: 'doc', content: content.filter((block) => block !== null) },
    };
  }
}

/** Pieces as a line, without those that are not there. */
export const line = (...pieces: readonly Piece[]): Inline[] =>
  pieces.flatMap((piece): Inline[] => {
    if (piece === null || piece === '') return [];
    return [typeof piece === 'string' ? { type: 'text', text: piece } : piece];
  });

/** Pieces as the text of a head or foot, which has one line and no notes. */
export const shortLine = (...pieces: readonly Piece[]): LineText =>
  line(...pieces).filter((one) => one.type === 'text' || one.type === 'field');

export const paragraph = (...pieces: readonly Piece[]): Block => ({
  type: 'paragraph',
  content: line(...pieces),
});

export const styled = (style: ParagraphStyle, ...pieces: readonly Piece[]): Block => ({
  type: 'paragraph',
  attrs: { style },
  content: line(...pieces),
});

export const centred = (style: ParagraphStyle | null, ...pieces: readonly Piece[]): Block => ({
  type: 'paragraph',
  attrs: { textAlign: 'center', ...(style ? { style } : {}) },
  content: line(...pieces),
});

export const heading = (level: 1 | 2 | 3, ...pieces: readonly Piece[]): Block => ({
  type: 'heading',
  attrs: { level },
  content: line(...pieces),
});

export const bullets = (...items: readonly string[]): Block => ({
  type: 'bulletList',
  content: items.map((text) => ({ type: 'listItem', content: [paragraph(text)] })),
});

export const rule: Block = { type: 'horizontalRule' };
export const newLine: Inline = { type: 'hardBreak' };
export const quiet = (text: string): Inline => ({
  type: 'text',
  text,
  marks: [{ type: 'textStyle', attrs: { color: SLATE } }],
});
export const bold: TextMark = { type: 'bold' };
export const strong = (text: string): Inline => ({ type: 'text', text, marks: [bold] });
