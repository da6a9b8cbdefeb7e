export { filePath, namedFor, safePart, uniquePaths } from './file-name.js';
