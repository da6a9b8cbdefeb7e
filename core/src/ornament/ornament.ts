import { z } from 'zod';

const Hex = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written #rrggbb.');

/** How the lines of every ornament look. */
const drawn = {
  colour: Hex,
  /** Of its second lines; the first colour where nothing is said. */
  second: Hex.optional(),
  /** Thickness of its lines in millimetres. */
  weight: z.number().min(0.05).max(2),
  /** How strongly it is printed: 1 in full, 0.1 as a breath behind text. */
  strength: z.number().min(0.05).max(1),
};

/** A band around the edge of its box. */
const Border = z.object({
  kind: z.literal('border'),
  pattern: z.enum(['interlace', 'rules', 'twist', 'beads', 'steps', 'leaves']),
  /** Width of the band in millimetres. */
  size: z.number().min(0.5).max(40),
  /** Radius of its corners in millimetres. */
  radius: z.number().min(0).max(60),
  ...drawn,
});

/** A piece in each corner of its box. */
const Corners = z.object({
  kind: z.literal('corners'),
  pattern: z.enum(['curl', 'fan', 'steps', 'sprig']),
  /** Length along the edge in millimetres. */
  size: z.number().min(4).max(150),
  ...drawn,
});

/** Rings of interlaced waves around the middle of its box. */
const Rosette = z.object({
  kind: z.literal('rosette'),
  pattern: z.enum(['petals', 'rings', 'star']),
  /** Petals or points. */
  count: z.number().int().min(3).max(48),
  ...drawn,
});

/** Waves across its box, from one side to the other. */
const Waves = z.object({
  kind: z.literal('waves'),
  pattern: z.enum(['braid', 'swell', 'ground']),
  /** Waves from side to side. */
  count: z.number().int().min(1).max(80),
  ...drawn,
});

/** A round mark with points or scallops, and what stands in it. */
const Seal = z.object({
  kind: z.literal('seal'),
  pattern: z.enum(['scalloped', 'pointed', 'ribbons']),
  count: z.number().int().min(8).max(80),
  ...drawn,
});

/** Two branches that bend around the middle of its box. */
const Laurel = z.object({
  kind: z.literal('laurel'),
  pattern: z.enum(['leaves', 'oak', 'outline']),
  /** Pairs of leaves on each branch. */
  count: z.number().int().min(4).max(24),
  ...drawn,
});

/** A rule across its box with something in its middle. */
const Divider = z.object({
  kind: z.literal('divider'),
  pattern: z.enum(['diamond', 'curls', 'taper', 'dots']),
  ...drawn,
});

/**
 * An ornament that is drawn from its numbers, as large as the box that it stands in. Lines only and no pictures, so that
 * it is light to print and sharp at any size.
 */
export const Ornament = z
  .discriminatedUnion('kind', [Border, Corners, Rosette, Waves, Seal, Laurel, Divider])
  .meta({ id: 'Ornament' });
export type Ornament = z.infer<typeof Ornament>;
export type OrnamentKind = Ornament['kind'];
export type OrnamentOf<Kind extends OrnamentKind> = Extract<Ornament, { kind: Kind }>;

/** The patterns of each kind, the first one of which it begins with. */
export const ORNAMENT_PATTERNS: {
  readonly [Kind in OrnamentKind]: readonly OrnamentOf<Kind>['pattern'][];
} = {
  border: Border.shape.pattern.options,
  corners: Corners.shape.pattern.options,
  rosette: Rosette.shape.pattern.options,
  waves: Waves.shape.pattern.options,
  seal: Seal.shape.pattern.options,
  laurel: Laurel.shape.pattern.options,
  divider: Divider.shape.pattern.options,
};

const LOOK = { colour: '#1D6B61', second: '#8F5B0C', weight: 0.2, strength: 1 } as const;

/** What an ornament of a kind begins with. */
export const FIRST_ORNAMENTS: { readonly [Kind in OrnamentKind]: OrnamentOf<Kind> } = {
  border: { kind: 'border', pattern: 'interlace', size: 8, radius: 10, ...LOOK },
  corners: { kind: 'corners', pattern: 'curl', size: 30, ...LOOK, weight: 0.5 },
  rosette: { kind: 'rosette', pattern: 'petals', count: 12, ...LOOK, strength: 0.3 },
  waves: { kind: 'waves', pattern: 'braid', count: 12, ...LOOK },
  seal: { kind: 'seal', pattern: 'scalloped', count: 36, ...LOOK, weight: 0.3 },
  laurel: { kind: 'laurel', pattern: 'leaves', count: 11, ...LOOK, weight: 0.3 },
  divider: { kind: 'divider', pattern: 'diamond', ...LOOK, weight: 0.3 },
};
