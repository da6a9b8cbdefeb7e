export { writeNote, type WrittenNote } from './write-note.js';
export { writingPlain } from './writing-plain.js';
