import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';

/** A picture that is ready to be brought: small enough for paper, in a kind that can be printed. */
export interface PictureFile {
  /** With its folder where it comes from an archive. */
  readonly name: string;
  readonly file: File;
}

/** A file that cannot be used, and why. */
export interface UnusableFile {
  readonly name: string;
  readonly why: string;
}

export interface ReadPictures {
  readonly pictures: readonly PictureFile[];
  readonly unusable: readonly UnusableFile[];
}

/** Pixels of the longer side of a learner's picture: 17 cm at 240 dots an inch. */
const LONGEST = 1600;
/** Pixels of the longer side of a page: A4 at 240 dots an inch. */
const PAGE_LONGEST = 2800;
/** Bytes up to which a picture is taken as it is, for each of its pixels' longer side. */
const BYTES_A_PIXEL = 750;
/** Bytes of one file that are read at all. */
const FILE_MOST = 120 * 1024 * 1024;
/** Pictures in one go: the most that a roll can have learners. */
const PICTURES_MOST = 10_000;

const PICTURE_NAME = /\.(?:png|jpe?g|gif|webp|svg|heic|heif|bmp|tiff?)$/i;
const ARCHIVE_NAME = /\.zip$/i;
/** What archives hold beside what people put in. */
const HIDDEN = /(?:^|\/)(?:__MACOSX\/|\.)/;

const DAMAGED = 'It is no picture that this browser can read. Save it as JPEG or PNG.';

/**
 * Reads pictures, those in ZIP archives too, one after the other, and makes large ones as small as paper needs them.
 *
 * @param told of each one that was read.
 */
export async function readPictures(
  files: readonly File[],
  told: (read: number) => void,
): Promise<ReadPictures> {
  const pictures: PictureFile[] = [];
  const unusable: UnusableFile[] = [];
  const take = async (name: string, blob: Blob): Promise<void> => {
    if (pictures.length >= PICTURES_MOST) {
      unusable.push({ name, why: `At most ${PICTURES_MOST.toLocaleString('en')} pictures come in at once.` });
      return;
    }
    try {
      pictures.push({ name, file: await readyToPrint(name, blob) });
    } catch {
      unusable.push({ name, why: DAMAGED });
    }
    told(pictures.length);
  };
  for (const file of files) {
    if (ARCHIVE_NAME.test(file.name)) {
      try {
        const count = await eachInArchive(file, take, (name, why) => unusable.push({ name, why }));
        if (count === 0) unusable.push({ name: file.name, why: 'There are no pictures in this archive.' });
      } catch {
        unusable.push({
          name: file.name,
          why: 'This archive cannot be read: it is damaged, or has a password. Unpack it and choose the pictures.',
        });
      }
    } else if (file.size > FILE_MOST) unusable.push({ name: file.name, why: tooLarge() });
    else if (PICTURE_NAME.test(file.name) || file.type.startsWith('image/')) await take(file.name, file);
    else unusable.push({ name: file.name, why: 'It is neither a picture nor a ZIP archive of pictures.' });
  }
  return { pictures, unusable };
}

const tooLarge = (): string => `It has more than ${FILE_MOST / 1024 / 1024} MB.`;

/** Goes through the pictures of an archive as its bytes come, so that a large one is never in memory as a whole. */
async function eachInArchive(
  archive: File,
  take: (name: string, blob: Blob) => Promise<void>,
  refuse: (name: string, why: string) => void,
): Promise<number> {
  const waiting: { name: string; blob: Blob }[] = [];
  let count = 0;
  let broken: Error | null = null;
  const unzip = new Unzip((entry) => {
    if (entry.name.endsWith('/') || HIDDEN.test(entry.name) || !PICTURE_NAME.test(entry.name)) return;
    count++;
    const parts: BlobPart[] = [];
    let size = 0;
    entry.ondata = (error, bytes, last) => {
      if (error) {
        broken ??= error;
        return;
      }
      if (size > FILE_MOST) return;
      size += bytes.length;
      if (size > FILE_MOST) {
        parts.length = 0;
        refuse(entry.name, tooLarge());
        entry.terminate();
        return;
      }
      parts.push(bytes.slice());
      if (last) waiting.push({ name: entry.name, blob: new Blob(parts) });
    };
    entry.start();
  });
  unzip.register(UnzipPassThrough);
  unzip.register(UnzipInflate);
  const reader = archive.stream().getReader();
  for (let over = false; !over;) {
    const { done, value } = await reader.read();
    unzip.push(value ?? new Uint8Array(), done);
    over = done;
    if (broken) throw broken as Error;
    for (const { name, blob } of waiting.splice(0)) await take(name, blob);
  }
  return count;
}

