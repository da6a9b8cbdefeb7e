export { openArchive, UNPACKED_MOST, type Archive } from './archive.js';
export { openSheetFile, type OpenedFile, type SheetFileKind, type SheetLine } from './open-sheets.js';
export { readWorkbook, type WorkbookKind } from './read-workbook.js';
export { sheetName, writeSheet, XLSX_CELL_MOST, type WriteKind } from './write-sheet.js';
