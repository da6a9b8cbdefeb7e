import { z } from 'zod';

const areParts = (path: string, forbidden: RegExp): boolean =>
  path.split(/[/\\]/).every((part) => part !== '..' && part !== '.' && !forbidden.test(part));

/** A folder below another one, with a `/` between their names; blank for that itself. */
export const FolderPath = z
  .string()
  .max(500)
  .refine(
    (path) => areParts(path, /[\0:*?"<>|]/),
    'Write names of folders with a / between them, without .. and signs that folders cannot have.',
  );

/** A file below a folder, such as `Exports/marks.csv`. In its own name a `*` stands for whatever is there. */
export const FilePath = z
  .string()
  .trim()
  .min(1, 'Write the name of the file.')
  .max(500)
  .refine(
    (path) =>
      areParts(path, /[\0:?"<>|]/) &&
      /^(?:[^*/\\]+[/\\])*[^/\\]+$/.test(path) &&
      !/\*.*\*.*\*.*\*/.test(path),
    'Write names of folders and the file with a / between them, without .. and signs that files cannot have. A * may stand in the name of the file.',
  );

/** An address without a name and password in it. */
export const WebAddress = z
  .url({ protocol: /^https?$/, error: 'Write the address as https://…' })
  .max(1000)
  .refine(
    (url) => !/^[a-z]+:[/\\]*[^/\\?#]*@/i.test(url),
    'Write name and password into their own boxes, not into the address.',
  );
