import { analyse } from 'chardet';

/**
 * The ways in which files write letters, by their names in the WHATWG Encoding Standard, with what people call them. CP850 is
 * not in that standard; old programs for Western letters write it.
 */
export const ENCODINGS = [
  { id: 'utf-8', name: 'Unicode (UTF-8)' },
  { id: 'utf-16le', name: 'Unicode (UTF-16 LE)' },
  { id: 'utf-16be', name: 'Unicode (UTF-16 BE)' },
  { id: 'windows-1252', name: 'Western (Windows-1252)' },
  { id: 'iso-8859-15', name: 'Western (ISO 8859-15)' },
  { id: 'macintosh', name: 'Western (Mac Roman)' },
  { id: 'cp850', name: 'Western (CP850)' },
  { id: 'windows-1250', name: 'Central European (Windows-1250)' },
  { id: 'iso-8859-2', name: 'Central European (ISO 8859-2)' },
  { id: 'windows-1251', name: 'Cyrillic (Windows-1251)' },
  { id: 'windows-1253', name: 'Greek (Windows-1253)' },
  { id: 'windows-1254', name: 'Turkish (Windows-1254)' },
  { id: 'windows-1255', name: 'Hebrew (Windows-1255)' },
  { id: 'windows-1256', name: 'Arabic (Windows-1256)' },
  { id: 'koi8-r', name: 'Cyrillic (KOI8-R)' },
  { id: 'windows-1257', name: 'Baltic (Windows-1257)' },
  { id: 'shift_jis', name: 'Japanese (Shift JIS)' },
  { id: 'euc-jp', name: 'Japanese (EUC-JP)' },
  { id: 'euc-kr', name: 'Korean (EUC-KR)' },
  { id: 'gb18030', name: 'Chinese (GB 18030)' },
  { id: 'big5', name: 'Chinese (Big5)' },
] as const;

export type EncodingName = (typeof ENCODINGS)[number]['id'];

export const encodingName = (id: EncodingName): string => ENCODINGS.find((one) => one.id === id)!.name;

/** The upper half of CP850: Unicode Consortium, VENDORS/MICSFT/PC/CP850.TXT. */
const CP850 =
  'ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜø£Ø×ƒáíóúñÑªº¿®¬½¼¡«»░▒▓│┤ÁÂÀ©╣║╗╝¢¥┐└┴┬├─┼ãÃ╚╔╩╦╠═╬¤ðÐÊËÈıÍÎÏ┘┌█▄¦Ì▀ÓßÔÒõÕµþÞÚÛÙýÝ¯´\u00ad±‗¾¶§÷¸°¨·¹³²■\u00a0';

/** 0x80 to 0x9F in Windows-1252 (WHATWG Encoding, index windows-1252); some engines decode them as ISO 8859-1. */
const WINDOWS_1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Turns bytes into text. What has no meaning in the encoding becomes U+FFFD, and nothing else is touched by it. */
export function decodeBytes(bytes: Uint8Array, encoding: EncodingName): string {
  if (encoding === 'cp850')
    return new TextDecoder('iso-8859-1')
      .decode(bytes)
      .replace(/[\u0080-\uffff]/g, (sign) => CP850[(bytesOf(sign) & 0xff) - 0x80]!);
  const text = new TextDecoder(encoding).decode(bytes);
  return encoding === 'windows-1252'
    ? text.replace(/[\u0080-\u009f]/g, (sign) => WINDOWS_1252[sign.charCodeAt(0) - 0x80]!)
    : text;
}

/** The byte that the decoder of ISO 8859-1, which is Windows-1252 by the standard, made a sign of. */
function bytesOf(sign: string): number {
  const code = sign.charCodeAt(0);
  return code < 0x100 ? code : 0x80 + WINDOWS_1252.indexOf(sign);
}

/** What is known of how a text was written. */
export interface Detected {
  readonly encoding: EncodingName;
  /** `said`: by its first bytes. `certain`: only UTF-8 reads so. `plain`: it has no letters that could differ. */
  readonly how: 'said' | 'certain' | 'plain' | 'guessed';
}

/**
 * Finds out how a text is written. A byte order mark says so; UTF-16 without one shows in its zero bytes; what is valid UTF-8
 * is that, and what is so but for a few bytes is that too; else statistics of languages decide (`chardet`), and for Western
 * letters which of the old programs they make words for.
 */
