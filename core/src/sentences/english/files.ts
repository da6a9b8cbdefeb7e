import type { Say, Saying } from '../saying.js';
import { count, counted, form, listed, megabytes, quotedList, rowsThat, type Rows } from './grammar.js';

export interface At {
  readonly rows: Rows;
}
export interface Limit {
  readonly count: number;
  readonly most: number;
}

/** What kinds of files there are besides tables. */
const KINDS = {
  archive: 'a spreadsheet workbook or a ZIP archive',
  document: 'an old spreadsheet or word-processor document',
  pdf: 'a PDF document',
  png: 'a PNG picture',
  jpeg: 'a JPEG picture',
  gif: 'a GIF picture',
  compressed: 'a compressed archive',
  program: 'a program',
  rtf: 'a rich-text document',
  sylk: 'a SYLK file, an old format for exchanging spreadsheets',
  dif: 'a DIF file, an old format for exchanging spreadsheets',
};
export type FileKind = keyof typeof KINDS;

/** Why a file cannot be read as a sheet, and what is to be told of one that was. */
export const files = {
  'file-empty': ({ sheet }: { sheet: string | null }) =>
    sheet === null
      ? 'The file is empty (0 bytes). Export the sheet again and drop the new file here.'
      : `The ${sheet ? `sheet “${sheet}”` : 'file'} has no text in it. Choose another one, or export it again and drop the new file here.`,
  'file-binary': ({ kind }: { kind: FileKind | null }) =>
    kind === null
      ? 'The file does not hold text: it has control characters that no sheet contains. Save the sheet as CSV and drop that file here.'
      : `The file is ${KINDS[kind]}, and no table that can be read. Save the sheet as CSV, XLSX or ODS and drop that file here.`,
  'file-too-large': ({ bytes, most }: { bytes: number; most: number }) =>
    `The file has ${megabytes(bytes)}; a sheet may have at most ${megabytes(most)}. Remove rows or columns that you do not need and drop it again.`,
  'file-damaged': () =>
    'The file is damaged: it cannot be read to the end. Open it in your spreadsheet program, save it again, and drop the new file here.',
  'file-protected': () =>
    'The workbook is protected with a password, so it cannot be read. Open it, save a copy without the password, and drop that here.',
  'nothing-open': () => 'No file is open. Choose it again.',
  'archive-unknown': () =>
    'The file is an archive, but neither a workbook nor a OneRoster bundle. Unpack it, and drop the sheet that is in it.',
  'too-many-parts': ({ most }: { most: number }) =>
    `The file has more than ${count(most)} parts, so it is not opened. Save the sheet alone as a new workbook, or as CSV, and drop that here.`,
  'unpacks-too-large': ({ most }: { most: number }) =>
    `The file unpacks to more than ${megabytes(most)}, or its parts overlap, so it is not opened. Save the sheet alone as a new workbook, or as CSV, and drop that here.`,
  'too-many-cells': () =>
    'The sheets of the file reach over more cells than can be read, most of them empty. Copy the table alone into a new workbook, and drop that here.',
  'no-sheets': ({ kind }: { kind: 'workbook' | 'html' }) =>
    kind === 'html'
      ? 'The web page has no table with text in it. Choose another file.'
      : 'The workbook has no sheets with cells. Choose another file.',
  'sheet-missing': ({ sheet }: { sheet: string }) =>
    `The workbook has no sheet called “${sheet}”. Choose one of its sheets.`,
  'in-file': ({ file, problem }: { file: string; problem: Saying }, say: Say) => `${file}: ${say(problem)}`,
  'oneroster-users': () =>
    'The bundle’s users.csv has no learners, or lacks the columns sourcedId and familyName. Export the bundle again with users, classes and enrolments.',
  'oneroster-nobody': () =>
    'The bundle has users, but none with the role “student”. Export it again with the learners.',

  'quote-open': ({ row }: { row: number }) =>
    `Row ${row} opens a quotation mark (") that is never closed, so the rest of the file cannot be told apart. Close it, or remove it, and drop the file again.`,
  'header-beyond': ({ header, last }: { header: number; last: number }) =>
    `The sheet ends at row ${last}, so row ${header} cannot be its header. Choose a row of the sheet.`,
  'header-only': ({ sheet }: { sheet: string }) =>
    `${sheet ? `The sheet “${sheet}”` : 'The file'} has a header row but no rows below it. Check that the responses are in the sheet that you exported.`,
  'too-many-rows': ({ count: rows, most }: Limit) =>
    `The sheet has ${count(rows)} rows; a roll may have at most ${count(most)}. Split the file and make a folio for each part.`,
  'too-many-columns': ({ count: columns, most }: Limit) =>
    `The sheet has ${count(columns)} columns; a roll may have at most ${count(most)}. Remove the columns that you do not need.`,
  'cell-too-long': ({ row, column, count: letters, most }: Limit & { row: number; column: number }) =>
    `Row ${row}, column ${column} holds ${count(letters)} characters; a cell may hold at most ${count(most)}. Shorten it and drop the file again.`,
  'too-much-text': ({ most }: { most: number }) =>
    `The cells of the sheet hold more than ${count(most / 1_000_000)} million characters together. Remove columns that you do not need and drop the file again.`,

  'quote-stray': ({ rows }: At) =>
    `${rowsThat(rows, 'has', 'have')} a quotation mark (") inside a quoted cell that is not doubled. Check the text there.`,
  'encoding-guessed': ({ encoding }: { encoding: string }) =>
    `The file does not say how its letters are written. It was read as ${encoding}. Look at names with accents; if they are wrong, choose another.`,
  'letters-lost': ({ rows, encoding }: At & { encoding: string }) =>
    `${rowsThat(rows, 'has', 'have')} bytes that mean nothing in ${encoding}; they show as \ufffd. The rest is right. Mend the text there.`,
  'header-repeated': ({ titles }: { titles: readonly string[] }) =>
    `More than one column is called ${quotedList(titles)}. The later ones got a number so that you can tell them apart.`,
  'header-empty': ({ titles }: { titles: readonly string[] }) =>
    `${titles.length === 1 ? 'One column' : `${count(titles.length)} columns`} ${form(titles.length, 'has', 'have')} no title. Scriptum calls ${form(titles.length, 'it', 'them')} ${quotedList(titles)}.`,
  'row-long': ({ rows }: At) =>
    `${rowsThat(rows, 'has', 'have')} more cells than the header. They are kept in columns of their own at the end.`,
  'row-short': ({ rows }: At) =>
    `${rowsThat(rows, 'has', 'have')} fewer cells than the header. The missing ones are blank.`,
  'row-total': ({ rows }: At) =>
    `${rowsThat(rows, 'sums', 'sum')} up the others, or ${form(rows.count, 'says', 'say')} something of the sheet, and ${form(rows.count, 'is', 'are')} left out.`,
  'rows-hidden': ({ rows, skipped }: At & { skipped: boolean }) =>
    skipped
      ? `${rowsThat(rows, 'is', 'are')} hidden in the sheet and left out.`
      : `${rowsThat(rows, 'is', 'are')} hidden in the sheet, by a filter or by hand, and ${form(rows.count, 'was', 'were')} read all the same. Leave ${form(rows.count, 'it', 'them')} out, if nobody there gets a paper.`,
  'formulas-unworked': ({ titles }: { titles: readonly string[] }) =>
    `The formulas of ${quotedList(titles)} came without their results, so those cells are blank. Open the file in a spreadsheet, save it there, and drop it again.`,
  'cell-error': ({ rows, errors }: At & { errors: readonly string[] }) =>
    `${rowsThat(rows, 'holds', 'hold')} an error of the spreadsheet (${errors.join(', ')}). Those cells are blank here. Mend them in the sheet, or in the table.`,
  'macros-ignored': () => 'The workbook has macros. They are not run and not kept.',
  'links-ignored': () =>
    'Some cells of the workbook take their values from other files. The values that were last saved are used; the links are not followed.',
  'file-html': () => 'The file is really a web page. Its tables were read as sheets; formats are not known.',
  oneroster: ({ learners, guardians, items }: { learners: number; guardians: boolean; items: number }) =>
    `The file is a OneRoster bundle: ${counted(learners, 'learner', 'learners')}, with ${listed([guardians ? 'their guardians' : 'no guardians', ...(items > 0 ? [counted(items, 'line item', 'line items')] : [])])}.`,

  'ground-locked': () =>
    'This PDF opens only with a password. Open it in another program, save it without one, and bring that in.',
  'ground-damaged': () =>
    'This file is no PDF that can be read. Open it in another program, save it as PDF again, and bring that in.',
  'ground-pages': ({ pages, most }: { pages: number; most: number }) =>
    `This PDF has ${count(pages)} pages; at most ${count(most)} can be the ground of one paper. Save the pages that you need as a PDF of their own.`,
  'ground-size': ({ page, width, height }: { page: number; width: number; height: number }) =>
    `Page ${count(page)} of this PDF is ${count(width)} by ${count(height)} mm. A page is from 20 to 2,000 mm wide and high. Save it in another size.`,
  'ground-xfa': () =>
    'This form is made for one program alone (XFA) and has no pages of its own. Open it there, print it to a PDF, and bring that in.',
  'picture-kind': ({ damaged }: { damaged: boolean }) =>
    damaged
      ? 'The picture is damaged and cannot be read. Save it again, as PNG or JPEG.'
      : 'This file is no picture that can be printed. Use PNG, JPEG, GIF, WebP or SVG.',
  'picture-large': ({ width, height, most }: { width: number; height: number; most: number }) =>
    `The picture has ${count(width)} × ${count(height)} pixels; at most ${count(most / 1_000_000)} million can be printed. Make it smaller.`,
  'svg-large': ({ bytes, most }: { bytes: number | null; most: number }) =>
    bytes === null
      ? `The drawing has more than ${count(most)} parts. Simplify it, or save it as PNG.`
      : `The drawing has ${megabytes(bytes)}; at most ${megabytes(most)} can be read. Simplify it, or save it as PNG.`,
  'svg-damaged': ({ encoded }: { encoded: boolean }) =>
    encoded
      ? 'The drawing is damaged and cannot be read. Open it in a drawing program and save it again, or as PNG.'
      : 'The drawing is not written in UTF-8. Save it again as plain SVG, or as PNG.',
  'svg-entities': () =>
    'The drawing declares words of its own for parts of its text (entities), which are not read. Save it again as plain SVG, or as PNG.',
  'svg-deep': ({ most }: { most: number }) =>
    `The drawing has groups in groups, more than ${count(most)} deep. Ungroup it in a drawing program and save it again, or as PNG.`,
  'svg-reference': ({ to }: { to: string }) =>
    `The drawing asks for something outside itself (“${to}”), which is not loaded. Put the picture into the drawing itself, or save it as PNG.`,

  'letter-file': () =>
    'This is no letter that was saved here. Choose a file that “Save as a file” has made, or a template file.',
  'letter-large': ({ most }: { most: number }) =>
    `The letter unpacks to more than ${megabytes(most)}. Use smaller pictures in it, and save it as a file again.`,
  'letter-damaged': () =>
    'The file is damaged or protected by a password and cannot be opened. Save the letter as a file again, and bring that in.',
  'template-json': ({ why }: { why: string }) => `The template file is not valid JSON: ${why}.`,
  'template-shape': ({ place, why }: { place: string; why: string }) =>
    `The template file is not right at ${place || 'its top'}: ${why}`,
};
