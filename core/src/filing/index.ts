export { filePath, namedFor, pathSaying, safePart, uniquePaths } from './file-name.js';
