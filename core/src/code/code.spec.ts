import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import fc from 'fast-check';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { codeSvg, drawCode, type CodeKind, type DrawnCode } from './index.js';

const require = createRequire(import.meta.url);

beforeAll(() => {
  const wasm = readFileSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'));
  prepareZXingModule({
    overrides: {
      wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer,
    },
    fireImmediately: true,
  });
});

/** The code as pixels, so many to a module, as a scanner sees it on white paper. */
function pixels({ width, height, d }: DrawnCode, size: number): ImageData {
  const rows = height === 1 ? 40 : height * size;
  const [w, h] = [width * size + 20, rows + 20];
  const data = new Uint8ClampedArray(w * h * 4).fill(255);
  for (const [, x, y, run] of d.matchAll(/M(\d+) (\d+)h(\d+)/g)) {
    const [left, top] = [Number(x) * size + 10, (height === 1 ? 0 : Number(y) * size) + 10];
    for (let py = 0; py < (height === 1 ? rows : size); py++)
      for (let px = 0; px < Number(run) * size; px++)
        data.fill(0, ((top + py) * w + left + px) * 4, ((top + py) * w + left + px) * 4 + 3);
  }
  return { width: w, height: h, data, colorSpace: 'srgb' } as ImageData;
}

async function read(kind: CodeKind, text: string): Promise<{ text: string; format: string } | undefined> {
  const drawn = drawCode(kind, text);
  if (typeof drawn === 'string') throw new Error(drawn);
  const [found] = await readBarcodes(pixels(drawn, 3), { tryHarder: true });
  return found && { text: found.text, format: found.format };
}

// ISO/IEC 18004:2015 (QR) and ISO/IEC 15417:2007 (Code 128), read back by another program.
test.each([
  ['qr', 'RS-2026-0041', 'QRCode'],
  ['qr', 'https://thistlequay.example/seal/4Q7X', 'QRCode'],
  ['qr', 'Ольга Черненко · محمد · 山田', 'QRCode'],
  ['qr', '0123456789'.repeat(20), 'QRCode'],
  ['code128', 'RS-2026-0041', 'Code128'],
  ['code128', '00123456789', 'Code128'],
  ['code128', 'Aa~ {}|', 'Code128'],
] as const)('%s of “%s” is read back', async (kind, text, format) => {
  expect(await read(kind, text)).toEqual({ text, format });
});

test('any text of letters and figures is read back from its bar code', async () => {
  await fc.assert(
    fc.asyncProperty(fc.stringMatching(/^[ -~]{1,30}$/), async (text) => {
      expect((await read('code128', text))?.text).toBe(text);
    }),
    { numRuns: 25 },
  );
});

test('there is no bar code for letters beyond ASCII, and no code for what no code holds', () => {
  expect(drawCode('code128', 'Zoë')).toBe('letters');
  expect(drawCode('code128', '')).toBe('letters');
  expect(drawCode('code128', 'x'.repeat(81))).toBe('too-long');
  expect(drawCode('qr', 'x'.repeat(3000))).toBe('too-long');
});

test('there is quiet room around it: 4 modules for QR (ISO/IEC 18004, 5.3.8), 10 for Code 128 (ISO/IEC 15417, 4.7)', () => {
  const [qr, bars] = [drawCode('qr', 'a') as DrawnCode, drawCode('code128', 'a') as DrawnCode];
  // The smallest QR symbol has 21 modules a side.
  expect(qr).toMatchObject({ width: 29, height: 29 });
  expect(Math.min(...[...qr.d.matchAll(/M(\d+) (\d+)/g)].flatMap(([, x, y]) => [Number(x), Number(y)]))).toBe(
    4,
  );
  // Start, one sign and check sign of 11 modules each, and a stop of 13.
  expect(bars.width).toBe(20 + 3 * 11 + 13);
  expect(codeSvg(bars, '#000000')).toContain('preserveAspectRatio="none"');
});
