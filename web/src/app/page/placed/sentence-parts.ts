import type { SentenceOption, SentencePart } from '../../ui/sentence/sentence-piece';

/** Colours that can be chosen: their values and names. */
export type NamedColours = readonly (readonly [value: string, name: string])[];

/** A part in which one of some options stands. */
export function choice(
  id: string,
  label: string,
  value: string,
  options: readonly (readonly [value: string, label: string, hint?: string])[],
): SentencePart {
  const known = options.find(([one]) => one === value);
  return {
    id,
    label,
    text: known?.[1] ?? value,
    value,
    options: options.map(([one, text, hint]): SentenceOption => ({
      value: one,
      label: text,
      ...(hint ? { hint } : {}),
    })),
  };
}

/** A part in which a number with its unit stands; any number can be typed. */
export function measure(
  id: string,
  label: string,
  value: number,
  unit: string,
  offers: readonly number[],
): SentencePart {
  const said = (n: number): string => `${n} ${unit}`.trim();
  return {
    id,
    label,
    text: said(value),
    value: String(value),
    options: offers.map((n) => ({ value: String(n), label: said(n) })),
    typed: unit === '' ? 'This number' : `So many ${unit}`,
  };
}

/** A part in which a colour stands; any other can be typed as `#1D6B61`. */
export function colourPart(
  id: string,
  label: string,
  value: string | undefined,
  colours: NamedColours,
  none?: string,
): SentencePart {
  const name = colours.find(([one]) => one.toUpperCase() === value?.toUpperCase())?.[1];
  return {
    id,
    label,
    text: value === undefined ? (none ?? 'none') : (name ?? value),
    value: value ?? '',
    options: [
      ...(none === undefined ? [] : [{ value: '', label: none }]),
      ...colours.map(([one, text]) => ({ value: one, label: text })),
    ],
    typed: 'This colour, as #1D6B61',
  };
}

/** A number that was typed or chosen, within its bounds; null where it is none. */
export function numberIn(value: string, least: number, most: number): number | null {
  const text = value
    .trim()
    .replace(',', '.')
    .replace('\u2212', '-')
    .replace(/\s*(?:mm|pt|%|°)$/, '');
  const n = Number(text);
  return text !== '' && Number.isFinite(n) && n >= least && n <= most ? n : null;
}

/** A colour that was typed or chosen, as `#rrggbb`; null where it is none. */
export const colourIn = (value: string): string | null => {
  const hex = value.trim().replace(/^#?/, '#').toUpperCase();
  if (/^#[0-9A-F]{3}$/.test(hex)) return `#${[...hex.slice(1)].map((one) => one + one).join('')}`;
  return /^#[0-9A-F]{6}$/.test(hex) ? hex : null;
};