export function detectEncoding(bytes: Uint8Array): Detected {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', how: 'said' };
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', how: 'said' };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', how: 'said' };
  const wide = wideOf(bytes.subarray(0, 4096));
  if (wide) return { encoding: wide, how: 'certain' };
  const high = highBytes(bytes);
  if (high.length === 0) return { encoding: 'utf-8', how: 'plain' };
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return { encoding: 'utf-8', how: 'certain' };
  } catch {
    // Some bytes are not.
  }
  const text = new TextDecoder('utf-8').decode(bytes);
  const bad = text.split('\ufffd').length - 1;
  // A letter of UTF-8 has two bytes or more, which other encodings hardly ever make by chance.
  const good = text.match(/[^\p{ASCII}\ufffd]/gu)?.length ?? 0;
  if (good >= bad * 3) return { encoding: 'utf-8', how: 'guessed' };
  return { encoding: guessOther(bytes, high), how: 'guessed' };
}

function wideOf(sample: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  let even = 0;
  let odd = 0;
  sample.forEach((byte, i) => {
    if (byte === 0) {
      if (i % 2 === 0) even++;
      else odd++;
    }
  });
  const pairs = sample.length / 2;
  if (odd > pairs * 0.4 && even < pairs * 0.1) return 'utf-16le';
  if (even > pairs * 0.4 && odd < pairs * 0.1) return 'utf-16be';
  return null;
}

/** The lines that have a byte above 0x7F, up to some hundred kilobytes: what statistics can tell anything from. */
function highBytes(bytes: Uint8Array): Uint8Array {
  const most = 200_000;
  const kept = new Uint8Array(Math.min(bytes.length, most));
  let size = 0;
  for (let from = 0; from < bytes.length && size < most;) {
    let to = from;
    let high = false;
    while (to < bytes.length && bytes[to] !== 0x0a) {
      if (bytes[to]! >= 0x80) high = true;
      to++;
    }
    if (high) {
      const line = bytes.subarray(from, Math.min(to + 1, from + most - size));
      kept.set(line, size);
      size += line.length;
    }
    from = to + 1;
  }
  return kept.subarray(0, size);
}

const WIDE: Readonly<Record<string, EncodingName>> = {
  Shift_JIS: 'shift_jis',
  'EUC-JP': 'euc-jp',
  'EUC-KR': 'euc-kr',
  GB18030: 'gb18030',
  Big5: 'big5',
};
const NARROW: Readonly<Record<string, EncodingName>> = {
  'windows-1250': 'windows-1250',
  'windows-1251': 'windows-1251',
  'windows-1253': 'windows-1253',
  'windows-1254': 'windows-1254',
  'ISO-8859-2': 'iso-8859-2',
  'windows-1255': 'windows-1255',
  'windows-1256': 'windows-1256',
  'ISO-8859-7': 'windows-1253',
  'ISO-8859-8': 'windows-1255',
  'ISO-8859-9': 'windows-1254',
  'KOI8-R': 'koi8-r',
};

function guessOther(bytes: Uint8Array, high: Uint8Array): EncodingName {
  const found = analyse(high);
  const wide = found.find(({ name }) => WIDE[name] !== undefined);
  if (wide && wide.confidence >= 50) {
    const encoding = WIDE[wide.name]!;
    if (!decodeBytes(high, encoding).includes('\ufffd')) return encoding;
  }
  const western = bestWestern(high);
  if (western !== 'windows-1252') return western;
  const top = found.find(
    ({ name }) => NARROW[name] !== undefined || name === 'windows-1252' || name === 'ISO-8859-1',
  );
  const narrow = top && NARROW[top.name];
  if (!narrow) return 'windows-1252';
  // ISO 8859-2 has control signs where Windows-1250 has letters.
  if (narrow === 'iso-8859-2')
    return bytes.some((byte) => byte >= 0x80 && byte < 0xa0) ? 'windows-1250' : narrow;
  return narrow;
}

/** Letters that stand in words as letters do: beside other letters, small ones after small ones. */
function likeliness(text: string): number {
  let score = 0;
  for (const { index, 0: sign } of text.matchAll(/\P{ASCII}/gu)) {
    const before = text[index - 1] ?? ' ';
    const after = text[index + sign.length] ?? ' ';
    const inWord = /[A-Za-z]/.test(before) || /[A-Za-z]/.test(after);
    if (!/\p{L}/u.test(sign)) score -= inWord ? 2 : 0;
    else if (/\p{Lu}/u.test(sign) && /[a-z]/.test(before)) score -= 1;
    else if (inWord) score += 1;
  }
  return score;
}

/** Which of the encodings for Western letters makes words of the bytes; Windows-1252 where they do not differ. */
function bestWestern(high: Uint8Array): 'windows-1252' | 'macintosh' | 'cp850' {
  let best: 'windows-1252' | 'macintosh' | 'cp850' = 'windows-1252';
  let bestScore = likeliness(decodeBytes(high, best));
  for (const encoding of ['macintosh', 'cp850'] as const) {
    const score = likeliness(decodeBytes(high, encoding));
    if (score > bestScore + 1) {
      best = encoding;
      bestScore = score;
    }
  }
  return best;
}
