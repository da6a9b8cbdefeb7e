export { codeSvg, drawCode, type CodeKind, type DrawnCode, type NoCode } from './code.js';
