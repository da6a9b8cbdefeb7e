import { FIRST_ORNAMENTS, type Ornament, type OrnamentKind, type OrnamentOf } from '../ornament/index.js';
import { PAPER_SIZES, type BoxType, type Placed, type PlacedBox, type TextBox } from '../template/index.js';
import type { TextMark } from '../text/index.js';
import { today, type Around } from './starter-pieces.js';
import { line, type Piece } from './writer.js';

/** Where a box stands: from the left, from the top, width, height, in millimetres. */
export type Spot = readonly [x: number, y: number, width: number, height: number];

/** How a text of a certificate is set. */
export interface Setting extends BoxType {
  readonly align?: 'left' | 'center' | 'right';
  readonly vertical?: 'top' | 'middle' | 'bottom';
  /** Points; the text may be set smaller down to it. */
  readonly least?: number;
  readonly oneLine?: boolean;
  readonly name?: string;
}

/** A4, lying and upright. */
export const LYING = { width: PAPER_SIZES.A4.height, height: PAPER_SIZES.A4.width } as const;
export const UPRIGHT = PAPER_SIZES.A4;

export const INK = '#22303C';
export const SLATE = '#55636E';
export const italic: TextMark = { type: 'italic' };

/** Puts the boxes of a certificate together. */
export class CertificateWriter {
  private readonly boxes: PlacedBox[] = [];

  constructor(private readonly around: Around) {}

  private at([x, y, width, height]: Spot) {
    return { id: this.around.newId(), page: 0, x, y, width, height };
  }

  text(spot: Spot, pieces: readonly Piece[], setting: Setting = {}): this {
    const { align = 'center', vertical, least, oneLine, name, ...type } = setting;
    const box: TextBox = {
      kind: 'text',
      ...this.at(spot),
      body: {
        type: 'doc',
        content: [{ type: 'paragraph', content: line(...pieces) }],
      },
      ...(name ? { name } : {}),
      ...(align === 'left' ? {} : { align }),
      type: { colour: INK, ...type },
      ...(least ? { long: { do: 'shrink', least } } : {}),
      ...(oneLine ? { oneLine } : {}),
      ...(vertical ? { vertical } : {}),
    };
    this.boxes.push(box);
    return this;
  }

  /** The learner's name: on one line, and smaller where it is long. */
  name(spot: Spot, setting: Setting): this {
    return this.text(spot, this.around.name(), {
      oneLine: true,
      least: 14,
      vertical: 'middle',
      name: 'Name of the learner',
      ...setting,
    });
  }

  ornament<Kind extends OrnamentKind>(
    kind: Kind,
    spot: Spot,
    look: Partial<Omit<OrnamentOf<Kind>, 'kind'>>,
    locked = true,
  ): this {
    const ornament = { ...FIRST_ORNAMENTS[kind], ...look } as Ornament;
    this.boxes.push({ kind: 'ornament', ...this.at(spot), ornament, ...(locked ? { locked } : {}) });
    return this;
  }

  shape(spot: Spot, form: 'rectangle' | 'ellipse', fill: string): this {
    this.boxes.push({ kind: 'shape', ...this.at(spot), form, fill, locked: true });
    return this;
  }

  rule(spot: Spot, colour: string, weight = 0.3): this {
    this.boxes.push({ kind: 'line', ...this.at(spot), stroke: { colour, weight } });
    return this;
  }

  /** The crest and name of the school's letterhead, or its name where it has none. */
  school(spot: Spot, setting: Setting): this {
    const { letterhead, school } = this.around;
    if (!letterhead) return this.text(spot, [school], { least: 8, oneLine: true, ...setting });
    const [x, y, width, height] = spot;
    const show = (what: 'crest' | 'name', at: Spot): void => {
      const { align = 'center' } = setting;
      this.boxes.push({ kind: 'letterhead', ...this.at(at), show: what, align });
    };
    if (!letterhead.crest) show('name', spot);
    else {
      // The crest above the name, as far as there is room for both.
      show('crest', [x, y - height * 0.45, width, height * 0.85]);
      show('name', [x, y + height * 0.45, width, height * 0.5]);
    }
    return this;
  }

  /** Somebody of the letterhead signs, or a line where somebody can. */
  signature(spot: Spot, role: string, align: 'left' | 'center' | 'right' = 'center'): this {
    const first = this.around.letterhead?.signOffs[0];
    if (first) {
      this.boxes.push({ kind: 'signOff', ...this.at(spot), signOffId: first.id, align, rule: true });
      return this;
    }
    const [x, y, width, height] = spot;
    return this.rule([x, y + height - 8, width, 0], INK, 0.25).text([x, y + height - 6.5, width, 6], [role], {
      align,
      size: 10,
      colour: SLATE,
      oneLine: true,
      least: 7,
    });
  }

  /** The day on which it is pressed, on a line beside a signature of the same height. */
  day(spot: Spot, place: string, align: 'left' | 'center' | 'right' = 'center'): this {
    const [x, y, width, height] = spot;
    return this.text([x, y + height - 16.2, width, 7], [today(this.around)], {
      align,
      size: 12,
      vertical: 'bottom',
      oneLine: true,
      least: 8,
      name: 'Date',
    })
      .rule([x, y + height - 8, width, 0], INK, 0.25)
      .text([x, y + height - 6.5, width, 6], [place], {
        align,
        size: 10,
        colour: SLATE,
        oneLine: true,
        least: 7,
      });
  }

  placed(
    name: string,
    page: { readonly width: number; readonly height: number },
    more: Partial<Placed>,
  ): Placed {
    return {
      kind: 'placed',
      name,
      language: 'en-GB',
      page: { ...page, margins: { top: 18, right: 18, bottom: 18, left: 18 } },
      font: { family: 'EB Garamond', size: 13 },
      pages: [{}],
      ...more,
      fields: [...this.around.writer.made],
      boxes: this.boxes,
    };
  }
}
