import { createHash } from 'node:crypto';
import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  type PDFDocument,
  PDFName,
  type PDFNumber,
  PDFRawStream,
  PDFRef,
} from '@cantoo/pdf-lib';
import { fontOf, glyphsOf, partsOfGlyph, tablesOf, type FontTables, type Glyph } from './true-type.js';

const name = (text: string): PDFName => PDFName.of(text);
const [TYPE, SUBTYPE, BASE_FONT] = ['Type', 'Subtype', 'BaseFont'].map(name) as [PDFName, PDFName, PDFName];
const [DESCRIPTOR, FILE, TO_GLYPH] = ['FontDescriptor', 'FontFile2', 'CIDToGIDMap'].map(name) as [
  PDFName,
  PDFName,
  PDFName,
];

/** A typeface as one file of a pack has it: some of its glyphs. */
interface Subset {
  readonly font: PDFDict;
  readonly descriptor: PDFDict;
  readonly file: PDFRef;
}

/**
 * Lets all files of a pack use one copy of each typeface. Each file has come with a copy of the glyphs that it shows, numbered in
 * its own way; the glyphs are put together by their outlines, and each font of a file is told which of them its numbers mean
 * (ISO 32000-1, 9.7.4.3). What is no TrueType font stays as it is. Pages are not touched.
 */
export function shareFonts(document: PDFDocument): void {
  const { context } = document;
  const faces = new Map<string, Subset[]>();
  for (const [, font] of context.enumerateIndirectObjects()) {
    if (!(font instanceof PDFDict) || font.get(SUBTYPE) !== name('CIDFontType2')) continue;
    if (font.get(TO_GLYPH) !== name('Identity')) continue;
    const descriptor = font.lookup(DESCRIPTOR);
    const file = descriptor instanceof PDFDict ? descriptor.get(FILE) : undefined;
    if (!(descriptor instanceof PDFDict) || !(file instanceof PDFRef)) continue;
    const face = String(font.get(BASE_FONT)).replace(/^\/[A-Z]{6}\+/, '');
    faces.set(face, [...(faces.get(face) ?? []), { font, descriptor, file }]);
  }
  const names = new Map<PDFDict, string>();
  for (const [face, subsets] of faces)
    if (new Set(subsets.map(({ file }) => file)).size > 1) shareFace(document, face, subsets, names);
  if (names.size === 0) return;
  // A composite font is called as what it stands on (9.7.6.2).
  for (const [, font] of context.enumerateIndirectObjects()) {
    if (!(font instanceof PDFDict) || font.get(SUBTYPE) !== name('Type0')) continue;
    const below = font.lookup(name('DescendantFonts'));
    const own = below instanceof PDFArray ? below.lookup(0) : undefined;
    const called = own instanceof PDFDict ? names.get(own) : undefined;
    if (called) font.set(BASE_FONT, name(called));
  }
}

function shareFace(
  { context }: PDFDocument,
  face: string,
  subsets: readonly Subset[],
  names: Map<PDFDict, string>,
): void {
  const unions: Union[] = [];
  const known = new Map<string, { union: Union; numbers: readonly number[] }>();
  const placed = new Map<PDFRef, { union: Union; numbers: readonly number[] }>();
  for (const { file } of subsets) {
    if (placed.has(file)) continue;
    const stream = context.lookup(file);
    if (!(stream instanceof PDFRawStream)) continue;
    const key = hashOf(stream.contents);
    let found = known.get(key);
    if (!found) {
      const tables = readFont(stream);
      if (!tables) continue;
      let union = unions.find((one) => one.takes(tables));
      if (!union) unions.push((union = new Union(tables)));
      known.set(key, (found = { union, numbers: union.add(tables) }));
    }
    placed.set(file, found);
  }
  const maps = new Map<string, PDFRef>();
  const descriptors = new Map<Union, { ref: PDFRef; called: string }>();
  for (const [n, union] of unions.entries()) {
    const bytes = union.font();
    const called = `${tagOf(bytes, n)}+${face}`;
    const own = subsets.filter(({ file }) => placed.get(file)?.union === union);
    const ref = context.register(
      descriptorFor(
        own.map(({ descriptor }) => descriptor),
        called,
        context.register(context.flateStream(bytes, { Length1: bytes.length })),
      ),
    );
    descriptors.set(union, { ref, called });
  }
  for (const { font, file } of subsets) {
    const found = placed.get(file);
    if (!found) continue;
    const { ref, called } = descriptors.get(found.union)!;
    const map = Buffer.alloc(2 * found.numbers.length);
    found.numbers.forEach((glyph, n) => map.writeUInt16BE(glyph, 2 * n));
    const key = map.toString('latin1');
    let kept = maps.get(key);
    if (!kept) maps.set(key, (kept = context.register(context.flateStream(map))));
    font.set(TO_GLYPH, kept);
    font.set(DESCRIPTOR, ref);
    font.set(BASE_FONT, name(called));
    names.set(font, called);
  }
  for (const { descriptor, file } of subsets)
    if (placed.has(file)) {
      context.delete(file);
      const set = descriptor.get(name('CIDSet'));
      if (set instanceof PDFRef) context.delete(set);
      const own = context.getObjectRef(descriptor);
      if (own) context.delete(own);
    }
}

