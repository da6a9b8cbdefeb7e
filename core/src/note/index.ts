export { escapeHtml, noteHtml } from './html.js';
export { linePlain, notePlain } from './plain.js';
export { writeNote, type WrittenNote } from './write-note.js';
export { writingPlain } from './writing-plain.js';
