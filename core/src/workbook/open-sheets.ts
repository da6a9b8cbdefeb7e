import {
  guessHeader,
  layOut,
  readTextGrid,
  refuse,
  SHEET_LIMITS,
  succeed,
  tooLarge,
  type Grid,
  type LaidOut,
  type Reading,
  type Result,
} from '../table/index.js';
import type { Bundle } from '../sources/index.js';
import { openArchive, packAgain, type Archive } from './archive.js';
import { layOutBundle, readBundle } from './read-bundle.js';
import { readOds } from './read-ods.js';
import { readHtml } from './read-html.js';
import { bookNotes, readWorkbook, plainXml, type WorkbookKind } from './read-workbook.js';
import { protectedFile } from './refusals.js';

/** What kind of file it is, told by its bytes, never by its name. */
export type SheetFileKind = 'text' | 'oneroster' | WorkbookKind;

/** One sheet of a file, for people to choose among. */
export interface SheetLine {
  readonly name: string;
  readonly hidden: boolean;
  /** Rows that hold anything, the header among them. */
  readonly rows: number;
}

/** A file that was opened, ready to be laid out as often as people change their mind about how. */
export interface OpenedFile {
  readonly kind: SheetFileKind;
  readonly sheets: readonly SheetLine[];
  /** Lays a sheet out under a reading; what the reading leaves open is found out and comes back filled in. */
  layOut(reading: Reading, newId: () => string): Result<LaidOut>;
  /** The grid that the reading chooses, for showing the rows as they stand in the file. */
  grid(reading: Reading): Result<Grid>;
}

/**
 * Opens a file of any kind that holds a table.
 *
 * @returns the opened file, or a refusal: `file-too-large`, `file-empty`, `file-binary`, `unpacks-too-large`,
 *   `too-many-parts`, `archive-unknown`, and those of `readWorkbook`, `readTextGrid` and `readOneRoster`.
 */
export function openSheetFile(bytes: Uint8Array): Result<OpenedFile> {
  if (bytes.length > SHEET_LIMITS.bytes) return tooLarge(bytes.length);
  const form = kindOf(bytes);
  if (form === 'protected') return protectedFile();
  if (form === 'text') return openText(bytes);
  if (form === 'archive') return openPacked(bytes);
  const grids = form === 'html' ? readHtml(bytes, bookNotes([], form)) : readWorkbook(bytes, form);
  return grids.ok ? succeed(openGrids(form, grids.value)) : grids;
}

/** Parts that hold tables, or say how they belong together; pictures, macros and the like are left where they are. */
const isWanted = (name: string): boolean =>
  /\.(?:xml|rels|bin|csv)$|^mimetype$|^encrypted-package$/i.test(name) &&
  !/vbaProject|\/media\/|printerSettings|^Basic\/|^Pictures\//i.test(name);

function openPacked(bytes: Uint8Array): Result<OpenedFile> {
  const opened = openArchive(bytes, isWanted);
  if (!opened.ok) return opened;
  const { names, parts } = opened.value;
  const bundle = readBundle(opened.value);
  if (bundle) return bundle.ok ? succeed(openBundle(bundle.value)) : bundle;
  if (!names.some((name) => /workbook\.(xml|bin)$|content\.xml$|^encrypted-package$/i.test(name))) {
    return refuse('archive-unknown');
  }
  // ODF 1.3 Part 2, 3: the parts of every OpenDocument file stand at the top of its archive.
  const kind = names.some((name) => /^(?:content\.xml|encrypted-package)$/.test(name)) ? 'ods' : 'xlsx';
  const notes = bookNotes(names, kind);
  const grids =
    kind === 'ods'
      ? readOds(parts, notes)
      : readWorkbook(packAgain(withPlainParts(opened.value)), kind, notes);
  return grids.ok ? succeed(openGrids(kind, grids.value)) : grids;
}

/** The archive of a workbook with its texts as the reader can take them. */
const withPlainParts = (archive: Archive): Archive => ({
  ...archive,
  parts: Object.fromEntries(
    Object.entries(archive.parts).map(([name, part]) => [
      name,
      /sharedStrings\.xml$|worksheets\/[^/]+\.xml$|workbook\.xml$/i.test(name) ? plainXml(part) : part,
    ]),
  ),
});

function openText(bytes: Uint8Array): Result<OpenedFile> {
  const first = readTextGrid(bytes);
  if (!first.ok) return first;
  // Read again only where the encoding or the delimiter is another than the last time.
  let last = { asked: key({}), read: first };
  const gridFor = (reading: Reading): ReturnType<typeof readTextGrid> => {
    if (key(reading) !== last.asked)
      last = { asked: key(reading), read: readTextGrid(bytes, reading) as typeof first };
    return last.read;
  };
  return succeed({
    kind: 'text',
    sheets: [{ name: '', hidden: false, rows: countRows(first.value.grid) }],
    grid(reading) {
      const read = gridFor(reading);
      return read.ok ? succeed(read.value.grid) : read;
    },
    layOut(reading, newId) {
      const read = gridFor(reading);
      if (!read.ok) return read;
      const { grid, encoding, delimiter } = read.value;
      const laidOut = layOut(grid, reading, newId);
      return laidOut.ok
        ? succeed({ ...laidOut.value, reading: { ...laidOut.value.reading, encoding, delimiter } })
        : laidOut;
    },
  });
}

