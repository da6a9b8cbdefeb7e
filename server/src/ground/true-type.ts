/** The tables of a TrueType font by their tags (OpenType 1.9, “Organization of an OpenType Font”). */
export type FontTables = ReadonlyMap<string, Buffer>;

/** One glyph: its outline as it stands in the font, and how far it advances. */
export interface Glyph {
  /** From the table `glyf`; nothing for one without an outline. */
  readonly outline: Buffer;
  /** From `hmtx`, in units of the font. */
  readonly advance: number;
  readonly leftBearing: number;
}

/** @throws where it is no TrueType font. */
export function tablesOf(font: Buffer): FontTables {
  const tables = new Map<string, Buffer>();
  const count = font.readUInt16BE(4);
  for (let n = 0; n < count; n++) {
    const at = 12 + 16 * n;
    const from = font.readUInt32BE(at + 8);
    const bytes = font.subarray(from, from + font.readUInt32BE(at + 12));
    tables.set(font.toString('latin1', at, at + 4), bytes);
  }
  for (const tag of ['head', 'hhea', 'hmtx', 'maxp', 'loca', 'glyf'])
    if (!tables.has(tag)) throw new Error(`The font has no table ${tag}.`);
  return tables;
}

/** The glyphs of a font, by their numbers. */
export function glyphsOf(tables: FontTables): Glyph[] {
  const [head, hhea, hmtx, maxp, loca, glyf] = ['head', 'hhea', 'hmtx', 'maxp', 'loca', 'glyf'].map((tag) =>
    tables.get(tag)!,
  ) as [Buffer, Buffer, Buffer, Buffer, Buffer, Buffer];
  const count = maxp.readUInt16BE(4);
  const measured = hhea.readUInt16BE(34);
  const long = head.readInt16BE(50) === 1;
  const begin = (n: number): number => (long ? loca.readUInt32BE(4 * n) : 2 * loca.readUInt16BE(2 * n));
  return Array.from({ length: count }, (_, n): Glyph => {
    const own = Math.min(n, measured - 1);
    return {
      outline: glyf.subarray(begin(n), begin(n + 1)),
      advance: hmtx.readUInt16BE(4 * own),
      leftBearing: hmtx.readInt16BE(n < measured ? 4 * n + 2 : 4 * measured + 2 * (n - measured)),
    };
  });
}

/** Flags of a part of a composite glyph (OpenType 1.9, `glyf`). */
const WORDS = 0x1;
const SCALE = 0x8;
const MORE = 0x20;
const TWO_SCALES = 0x40;
const MATRIX = 0x80;

/** Where in the outline of a composite glyph the numbers of its parts stand; nothing for a plain one. */
export function partsOfGlyph(outline: Buffer): number[] {
  if (outline.length < 10 || outline.readInt16BE(0) >= 0) return [];
  const places: number[] = [];
  for (let at = 10, flags = MORE; flags & MORE;) {
    flags = outline.readUInt16BE(at);
    places.push(at + 2);
    at += 4 + (flags & WORDS ? 4 : 2);
    at += flags & SCALE ? 2 : flags & TWO_SCALES ? 4 : flags & MATRIX ? 8 : 0;
  }
  return places;
}

/** Numbers in `maxp` that are the largest of all glyphs, by their places. */
const MOST = [6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30];

/**
 * A font with these glyphs in this order.
 *
 * @param like fonts of which the glyphs are; what all have in common is taken from the first one.
 */
export function fontOf(glyphs: readonly Glyph[], like: readonly FontTables[]): Buffer {
  const first = like[0]!;
  const copy = (tag: string): Buffer => Buffer.from(first.get(tag)!);
  const [head, hhea, maxp] = [copy('head'), copy('hhea'), copy('maxp')];
  head.writeUInt32BE(0, 8);
  head.writeInt16BE(1, 50);
  hhea.writeUInt16BE(glyphs.length, 34);
  maxp.writeUInt16BE(glyphs.length, 4);
  for (const at of MOST)
    if (at + 2 <= maxp.length)
      maxp.writeUInt16BE(Math.max(...like.map((tables) => tables.get('maxp')!.readUInt16BE(at))), at);
  const hmtx = Buffer.alloc(4 * glyphs.length);
  const loca = Buffer.alloc(4 * (glyphs.length + 1));
  const outlines: Buffer[] = [];
  let length = 0;
  for (const [n, { outline, advance, leftBearing }] of glyphs.entries()) {
    hmtx.writeUInt16BE(advance, 4 * n);
    hmtx.writeInt16BE(leftBearing, 4 * n + 2);
    const padded = Buffer.alloc(Math.ceil(outline.length / 4) * 4);
    outline.copy(padded);
    outlines.push(padded);
    length += padded.length;
    loca.writeUInt32BE(length, 4 * (n + 1));
  }
  const tables = new Map<string, Buffer>([
    ['glyf', Buffer.concat(outlines)],
    ['head', head],
    ['hhea', hhea],
    ['hmtx', hmtx],
    ['loca', loca],
    ['maxp', maxp],
  ]);
  for (const tag of ['cvt ', 'fpgm', 'prep', 'name']) if (first.has(tag)) tables.set(tag, copy(tag));
  return written(tables);
}

function written(tables: ReadonlyMap<string, Buffer>): Buffer {
  const tags = [...tables.keys()].sort();
  const power = Math.floor(Math.log2(tags.length));
  const directory = Buffer.alloc(12 + 16 * tags.length);
  directory.writeUInt32BE(0x00010000, 0);
  directory.writeUInt16BE(tags.length, 4);
  directory.writeUInt16BE(16 * 2 ** power, 6);
  directory.writeUInt16BE(power, 8);
  directory.writeUInt16BE(16 * (tags.length - 2 ** power), 10);
  const parts = [directory];
  let at = directory.length;
  for (const [n, tag] of tags.entries()) {
    const table = tables.get(tag)!;
    const padded = Buffer.concat([table, Buffer.alloc((4 - (table.length % 4)) % 4)]);
    directory.write(tag, 12 + 16 * n, 'latin1');
    directory.writeUInt32BE(sumOf(padded), 16 + 16 * n);
    directory.writeUInt32BE(at, 20 + 16 * n);
    directory.writeUInt32BE(table.length, 24 + 16 * n);
    parts.push(padded);
    at += padded.length;
  }
  const font = Buffer.concat(parts);
  const head = directory.readUInt32BE(20 + 16 * tags.indexOf('head'));
  font.writeUInt32BE((0xb1b0afba - sumOf(font)) >>> 0, head + 8);
  return font;
}

function sumOf(bytes: Buffer): number {
  let sum = 0;
  for (let at = 0; at < bytes.length; at += 4) sum = (sum + bytes.readUInt32BE(at)) >>> 0;
  return sum;
}