/** The descriptor of a shared font: as that of the first one, with a box around all. */
function descriptorFor(descriptors: readonly PDFDict[], called: string, file: PDFRef): PDFDict {
  const shared = descriptors[0]!.clone();
  const boxes = descriptors.flatMap((one) => {
    const box = one.lookup(name('FontBBox'));
    return box instanceof PDFArray ? [box.asArray().map((side) => (side as PDFNumber).asNumber())] : [];
  });
  const around = [0, 1, 2, 3].map((n) => (n < 2 ? Math.min : Math.max)(...boxes.map((box) => box[n]!)));
  shared.set(TYPE, DESCRIPTOR);
  shared.set(name('FontName'), name(called));
  shared.set(name('FontBBox'), shared.context.obj(around));
  shared.set(FILE, file);
  // It is optional, and told of one subset (9.8.3).
  shared.delete(name('CIDSet'));
  return shared;
}

function readFont(stream: PDFRawStream): FontTables | null {
  try {
    return tablesOf(Buffer.from(decodePDFRawStream(stream).decode()));
  } catch {
    return null;
  }
}

/** What glyphs of several subsets have in common must be the same: their grid, and the programs that their hints call. */
const COMMON = ['cvt ', 'fpgm', 'prep'];
/** Glyphs of a font at the most (OpenType 1.9, `maxp`). */
const GLYPHS_MOST = 65_535;

/** Glyphs of one typeface, each once. */
class Union {
  private readonly glyphs: Glyph[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly from: FontTables[] = [];

  constructor(private readonly like: FontTables) {}

  takes(tables: FontTables): boolean {
    const units = (of: FontTables): number => of.get('head')!.readUInt16BE(18);
    return (
      units(tables) === units(this.like) &&
      this.glyphs.length + tables.get('maxp')!.readUInt16BE(4) <= GLYPHS_MOST &&
      COMMON.every((tag) => (tables.get(tag) ?? EMPTY).equals(this.like.get(tag) ?? EMPTY))
    );
  }

  /** Takes a subset's glyphs in. @returns their numbers here, by their numbers there. */
  add(tables: FontTables): number[] {
    this.from.push(tables);
    const own = glyphsOf(tables);
    const placed = new Map<number, number>();
    const place = (n: number, within: readonly number[]): number => {
      const before = placed.get(n);
      if (before !== undefined) return before;
      const glyph = own[n];
      if (!glyph || within.includes(n)) throw new Error('A glyph is made of itself.');
      const outline = Buffer.from(glyph.outline);
      for (const at of partsOfGlyph(outline))
        outline.writeUInt16BE(place(outline.readUInt16BE(at), [...within, n]), at);
      const key = `${glyph.advance} ${glyph.leftBearing} ${outline.toString('latin1')}`;
      // The first one is what is shown for a letter that there is not.
      let number = n === 0 && this.glyphs.length === 0 ? undefined : this.numbers.get(key);
      if (number === undefined) {
        number = this.glyphs.push({ ...glyph, outline }) - 1;
        this.numbers.set(key, number);
      }
      placed.set(n, number);
      return number;
    };
    return own.map((_, n) => place(n, []));
  }

  font(): Buffer {
    return fontOf(this.glyphs, this.from);
  }
}

const EMPTY = Buffer.alloc(0);
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Six capitals that tell a subset of a font from others (9.6.4). */
function tagOf(bytes: Buffer, n: number): string {
  const digest = createHash('sha256').update(bytes).update(String(n)).digest();
  return String.fromCharCode(...[...digest.subarray(0, 6)].map((byte) => 65 + (byte % 26)));
}
