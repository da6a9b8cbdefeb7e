import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';

const FOLDER = fileURLToPath(new URL('../fixtures/looks', import.meta.url));
/** How many of a page's pixels may have another colour: other versions of Poppler draw edges otherwise. */
const SHARE = 0.01;

/** A PDF's first page as Poppler draws it at 40 dots an inch. */
function drawn(pdf: Uint8Array): PNG {
  const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-look-'));
  try {
    writeFileSync(path.join(folder, 'paper.pdf'), pdf);
    const args = ['-r', '40', '-f', '1', '-l', '1', '-singlefile', '-png', 'paper.pdf', 'page'];
    execFileSync('pdftoppm', args, { cwd: folder });
    return PNG.sync.read(readFileSync(path.join(folder, 'page.png')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * The share of pixels in which a page differs from the picture that is kept under a name, as pixelmatch sees it. With
 * `SCRIPTUM_KEEP_LOOKS=yes` in the environment the picture is kept anew; then somebody has to look at it.
 */
export function lookDiffers(pdf: Uint8Array, name: string): number {
  const file = path.join(FOLDER, `${name}.png`);
  const page = drawn(pdf);
  if (process.env['SCRIPTUM_KEEP_LOOKS'] === 'yes') {
    mkdirSync(FOLDER, { recursive: true });
    writeFileSync(file, PNG.sync.write(page, { colorType: 2, deflateLevel: 9 }));
  }
  if (!existsSync(file)) throw new Error(`There is no picture ${name}.png to compare with.`);
  const kept = PNG.sync.read(readFileSync(file));
  if (kept.width !== page.width || kept.height !== page.height) return 1;
  const other = pixelmatch(kept.data, page.data, undefined, page.width, page.height, { threshold: 0.2 });
  return other / (page.width * page.height);
}

/** True where a page looks as the picture that is kept under a name. */
export const looksAs = (pdf: Uint8Array, name: string): boolean => lookDiffers(pdf, name) < SHARE;
