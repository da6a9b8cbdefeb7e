import { Inflate, strFromU8, zipSync } from 'fflate';
import { refuse, succeed, type Result } from '../table/index.js';
import { damaged, protectedFile } from './refusals.js';

/** What an archive may unpack to at most, in bytes. Counted while unpacking, since an archive's own figures may lie. */
export const UNPACKED_MOST = 300 * 1024 * 1024;
/** The parts an archive may have at most. */
const PARTS_MOST = 5000;
/** Bytes that are unpacked in one go; they may swell a thousandfold. */
const STEP = 16 * 1024;

/** An archive that was unpacked, as far as it was asked for. */
export interface Archive {
  /** The names of all its parts. */
  readonly names: readonly string[];
  /** The parts that were asked for. */
  readonly parts: Readonly<Record<string, Uint8Array>>;
}

interface Entry {
  readonly name: string;
  readonly method: number;
  readonly encrypted: boolean;
  /** Where its bytes stand, and how many. */
  readonly start: number;
  readonly size: number;
}

/**
 * Unpacks parts of a ZIP archive (PKWARE APPNOTE 6.3, 4.3). Parts that share bytes, by which a small archive unpacks to
 * any size, are refused; what comes out is counted as it comes, and all of it is unpacked once, so that parts nobody
 * asked for cannot swell later either.
 *
 * @param wanted which parts to keep, by name.
 * @param most how many bytes all of it may unpack to.
 * @returns the archive, or a refusal: `file-damaged`, `file-protected`, `unpacks-too-large`, `too-many-parts`.
 */
export function openArchive(
  bytes: Uint8Array,
  wanted: (name: string) => boolean,
  most = UNPACKED_MOST,
): Result<Archive> {
  const listed = listEntries(bytes);
  if (!listed.ok) return listed;
  const parts = Object.create(null) as Record<string, Uint8Array>;
  let unpacked = 0;
  for (const entry of listed.value) {
    if (entry.encrypted) return protectedFile();
    const kept = wanted(entry.name) ? [] : null;
    const size = unpack(
      bytes.subarray(entry.start, entry.start + entry.size),
      entry.method,
      kept,
      unpacked,
      most,
    );
    if (size === null) return damaged();
    unpacked += size;
    if (unpacked > most) return swells(most);
    if (kept) parts[entry.name] = whole(kept);
  }
  return succeed({ names: listed.value.map(({ name }) => name), parts });
}

/** The parts as an archive of our own making, not packed: what another reader sees of it is what was looked at here. */
export const packAgain = (archive: Archive): Uint8Array => zipSync({ ...archive.parts }, { level: 0 });

/** @returns the bytes that came out, or null where the part is damaged. Stops where all parts together are too large. */
function unpack(
  packed: Uint8Array,
  method: number,
  kept: Uint8Array[] | null,
  before: number,
  most: number,
): number | null {
  if (method === 0) {
    kept?.push(packed);
    return packed.length;
  }
  if (method !== 8) return null;
  let size = 0;
  const inflate = new Inflate((chunk) => {
    size += chunk.length;
    if (before + size <= most) kept?.push(chunk);
  });
  try {
    for (let at = 0; at < packed.length || at === 0; at += STEP) {
      inflate.push(packed.subarray(at, at + STEP), at + STEP >= packed.length);
      if (before + size > most) return size;
    }
  } catch {
    return null;
  }
  return size;
}

function whole(chunks: readonly Uint8Array[]): Uint8Array {
  const [first] = chunks;
  if (chunks.length === 1 && first) return first;
  const bytes = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

const END = 0x06054b50;
const LISTED = 0x02014b50;
const LOCAL = 0x04034b50;

/** The parts that the archive's directory lists, none of which shares bytes with another or with the directory. */
function listEntries(bytes: Uint8Array): Result<Entry[]> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = findEnd(view);
  if (end < 0) return damaged();
  const count = view.getUint16(end + 10, true);
  const directory = view.getUint32(end + 16, true);
  if (count > PARTS_MOST) return refuse('too-many-parts', { most: PARTS_MOST });
  const entries: Entry[] = [];
  const names = new Set<string>();
  try {
    for (let at = directory, n = 0; n < count; n++) {
      if (view.getUint32(at, true) !== LISTED) return damaged();
      const nameLength = view.getUint16(at + 28, true);
      const name = strFromU8(bytes.subarray(at + 46, at + 46 + nameLength), !isUtf8(view, at));
      const entry = localEntry(view, name, at);
      if (!entry || names.has(name)) return damaged();
      entries.push(entry);
      names.add(name);
      at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    }
  } catch {
    return damaged();
  }
  const inPlace = [...entries].sort((a, b) => a.start - b.start);
  for (const [n, { start, size }] of inPlace.entries()) {
    if (start + size > Math.min(inPlace[n + 1]?.start ?? directory, directory)) return swells(UNPACKED_MOST);
  }
  return entries.length > 0 ? succeed(entries) : damaged();
}

/** APPNOTE 4.4.4, bit 11: the name is written in UTF-8. */
const isUtf8 = (view: DataView, at: number): boolean => (view.getUint16(at + 8, true) & 0x800) !== 0;

/** Where the bytes of a listed part stand; null where its place is none. Sizes come from the directory. */
function localEntry(view: DataView, name: string, at: number): Entry | null {
  const local = view.getUint32(at + 42, true);
  const size = view.getUint32(at + 20, true);
  // 0xFFFFFFFF: the true figure stands elsewhere, in archives of more than 4 GB (APPNOTE 4.5.3).
  if (size === 0xffffffff || local === 0xffffffff || view.getUint32(local, true) !== LOCAL) return null;
  return {
    name,
    method: view.getUint16(at + 10, true),
    encrypted: (view.getUint16(at + 8, true) & 0x2041) !== 0,
    start: local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true),
    size,
  };
}

/** Where the end record stands: it is the last thing but a comment of at most 65,535 bytes. */
function findEnd(view: DataView): number {
  for (let at = view.byteLength - 22; at >= Math.max(0, view.byteLength - 22 - 65_535); at--)
    if (view.getUint32(at, true) === END) return at;
  return -1;
}

const swells = (most: number): Result<never> => refuse('unpacks-too-large', { most });
