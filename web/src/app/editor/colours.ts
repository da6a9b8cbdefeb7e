import type { Letterhead } from '@scriptum/core/template';

/** Colours of the paper, with their names. */
export const COLOURS = [
  ['#000000', 'Black'],
  ['#22303C', 'Ink'],
  ['#55636E', 'Slate'],
  ['#1D6B61', 'Verdigris'],
  ['#35588A', 'Woad'],
  ['#A63D40', 'Madder'],
  ['#8F5B0C', 'Ochre'],
  ['#5B3A78', 'Plum'],
] as const;

/** The house's own colours before those that everybody has. */
export const coloursWith = (letterhead: Letterhead | null): (readonly [string, string])[] => {
  const own = (letterhead?.colours ?? []).map(({ name, value }) => [value.toUpperCase(), name] as const);
  const known = new Set(own.map(([value]) => value));
  return [...own, ...COLOURS.filter(([value]) => !known.has(value))];
};
