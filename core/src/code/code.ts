import code128 from 'jsbarcode/bin/barcodes/CODE128/CODE128_AUTO.js';
import QRCode from 'qrcode/lib/core/qrcode.js';

/** An older form of module, whose face is one deeper to Node and bundlers that follow it. */
const Code128 = 'default' in code128 ? code128.default : code128;

/** Codes that machines read: QR (ISO/IEC 18004), Code 128 (ISO/IEC 15417). */
export type CodeKind = 'qr' | 'code128';

/** Why a text has no code: it is longer than any code, or a bar code has no sign for one of its letters. */
export type NoCode = 'too-long' | 'letters';

/** A code as a picture of modules, its quiet zone included. One module is one unit wide. */
export interface DrawnCode {
  readonly width: number;
  readonly height: number;
  /** All dark modules as one path. */
  readonly d: string;
}

/** Light modules around a code: ISO/IEC 18004, 5.3.8 wants 4 for QR, ISO/IEC 15417, 4.7 wants 10 beside Code 128. */
const QUIET = { qr: 4, code128: 10 } as const;
/** Letters that a bar code holds on paper: more are too fine for readers (common practice, no published source). */
const BARS_MOST = 80;

/**
 * Draws the code of a text. Code 128 takes ASCII alone; QR takes all, as UTF-8.
 *
 * @returns why there is none.
 */
export function drawCode(kind: CodeKind, text: string): DrawnCode | NoCode {
  return kind === 'qr' ? drawQr(text) : drawBars(text);
}

function drawQr(text: string): DrawnCode | NoCode {
  let modules: { readonly size: number; get: (row: number, column: number) => number | boolean };
  try {
    // The middle level of correction: a fold or a stain of 15 % does no harm.
    ({ modules } = QRCode.create(text, { errorCorrectionLevel: 'M' }));
  } catch {
    return 'too-long';
  }
  const { size } = modules;
  const runs: string[] = [];
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      if (!modules.get(y, x)) continue;
      const from = x;
      while (x < size && modules.get(y, x)) x++;
      runs.push(`M${from + QUIET.qr} ${y + QUIET.qr}h${x - from}v1h${from - x}z`);
    }
  const side = size + 2 * QUIET.qr;
  return { width: side, height: side, d: runs.join('') };
}

function drawBars(text: string): DrawnCode | NoCode {
  // eslint-disable-next-line no-control-regex -- Code 128 has signs for all of ASCII.
  if (!/^[\u0000-\u007f]+$/.test(text)) return 'letters';
  if (text.length > BARS_MOST) return 'too-long';
  const { data } = new Code128(text, {}).encode();
  const runs = [...data.matchAll(/1+/g)].map(
    (run) => `M${run.index + QUIET.code128} 0h${run[0].length}v1h-${run[0].length}z`,
  );
  return { width: data.length + 2 * QUIET.code128, height: 1, d: runs.join('') };
}

/** The code as an SVG picture that fills whatever room it is given; bars are stretched upwards. */
export const codeSvg = ({ width, height, d }: DrawnCode, colour: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" preserveAspectRatio="${height === 1 ? 'none' : 'xMidYMid meet'}" shape-rendering="crispEdges"><path fill="${colour}" d="${d}"/></svg>`;
