export { filePath, safePart, uniquePaths } from './file-name.js';
