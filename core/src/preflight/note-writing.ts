import type { Writing } from '../template/index.js';

/** A cover note as preflight reads it. */
export type NoteWriting = Pick<Extract<Writing, { kind: 'note' }>, 'id' | 'name' | 'content'>;

/** What a note is called in a sentence: by its name where there are several. */
export type NoteWhere = 'note' | { readonly template: string };
