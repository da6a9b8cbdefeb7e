import { refuse, type Result } from '../table/index.js';

export const damaged = (): Result<never> =>
  refuse(
    'file-damaged',
    'The file is damaged: it cannot be read to the end. Open it in your spreadsheet program, save it again, and drop the new file here.',
  );

export const protectedFile = (): Result<never> =>
  refuse(
    'file-protected',
    'The workbook is protected with a password, so it cannot be read. Open it, save a copy without the password, and drop that here.',
  );
