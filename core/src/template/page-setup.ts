import { z } from 'zod';

/** Names of sizes of paper, in millimetres, portrait: ISO 216 A4; ANSI/ASME Y14.1 A (8.5 × 11 in). */
export const PAPER_SIZES = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
} as const;

/** Sizes for pages with boxes, in millimetres, upright: ISO 216:2007, ANSI/ASME Y14.1 (A is Letter, B is Tabloid), and Legal. */
export const PAGE_SIZES = {
  A3: { width: 297, height: 420 },
  A4: PAPER_SIZES.A4,
  A5: { width: 148, height: 210 },
  A6: { width: 105, height: 148 },
  B4: { width: 250, height: 353 },
  B5: { width: 176, height: 250 },
  Letter: PAPER_SIZES.Letter,
  Legal: { width: 215.9, height: 355.6 },
  Tabloid: { width: 279.4, height: 431.8 },
} as const;

export const PaperSize = z.enum(['A4', 'Letter']);
export type PaperSize = z.infer<typeof PaperSize>;

const margin = z.number().min(0).max(100);
const side = z.number().min(20).max(2000);

/** The sheet of paper, portrait or landscape. All in millimetres. */
export const PageSetup = z.object({
  width: side,
  height: side,
  margins: z.object({ top: margin, right: margin, bottom: margin, left: margin }),
  /** Columns that the text runs in, side by side; one where nothing is said. */
  columns: z.number().int().min(2).max(3).optional(),
});
export type PageSetup = z.infer<typeof PageSetup>;

/** Millimetres between two columns of text. */
export const COLUMN_GAP = 7;

/** How wide the lines of text are, in millimetres. */
export function lineWidth({ width, margins, columns = 1 }: PageSetup): number {
  const room = Math.max(20, width - margins.left - margins.right);
  return Math.max(15, (room - COLUMN_GAP * (columns - 1)) / columns);
}

/** The name of a page's size, upright or lying; null where it has none. */
export function paperSizeOf({ width, height }: Pick<PageSetup, 'width' | 'height'>): PaperSize | null {
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  const known = PaperSize.options.find(
    (name) => PAPER_SIZES[name].width === short && PAPER_SIZES[name].height === long,
  );
  return known ?? null;
}
