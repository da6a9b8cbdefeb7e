export {
  letterFile,
  readLetterFile,
  withKeptPictures,
  type LetterFromFile,
  type LetterPicture,
} from './letter-file.js';
export { columnsWritten, movedTo, type TitledColumn } from './move-letter.js';