function openBundle(bundle: Bundle): OpenedFile {
  const users = bundle['users']!;
  return {
    kind: 'oneroster',
    sheets: [{ name: '', hidden: false, rows: users.rows.length + 1 }],
    grid: () =>
      succeed({
        name: '',
        hidden: false,
        rows: [users.titles, ...users.rows],
        exact: [],
        merges: [],
        notes: [],
      }),
    layOut: (_reading, newId) => layOutBundle(bundle, newId),
  };
}

const key = ({ encoding, delimiter }: Reading): string => `${encoding ?? ''} ${delimiter ?? ''}`;

function openGrids(kind: WorkbookKind, grids: readonly Grid[]): OpenedFile {
  const choose = (reading: Reading): Result<Grid> => {
    if (reading.sheet !== undefined) {
      const named = grids.find((grid) => grid.name === reading.sheet);
      return named ? succeed(named) : refuse('sheet-missing', { sheet: reading.sheet });
    }
    return succeed(likeliest);
  };
  const likeliest = likeliestSheet(grids);
  const several = grids.filter((grid) => !grid.hidden && countRows(grid) > 1).length > 1;
  return {
    kind,
    sheets: grids.map((grid) => ({ name: grid.name, hidden: grid.hidden, rows: countRows(grid) })),
    grid: choose,
    layOut(reading, newId) {
      const grid = choose(reading);
      if (!grid.ok) return grid;
      const laidOut = layOut(grid.value, reading, newId);
      return laidOut.ok
        ? succeed({
            ...laidOut.value,
            reading: { ...laidOut.value.reading, sheet: grid.value.name },
            doubts: [
              ...(several && reading.sheet === undefined ? ['sheets' as const] : []),
              ...laidOut.value.doubts,
            ],
          })
        : laidOut;
    },
  };
}

/** Sheets that tell about the others rather than hold people. */
const ABOUT =
  /read.?me|instruction|introduction|\binfo|\bnotes?\b|legend|about|cover|anleitung|hinweis|lisez|lies.?mich|\bkey\b|lookup|settings/i;
const PERSON =
  /name|email|e-mail|learner|student|pupil|surname|vorname|nachname|schüler|prénom|nom\b|nombre|apellido/i;

/** The sheet that most likely holds the people: seen, with titles side by side, among them those of names or addresses. */
function likeliestSheet(grids: readonly Grid[]): Grid {
  const score = (grid: Grid): number => {
    const rows = countRows(grid);
    if (rows < 2) return rows - 100;
    const head = guessHeader(grid);
    const titles = (head ? (grid.rows[head.row - 1] ?? []) : []).filter((cell) => cell?.trim());
    return (
      Math.min(rows, 40) / 40 +
      (titles.length > 1 ? 3 : 0) +
      (titles.some((title) => title.length < 60 && PERSON.test(title)) ? 3 : 0) -
      (ABOUT.test(grid.name) ? 4 : 0) -
      (grid.hidden ? 20 : 0)
    );
  };
  return grids.reduce((best, grid) => (score(grid) > score(best) ? grid : best));
}

function countRows(grid: Grid): number {
  let count = 0;
  for (const row of grid.rows) if (row?.some((cell) => cell && cell.trim() !== '')) count++;
  return count;
}

function kindOf(bytes: Uint8Array): 'text' | 'archive' | 'xls' | 'html' | 'xml' | 'protected' {
  const head = (n: number): string => String.fromCharCode(...bytes.subarray(0, n));
  if (head(4) === 'PK\u0003\u0004') return 'archive';
  if (head(4) === '\u00d0\u00cf\u0011\u00e0') {
    // [MS-OFFCRYPTO]: an encrypted workbook is a compound file with a stream of this name, in UTF-16.
    return holds(bytes, 'E\0n\0c\0r\0y\0p\0t\0e\0d\0P\0a\0c\0k\0a\0g\0e') ? 'protected' : 'xls';
  }
  if (head(2) === '\u0009\u0008' || head(2) === '\u0009\u0004') return 'xls';
  const start = head(4000)
    .replace(/^(?:\u00ef\u00bb\u00bf|\u00ff\u00fe)/, '')
    .replaceAll('\0', '');
  if (/^\s*(?:<!--[\s\S]*?-->\s*)?(?:<!doctype html|<html|<head|<meta|<table|<body|<style|<div)/i.test(start))
    return 'html';
  if (/^\s*<\?xml/i.test(start)) return /<html/i.test(start) ? 'html' : 'xml';
  return 'text';
}

/** True where the bytes hold this ASCII text among their first or last megabyte. */
function holds(bytes: Uint8Array, text: string): boolean {
  const decoder = new TextDecoder('latin1');
  const edge = 1 << 20;
  return (
    decoder.decode(bytes.subarray(0, edge)).includes(text) ||
    (bytes.length > edge && decoder.decode(bytes.subarray(-edge)).includes(text))
  );
}
