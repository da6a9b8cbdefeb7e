import { z } from 'zod';

/** Names that every JavaScript object has by birth, such as `constructor`. */
const INBORN = new Set(Object.getOwnPropertyNames(Object.prototype));

/**
 * An identity of a column, a field or a part of a worked column: up to 40 characters. Values are kept by identity in
 * plain records, so names that every object has by birth are none.
 */
export const Identity = z
  .string()
  .min(1)
  .max(40)
  .refine((id) => !INBORN.has(id), 'This is no identity: every object has something of this name.');
