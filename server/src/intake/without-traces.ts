/**
 * A picture without what cameras and programs write beside it: where and when it was taken, with what, by whom, small pictures of it. How
 * it is to be turned stays.
 *
 * JPEG: segments of ITU-T T.81 Annex B and Exif 2.32, 4.5; PNG: chunks of ISO/IEC 15948; WebP: RIFF chunks of RFC 9649. What cannot be
 * followed stays as it is from there on.
 */
export function withoutTraces(bytes: Buffer, mime: string): Buffer {
  if (mime === 'image/jpeg') return plainJpeg(bytes);
  if (mime === 'image/png') return plainPng(bytes);
  return mime === 'image/webp' ? plainWebp(bytes) : bytes;
}

const EXIF = Buffer.from('Exif\0\0', 'latin1');

function plainJpeg(bytes: Buffer): Buffer {
  const parts: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  let turned = 1;
  while (at + 4 <= bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1]!;
    // Fill bytes may stand before a marker (B.1.1.2).
    if (marker === 0xff) {
      at++;
      continue;
    }
    // From the start of scan on there is the picture itself.
    if (marker === 0xda || marker === 0xd9) break;
    const length = bytes.readUInt16BE(at + 2);
    const segment = bytes.subarray(at, at + 2 + length);
    const inside = segment.subarray(4);
    if (marker === 0xe1 && inside.subarray(0, 6).equals(EXIF))
      turned = orientationOf(inside.subarray(6)) ?? turned;
    // APP0 (JFIF), APP2 (ICC profiles) and APP14 (how colours are meant) belong to the picture.
    const isApp = marker >= 0xe0 && marker <= 0xef;
    const stays = !isApp && marker !== 0xfe;
    const isProfile = marker === 0xe2 && inside.subarray(0, 11).toString('latin1') === 'ICC_PROFILE';
    if (stays || marker === 0xe0 || isProfile || marker === 0xee) parts.push(segment);
    at += 2 + length;
  }
  if (turned !== 1) parts.splice(1, 0, orientationSegment(turned));
  return Buffer.concat([...parts, bytes.subarray(at)]);
}

/** The tag 0x0112 of the first directory of a TIFF header. */
function orientationOf(tiff: Buffer): number | null {
  if (tiff.length < 14) return null;
  const little = tiff.toString('latin1', 0, 2) === 'II';
  const short = (at: number): number => (little ? tiff.readUInt16LE(at) : tiff.readUInt16BE(at));
  const long = (at: number): number => (little ? tiff.readUInt32LE(at) : tiff.readUInt32BE(at));
  const first = long(4);
  if (first + 2 > tiff.length) return null;
  const entries = short(first);
  for (let n = 0; n < entries; n++) {
    const at = first + 2 + n * 12;
    if (at + 12 > tiff.length) return null;
    if (short(at) !== 0x0112) continue;
    const value = short(at + 8);
    return value >= 1 && value <= 8 ? value : null;
  }
  return null;
}

function orientationSegment(value: number): Buffer {
  const tiff = Buffer.from('MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\0\0\0\0\0\0\0', 'latin1');
  tiff.writeUInt16BE(value, 18);
  const head = Buffer.from([0xff, 0xe1, 0, 0]);
  head.writeUInt16BE(2 + EXIF.length + tiff.length, 2);
  return Buffer.concat([head, EXIF, tiff]);
}

const PNG_TRACES = new Set(['eXIf', 'tEXt', 'iTXt', 'zTXt', 'tIME']);

function plainPng(bytes: Buffer): Buffer {
  const parts: Buffer[] = [bytes.subarray(0, 8)];
  let at = 8;
  while (at + 12 <= bytes.length) {
    const length = bytes.readUInt32BE(at);
    const end = at + 12 + length;
    if (end > bytes.length) break;
    const kind = bytes.toString('latin1', at + 4, at + 8);
    if (!PNG_TRACES.has(kind)) parts.push(bytes.subarray(at, end));
    at = end;
    // What somebody has hung on behind the end is nobody's picture.
    if (kind === 'IEND') return Buffer.concat(parts);
  }
  return Buffer.concat([...parts, bytes.subarray(at)]);
}

function plainWebp(bytes: Buffer): Buffer {
  const parts: Buffer[] = [];
  let at = 12;
  while (at + 8 <= bytes.length) {
    const kind = bytes.toString('latin1', at, at + 4);
    const length = bytes.readUInt32LE(at + 4);
    const end = Math.min(bytes.length, at + 8 + length + (length % 2));
    if (kind !== 'EXIF' && kind !== 'XMP ') {
      const chunk = Buffer.from(bytes.subarray(at, end));
      // The flags that say that there is Exif (0x08) and XMP (0x04).
      if (kind === 'VP8X') chunk[8]! &= ~0x0c;
      parts.push(chunk);
    }
    at = end;
  }
  const body = Buffer.concat(parts);
  const head = Buffer.from(bytes.subarray(0, 12));
  head.writeUInt32LE(body.length + 4, 4);
  return Buffer.concat([head, body]);
}
