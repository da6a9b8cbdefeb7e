import { customAlphabet } from 'nanoid';

/** A new identity: 16 lower-case letters and digits (82 bits), the same in every collation and safe in a URL. */
export const newId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 16);
