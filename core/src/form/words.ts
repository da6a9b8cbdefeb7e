import { z } from 'zod';

/** Tags of languages (BCP 47), as short as forms need them: `en-GB`, `ar`, `zh-Hans`. */
export const LanguageTag = z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/, 'This is no language.');

/** A text of a form in its languages, by their tags. */
export type Words = Readonly<Record<string, string>>;
export const Words: z.ZodType<Words> = z.record(LanguageTag, z.string().max(5000));
/** As `Words`, for what stands on one line. */
export const ShortWords: z.ZodType<Words> = z.record(LanguageTag, z.string().max(500));
