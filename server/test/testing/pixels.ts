import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32, deflateSync } from 'node:zlib';
import { PNG } from 'pngjs';

/** The pixels of a PDF's first page as Poppler draws it at 50 dots an inch: red, green and blue, one after the other. */
export function pixelsOf(pdf: Uint8Array): Uint8Array {
  const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-pixels-'));
  try {
    writeFileSync(path.join(folder, 'paper.pdf'), pdf);
    execFileSync('pdftoppm', ['-r', '50', '-f', '1', '-l', '1', '-singlefile', 'paper.pdf', 'page'], {
      cwd: folder,
    });
    const ppm = readFileSync(path.join(folder, 'page.ppm'));
    // Netpbm P6: three lines of head, then three bytes a pixel.
    let at = 0;
    for (let lines = 0; lines < 3; at++) if (ppm[at] === 0x0a) lines++;
    return ppm.subarray(at);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A PDF's first page as an image of so many dots an inch, for what reads pictures. */
export function imageOf(pdf: Uint8Array, dots: number): ImageData {
  const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-image-'));
  try {
    writeFileSync(path.join(folder, 'paper.pdf'), pdf);
    const args = ['-r', String(dots), '-f', '1', '-l', '1', '-singlefile', '-png', 'paper.pdf', 'page'];
    execFileSync('pdftoppm', args, { cwd: folder });
    const { width, height, data } = PNG.sync.read(readFileSync(path.join(folder, 'page.png')));
    return { width, height, data: new Uint8ClampedArray(data), colorSpace: 'srgb' } as ImageData;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** How many pixels have about this colour. */
export function countPixels(pixels: Uint8Array, [r, g, b]: readonly [number, number, number]): number {
  let count = 0;
  for (let at = 0; at + 2 < pixels.length; at += 3)
    if (
      Math.abs(pixels[at]! - r) < 12 &&
      Math.abs(pixels[at + 1]! - g) < 12 &&
      Math.abs(pixels[at + 2]! - b) < 12
    )
      count++;
  return count;
}

/** A PNG (ISO/IEC 15948) of 16 by 16 pixels of one colour. */
export function plainPng([r, g, b]: readonly [number, number, number]): Buffer {
  const size = 16;
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const framed = Buffer.alloc(body.length + 8);
    framed.writeUInt32BE(data.length, 0);
    body.copy(framed, 4);
    framed.writeUInt32BE(crc32(body), body.length + 4);
    return framed;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(size, 0);
  head.writeUInt32BE(size, 4);
  // Eight bits a channel, red, green and blue.
  head.set([8, 2, 0, 0, 0], 8);
  const line = Buffer.concat([
    Buffer.from([0]),
    Buffer.concat(Array.from({ length: size }, () => Buffer.from([r, g, b]))),
  ]);
  const lines = Buffer.concat(Array.from({ length: size }, () => line));
  return Buffer.concat([
    Buffer.from('89504e470d0a1a0a', 'hex'),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(lines)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
