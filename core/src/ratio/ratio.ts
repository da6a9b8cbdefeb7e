import Fraction from 'fraction.js';
import type { Rounding, RoundingMode } from '../column/index.js';

/**
 * An exact number: a ratio of two whole numbers of any length (`fraction.js`). Thirds stay thirds, and 0.1 is a tenth;
 * nothing is lost before a result is rounded for people.
 */
export type Ratio = Fraction;

export const ZERO: Ratio = new Fraction(0);
export const ONE: Ratio = new Fraction(1);
export const HUNDRED: Ratio = new Fraction(100);

const known = new Map<string, Ratio>();

/** The number that a text in plain decimal notation means: `-12.5`. Texts of other forms throw. */
export function ratio(decimal: string): Ratio {
  let value = known.get(decimal);
  if (!value) {
    if (!/^-?\d+(?:\.\d+)?$/.test(decimal)) throw new RangeError(`No plain number: ${decimal}`);
    value = new Fraction(decimal);
    if (known.size > 50_000) known.clear();
    known.set(decimal, value);
  }
  return value;
}

/** The ratio of two whole numbers, the second above zero. */
export const ratioOf = (n: bigint, d: bigint): Ratio => new Fraction(n, d);

const wholes: Ratio[] = [];

/** A whole number from 0 up. */
export const wholeRatio = (n: number): Ratio => (wholes[n] ??= new Fraction(n));

/** A number as programs write it, perhaps with a power of ten: `1.5E-3`. Null beyond 308 places either way. */
export function scientific(written: string): Ratio | null {
  const [, sign, whole = '', fraction = '', power = '0'] =
    /^([+-]?)(\d*)(?:\.(\d*))?(?:e([+-]?\d{1,4}))?$/i.exec(written) ?? [];
  if (sign === undefined || whole + fraction === '' || Math.abs(Number(power)) > 308) return null;
  const digits = BigInt(whole + fraction) * (sign === '-' ? -1n : 1n);
  const places = Number(power) - fraction.length;
  return places >= 0 ? ratioOf(digits * 10n ** BigInt(places), 1n) : ratioOf(digits, 10n ** BigInt(-places));
}

/** The root of a number where it is a ratio of two whole numbers: of 2.25 the second is 1.5. Null where it is not. */
export function exactRoot(value: Ratio, degree: number): Ratio | null {
  if (value.s < 0n && degree % 2 === 0) return null;
  const n = wholeRoot(value.n, degree);
  const d = n === null ? null : wholeRoot(value.d, degree);
  return n === null || d === null ? null : ratioOf(value.s < 0n ? -n : n, d);
}

/** By Newton's method from above, in whole numbers. */
function wholeRoot(value: bigint, degree: number): bigint | null {
  if (value < 2n) return value;
  const by = BigInt(degree);
  let root = 1n << BigInt(Math.ceil(value.toString(2).length / degree));
  for (;;) {
    const next = ((by - 1n) * root + value / root ** (by - 1n)) / by;
    if (next >= root) break;
    root = next;
  }
  return root ** by === value ? root : null;
}

const powers = Array.from({ length: 40 }, (_, n) => 10n ** BigInt(n));

/**
 * Rounds to decimal places, as a text with exactly that many: IEEE 754-2019, 4.3, on the exact value. A result of zero
 * has no sign.
 */
export function roundRatio(value: Ratio, { places, mode }: Rounding): string {
  const scaled = value.n * powers[places]!;
  let whole = scaled / value.d;
  const twice = (scaled % value.d) * 2n;
  if (twice !== 0n && goesUp(twice, value.d, whole, mode)) whole += 1n;
  return placePoint(whole, places, value.s < 0n);
}

function goesUp(twice: bigint, d: bigint, whole: bigint, mode: RoundingMode): boolean {
  switch (mode) {
    case 'half up':
      return twice >= d;
    case 'half even':
      return twice > d || (twice === d && whole % 2n === 1n);
    case 'down':
      return false;
    case 'up':
      return true;
  }
}

function placePoint(whole: bigint, places: number, negative: boolean): string {
  const sign = negative && whole !== 0n ? '-' : '';
  if (places === 0) return `${sign}${whole}`;
  const digits = String(whole).padStart(places + 1, '0');
  return `${sign}${digits.slice(0, -places)}.${digits.slice(-places)}`;
}

/** The number for reading: at most `places` decimal places, without zeros at the end; `≈` where that is not all of it. */
export function plainRatio(value: Ratio, places = 4): string {
  const text = roundRatio(value, { places, mode: 'half up' });
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return ratio(text).equals(value) ? short : `≈${short}`;
}

/** The number as a double; exact where a double can be. */
export const nearest = (value: Ratio): number => value.valueOf();

/** The same number in plain decimal notation, to 34 significant digits (decimal128, IEEE 754-2019, 3.6). */
export function decimalOf(value: Ratio): string {
  for (const places of [0, 1, 2, 4, 8, 12, 20, 34]) {
    const text = roundRatio(value, { places, mode: 'half even' });
    if (ratio(text).equals(value)) return text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  }
  return roundRatio(value, { places: 34, mode: 'half even' });
}

/** The sum, 0 for none. @throws TooLong */
export function sum(values: Iterable<Ratio>): Ratio {
  // Over a common denominator where it is the same, which most are.
  const wholes = new Map<bigint, bigint>();
  for (const { s, n, d } of values) wholes.set(d, (wholes.get(d) ?? 0n) + s * n);
  let parts = Array.from(wholes, ([d, n]) => ratioOf(n, d));
  // Two by two, so that numbers stay short for as long as they can.
  while (parts.length > 1) {
    const next: Ratio[] = [];
    for (let at = 0; at < parts.length; at += 2) {
      const pair = parts[at + 1] ? parts[at]!.add(parts[at + 1]!) : parts[at]!;
      if (pair.d >= LONGEST) throw new TooLong();
      next.push(pair);
    }
    parts = next;
  }
  return parts[0] ?? ZERO;
}

/** Bits that a denominator of a sum may have; common denominators of marks have some dozens. */
const LONGEST = 1n << 4096n;

/** Numbers that have become too long to reckon with exactly. */
export class TooLong extends RangeError {
  override name = 'TooLong';
}

/** A decimal text with the sign that people use: `12,5`. */
export const withSign = (text: string, decimal: '.' | ',' = '.'): string =>
  decimal === ',' ? text.replace('.', ',') : text;