/** A picture for a page, no larger than paper needs it; as it is where this browser cannot read it. */
export const forPage = (file: File): Promise<File> =>
  readyToPrint(file.name, file, PAGE_LONGEST).catch(() => file);

/** Pixels of the longer side of a picture in a message. */
const MAIL_LONGEST = 1200;
/** Of a drawing, which mail programs do not show: at this size it is sharp at a third of it. */
const DRAWING_LONGEST = 600;

/** A picture as mail programs show it: no drawings, and no kinds that only browsers know. @throws where it cannot be read. */
export async function forMail(file: File): Promise<File> {
  if (/\.svg$/i.test(file.name) || file.type === 'image/svg+xml') return drawn(file);
  if (/\.(?:png|jpe?g|gif)$/i.test(file.name)) return readyToPrint(file.name, file, MAIL_LONGEST);
  const png = await toPng(await createImageBitmap(file), MAIL_LONGEST);
  return new File([png], file.name.replace(/\.\w+$/, '.png'), { type: 'image/png' });
}

async function drawn(file: File): Promise<File> {
  const url = URL.createObjectURL(new Blob([file], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const { naturalWidth: width, naturalHeight: height } = image;
    const share = DRAWING_LONGEST / Math.max(width, height, 1);
    const size = {
      resizeWidth: Math.max(1, Math.round((width || 1) * share)),
      resizeHeight: Math.max(1, Math.round((height || 1) * share)),
    };
    image.width = size.resizeWidth;
    image.height = size.resizeHeight;
    const png = await toPng(
      await createImageBitmap(image, { ...size, resizeQuality: 'high' }),
      DRAWING_LONGEST,
    );
    return new File([png], file.name.replace(/(\.\w+)?$/, '.png'), { type: 'image/png' });
  } finally {
    URL.revokeObjectURL(url);
  }
}

async function toPng(picture: ImageBitmap, longest: number): Promise<Blob> {
  try {
    const share = Math.min(1, longest / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * share)),
      Math.max(1, Math.round(picture.height * share)),
    );
    const context = canvas.getContext('2d');
    if (!context) throw new Error('There is no canvas.');
    context.imageSmoothingQuality = 'high';
    context.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    picture.close();
  }
}

/** @throws where the browser cannot read it. */
async function readyToPrint(name: string, blob: Blob, longest = LONGEST): Promise<File> {
  const plain = name.replace(/^.*[/\\]/, '');
  // A drawing has no pixels; the server looks whether it can be printed.
  if (/\.svg$/i.test(name)) return new File([blob], plain, { type: 'image/svg+xml' });
  const picture = await createImageBitmap(blob);
  try {
    const share = Math.min(1, longest / Math.max(picture.width, picture.height));
    const printable = /\.(?:png|jpe?g|gif|webp)$/i.test(name);
    if (share === 1 && blob.size <= longest * BYTES_A_PIXEL && printable) return new File([blob], plain);
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * share)),
      Math.max(1, Math.round(picture.height * share)),
    );
    const context = canvas.getContext('2d');
    if (!context) throw new Error('There is no canvas.');
    // What can be seen through stays so; photographs are smaller as JPEG.
    const clear = /\.(?:png|gif|webp)$/i.test(name);
    context.imageSmoothingQuality = 'high';
    context.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const small = await canvas.convertToBlob(
      clear ? { type: 'image/png' } : { type: 'image/jpeg', quality: 0.86 },
    );
    return new File([small], plain.replace(/\.(?:heic|heif|bmp|tiff?)$/i, '.jpg'));
  } finally {
    picture.close();
  }
}
