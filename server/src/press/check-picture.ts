import { checkSvg } from '@scriptum/core/picture';
import { refuse, succeed, type Result } from '@scriptum/core/table';
import { fileTypeFromBuffer } from 'file-type';
import { imageSize } from 'image-size';

/** Kinds of picture that can be printed, by their bytes. */
const PIXELS = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp']);
/** Pixels of a picture: A4 at 600 dots an inch has 35 million. Each takes four bytes and more when it is drawn. */
const PIXELS_MOST = 40_000_000;

/**
 * Looks whether a picture may be printed: a kind that is known by its bytes, not more pixels than can be drawn, and a
 * drawing that asks for nothing outside itself.
 *
 * @returns its media type, or a refusal: `picture-kind`, `picture-large`, and those of `checkSvg`.
 */
export async function checkPicture(bytes: Uint8Array): Promise<Result<string>> {
  const type = await fileTypeFromBuffer(bytes);
  if (type && PIXELS.has(type.mime)) return checkPixels(bytes, type.mime);
  const head = Buffer.from(bytes.subarray(0, 2000)).toString('utf8');
  if (/^\ufeff?\s*(?:<\?xml|<!--|<!doctype svg|<svg)/i.test(head) && /<(?:\w+:)?svg[\s>]/i.test(head)) {
    const checked = checkSvg(bytes);
    return checked.ok ? succeed('image/svg+xml') : checked;
  }
  return refuse('picture-kind', { damaged: false });
}

function checkPixels(bytes: Uint8Array, mime: string): Result<string> {
  try {
    const { width, height } = imageSize(bytes);
    if (width * height > PIXELS_MOST) return refuse('picture-large', { width, height, most: PIXELS_MOST });
    return succeed(mime);
  } catch {
    return refuse('picture-kind', { damaged: true });
  }
}
