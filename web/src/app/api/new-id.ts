import { customAlphabet } from 'nanoid';

/** A new identity for a field: 12 lower-case letters and digits. */
export const newId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);
