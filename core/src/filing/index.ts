export {
  checkName,
  filePath,
  type NameCheck,
  namedFor,
  pathSaying,
  safePart,
  uniquePaths,
} from './file-name.js';
