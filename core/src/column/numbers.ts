/** Signs that stand between thousands: none, a space of any kind, an apostrophe, or the other sign of the pair. */
const THOUSANDS = {
  '.': `[,\\u0020\\u00a0\\u202f\\u2009'’]`,
  ',': `[.\\u0020\\u00a0\\u202f\\u2009'’]`,
} as const;

const patterns = {
  '.': new RegExp(`^[+\\-−]?(?:\\d{1,3}(?:${THOUSANDS['.']}\\d{3})+|\\d+)(?:\\.\\d+)?$|^[+\\-−]?\\.\\d+$`),
  ',': new RegExp(`^[+\\-−]?(?:\\d{1,3}(?:${THOUSANDS[',']}\\d{3})+|\\d+)(?:,\\d+)?$|^[+\\-−]?,\\d+$`),
} as const;

/** Signs of a number; what is longer is a text that happens to be made of digits. */
const LONGEST = 100;

/**
 * The number that a text means, in plain decimal notation with a full stop, or null where it is none. `1 234,50` with a
 * decimal comma gives `1234.50`. A text with leading zeros (`00123`) is no number but a name made of digits.
 */
export function readNumber(text: string, decimal: '.' | ',' = '.'): string | null {
  const trimmed = text.trim();
  if (trimmed.length > LONGEST || !patterns[decimal].test(trimmed)) return null;
  if (/^[+\-−]?0\d/.test(trimmed)) return null;
  const [whole = '', fraction] = trimmed.split(decimal === '.' ? /\.(?=[^.]*$)/ : /,(?=[^,]*$)/);
  const digits =
    whole
      .replace(/−/, '-')
      .replace(/^\+/, '')
      .replace(/[^\d-]/g, '') || '0';
  return `${digits === '-' ? '-0' : digits}${fraction === undefined ? '' : `.${fraction}`}`;
}

/** The percentage that a text means, as percent of 100: `45 %` gives `45`. Null where it is none. */
export function readPercentage(text: string, decimal: '.' | ',' = '.'): string | null {
  const [, inner] = /^(.*?)\s*[%٪]$/.exec(text.trim()) ?? [];
  return inner === undefined ? null : readNumber(inner, decimal);
}

/**
 * The decimal sign that a set of texts uses: the one under which more of them are numbers; a full stop where they do not
 * differ. `1,234` alone counts for neither.
 */
export function guessDecimal(texts: Iterable<string>): '.' | ',' {
  let stops = 0;
  let commas = 0;
  for (const text of texts) {
    const bare = text.trim().replace(/\s*%$/, '');
    if (!/^[+\-−]?[\d.,\s'’]*\d$/.test(bare) || !/[.,]/.test(bare)) continue;
    if (/^[+\-−]?\d{1,3}[.,]\d{3}$/.test(bare)) continue;
    if (readNumber(bare, '.') !== null) stops++;
    else if (readNumber(bare, ',') !== null) commas++;
  }
  return commas > stops ? ',' : '.';
}
