import { z } from 'zod';

/** How an entry's own picture stands on the paper: a photo, a drawing, a signature. Its file is named in a cell. */
export const PictureFilling = z.object({
  /** The room that it has, in millimetres. */
  width: z.number().min(5).max(400),
  height: z.number().min(5).max(400),
  /** All of it as large as the room allows; or the room full, cut where it is larger, above less than below, or alike. */
  fit: z.enum(['whole', 'cut below', 'cut around']),
  side: z.enum(['left', 'center', 'right']),
});
export type PictureFilling = z.infer<typeof PictureFilling>;
